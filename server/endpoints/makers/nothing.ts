import { LinkError, type Endpoint } from '../endpoint.ts'

/** Where nothing stands over against a copy that is looked into: a place that holds nothing and takes nothing. */
export function emptyEndpoint(serial: string): Endpoint {
  const revision = 'none'
  return {
    body: null,
    attach: async () => ({
      source: {
        count: async () => ({ items: 0, bytes: 0, derived: 0, derivedOf: {}, revision, also: {} }),
        async *list() {
          return { count: 0, revision }
        },
        openFile: () => {
          throw new LinkError('NoSuchRecord')
        },
      },
      sink: null,
      place: async () => ({ serial, region: 'GB', zone: 'Europe/London', settleMs: 0 }),
    }),
  }
}
