import { z } from 'zod'
import { errors } from '../errors.ts'
import { allRoutes } from './routes.ts'
import type { Route } from './route.ts'

type Json = Readonly<Record<string, unknown>>

// what JSON Schema can't say (a refinement, a transformation) is said by the sentence of the refusal
const schemaOf = (schema: z.ZodType, io: 'input' | 'output') =>
  z.toJSONSchema(schema, { io, unrepresentable: 'any', reused: 'inline' }) as Json

function parametersOf(route: Route): Json[] {
  const fields = (schema: z.ZodType, place: 'path' | 'query') => {
    const { properties = {} } = schemaOf(schema, 'input') as { properties?: Record<string, Json> }
    return Object.entries(properties).map(([name, field]) => ({ name, in: place, required: place === 'path', schema: field }))
  }
  return [...fields(route.params, 'path'), ...fields(route.query, 'query')]
}

const sent: Readonly<Record<Route['sends'], (route: Route) => Json>> = {
  json: (route) => ({ 'application/json': { schema: schemaOf(route.reply, 'input') } }),
  bytes: () => ({ 'application/octet-stream': {} }),
  events: () => ({ 'text/event-stream': {} }),
}

function operationOf(name: string, route: Route): Json {
  return {
    operationId: name,
    summary: route.says,
    security: route.needs === 'nobody' ? [] : [{ session: [] }, { token: [] }],
    parameters: parametersOf(route),
    ...(route.takes === 'json'
      ? { requestBody: { required: true, content: { 'application/json': { schema: schemaOf(route.body, 'input') } } } }
      : route.takes === 'bytes'
        ? { requestBody: { required: true, content: { 'application/octet-stream': {} } } }
        : {}),
    responses: {
      [route.status]: { description: 'Done.', content: sent[route.sends](route) },
      default: { $ref: '#/components/responses/Problem' },
    },
  }
}

let drawn: Json | undefined

/** The whole interface as an OpenAPI 3.1 document, drawn from its contracts. */
export function openApi(): Record<string, unknown> {
  drawn ??= draw()
  return drawn as Record<string, unknown>
}

function draw(): Json {
  const paths: Record<string, Record<string, Json>> = {}
  for (const [name, route] of allRoutes)
    (paths[route.path.replace('*}', '}')] ??= {})[route.method.toLowerCase()] = operationOf(name, route)
  return {
    openapi: '3.1.0',
    info: { title: 'Corvend', version: '1', description: 'The HTTP interface of Corvend. Failures are problem documents (RFC 9457).' },
    paths,
    components: {
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'corvend_session' },
        token: { type: 'http', scheme: 'bearer' },
      },
      responses: {
        Problem: {
          description: 'What went wrong, with a sentence a technician can act on.',
          content: {
            'application/problem+json': {
              schema: {
                type: 'object',
                required: ['type', 'title', 'status', 'code'],
                properties: {
                  type: { type: 'string' },
                  title: { type: 'string' },
                  status: { type: 'integer' },
                  code: { enum: Object.keys(errors) },
                  fields: { type: 'array', items: { type: 'string' } },
                },
              },
            },
          },
        },
      },
    },
  }
}
