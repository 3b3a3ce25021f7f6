import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { openApi } from '#contracts/http/openapi.ts'
import { pathOf } from '#contracts/http/paths.ts'
import { route } from '#contracts/http/route.ts'
import { allRoutes } from '#contracts/http/routes.ts'

const drawn = JSON.parse(JSON.stringify(openApi()))

interface Operation {
  readonly operationId: string
  readonly parameters: readonly { readonly in: string; readonly name: string }[]
}

describe('the interface as a document', () => {
  it('is the one in docs (npx tsx scripts/openapi.ts draws it anew)', () => {
    expect(JSON.parse(readFileSync('docs/openapi.json', 'utf8'))).toEqual(drawn)
  })

  it('names every call once, each with all its parameters, and no reference leads nowhere', () => {
    const calls = Object.entries(drawn.paths as Record<string, Record<string, Operation>>).flatMap(([path, methods]) =>
      Object.values(methods).map((operation) => ({ path, operation })),
    )
    expect(calls.map(({ operation }) => operation.operationId).sort()).toEqual(allRoutes.map(([name]) => name).sort())
    for (const { path, operation } of calls) {
      const inPath = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1])
      expect(operation.parameters.filter(({ in: where }) => where === 'path').map(({ name }) => name)).toEqual(inPath)
    }
    for (const [, name] of JSON.stringify(drawn).matchAll(/"\$ref":"#\/components\/responses\/(\w+)"/g))
      expect(drawn.components.responses).toHaveProperty(name!)
  })

  it('every call stands in the table people read', () => {
    const table = readFileSync('docs/http.md', 'utf8')
    const lastOf = (path: string) =>
      path
        .replace(/\/\{\w+\*?\}$/, '')
        .split('/')
        .at(-1)!
    expect(allRoutes.map(([, { path }]) => lastOf(path)).filter((word) => !table.includes(word))).toEqual([])
  })

  it('no two calls are reached by one path and method, and each is reached by its own', () => {
    const shapes = allRoutes.map(([, { method, path }]) => `${method} ${path.replace(/\{\w+\*?\}/g, '{}')}`)
    expect(new Set(shapes).size).toBe(shapes.length)
  })

  it('a path is made from its parameters, each in its own form', () => {
    const { path } = route({ method: 'GET', path: '/api/a/{x}/b/{rest*}', says: '' })
    expect(pathOf(path, { x: 'ä/b', rest: 'c/d e' })).toBe('/api/a/%C3%A4%2Fb/b/c/d%20e')
    expect(() => pathOf(path, { x: '', rest: 'c' })).toThrow('lacks x')
  })
})
