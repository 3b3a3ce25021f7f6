import { z } from 'zod'
import type { Route } from '#contracts/http/route.ts'

/** What no field expects, and everybody who attacks a form tries. */
export const nastyValues: readonly unknown[] = [
  ...[null, true, false, 0, -0, -1, 1, 0.5, 1e21, -1e308, 2 ** 31 - 1, 2 ** 31, 2 ** 32, 2 ** 53, -(2 ** 63), Number.MAX_SAFE_INTEGER],
  ...['', ' ', '\t', '\n', '\r\n', '\0', 'a\0b', '\u202e', '\ud800', '\ufeff', '\u0301', '💥', 'ﬁ', 'İ'],
  ...['0', '-1', '1.5', '1e9', '0x10', '٣', 'NaN', 'Infinity', '99999999999999999999', '-9223372036854775809', '9223372036854775808'],
  ...['null', 'undefined', 'true', '[object Object]', '__proto__', 'constructor', 'prototype', 'toString', 'hasOwnProperty', 'valueOf'],
  ...["'", '"', "' or '1'='1", "'; drop table ticket; --", '$1', '%', '_', '\\', '\\x00', '{}', '[]', '{"a":1}'],
  ...['../../etc/passwd', '..%2f..%2f', '/', '//', 'C:\\', 'file:///etc/passwd', 'http://127.0.0.1:1/', 'javascript:alert(1)'],
  ...['<script>alert(1)</script>', '${7*7}', '{{7*7}}', '=1+1', '|id', '`id`', '%00', '%', '%zz', '+'],
  ...['old-0', 'old-4294967296', 'old--1', 'old-1e5', 'new-99999999999', 'old-', 'mid-1', 'T-0', 'T-0401', 'contacts', 'toys'],
  ...['2026', '0000', '9999-12', '2026-13', '0001-01', '10000-01', '2026-02-30', '0000-01-01T00:00:00Z', '9999-12-31T23:59:59Z'],
  ...['+010000-01-01T00:00:00Z', '2026-11-30T16:30:00+99:99', '1970-01-01', 'a'.repeat(10_000), '9'.repeat(400), 'é'.repeat(5000)],
  ...[[], {}, [null], [[]], { a: { b: {} } }, ['a', 1, null], { length: -1 }, { toString: 1 }, [{}], Array.from({ length: 6000 }, () => 0)],
  JSON.parse('{"__proto__":{"isAdmin":true}}'),
  JSON.parse('{"constructor":{"prototype":{"x":1}}}'),
]

type Schema = {
  type?: string
  enum?: unknown[]
  const?: unknown
  anyOf?: Schema[]
  properties?: Record<string, Schema>
  required?: string[]
  items?: Schema
  minItems?: number
  default?: unknown
  minimum?: number
  format?: string
  pattern?: string
}

/** Something a contract takes: what each field says of itself, filled in plainly. */
export function plainBody(schema: z.ZodType, known: Readonly<Record<string, unknown>> = {}): unknown {
  return fill(z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as Schema, '', known)
}

function fill(schema: Schema, name: string, known: Readonly<Record<string, unknown>>): unknown {
  if (name in known) return known[name]
  if (schema.const !== undefined) return schema.const
  if (schema.enum) return schema.enum[0]
  if (schema.default !== undefined) return schema.default
  if (schema.anyOf) return fill(schema.anyOf[0]!, name, known)
  if (schema.properties)
    return Object.fromEntries(Object.entries(schema.properties).map(([field, inner]) => [field, fill(inner, field, known)]))
  if (schema.type === 'array') return Array.from({ length: schema.minItems ?? 0 }, () => fill(schema.items ?? {}, `${name}[]`, known))
  if (schema.type === 'object') return {}
  if (schema.type === 'boolean') return false
  if (schema.type === 'number' || schema.type === 'integer') return Math.max(1, schema.minimum ?? 1)
  if (schema.format === 'date-time') return '2026-11-30T16:30:00Z'
  return 'x'
}

/** Where a value has fields: every path into it, the whole first. */
export function pathsOf(value: unknown, path: readonly (string | number)[] = []): (string | number)[][] {
  const inner =
    typeof value === 'object' && value !== null
      ? Object.entries(value).flatMap(([key, held]) => pathsOf(held, [...path, Array.isArray(value) ? Number(key) : key]))
      : []
  return [[...path], ...inner]
}

/** The value with something else at a path. */
export function withAt(value: unknown, [first, ...rest]: readonly (string | number)[], put: unknown): unknown {
  if (first === undefined) return put
  const copy = (Array.isArray(value) ? [...value] : { ...(value as object) }) as Record<string | number, unknown>
  copy[first] = withAt(copy[first], rest, put)
  return copy
}

/** The names of a path’s parameters. */
export const paramsOf = (route: Route) => [...route.path.matchAll(/\{(\w+)\*?\}/g)].map((match) => match[1]!)
