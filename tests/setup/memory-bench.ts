import { shippedGuides } from '#core/phones/guides/index.ts'
import { LinkError, OutcomeUnknown, type Endpoint, type Transport } from '#server/endpoints/endpoint.ts'

/** A transport of the tests’ own, in fifty lines: what each of its phones holds is here, and in nobody’s database. */
export const held = new Map<string, Map<string, string>>()
export const models: Record<string, string> = { 'MEM-O': 'Orrin 5', 'MEM-N': 'Orrin 9' }
let ids = 0

const every = [...new Set(shippedGuides.flatMap((part) => (part.needs ?? []).map(({ code }) => code)))]
const facts = (serial: string) => ({
  ...{ serial, maker: 'Orrin', model: models[serial]!, platform: 'android' as const, version: '13', region: 'GB', zone: 'Europe/London' },
  ...{ batteryPercent: 90, isCharging: true, freeBytes: 9e9, totalBytes: 9e9, temperatureC: 25, settleMs: 0, bytesPerSecond: 9e7 },
  hasWorkArea: false,
})
/** At which station each phone lies; whatever is not named is at every one. */
export const lies = new Map<string, string>()
export const memoryAt = (station: string): Transport => ({
  code: 'memory',
  ports: async () =>
    here(station).map((serial, i) => ({
      ...{ port: i + 1, drawsPower: true },
      phone: { facts: facts(serial), readiness: every.map((need) => ({ need, isMet: true })), asks: null, speaks: true },
    })),
  async *watch() {},
  endpoint(serial): Endpoint {
    const cards = held.get(serial)!
    const mustBeHere = () => {
      if (!here(station).includes(serial)) throw new LinkError('NotPlugged')
    }
    const revision = () => [...cards.keys()].join()
    const source = {
      count: async () => ({ items: cards.size, bytes: 0, derived: 0, derivedOf: {}, revision: revision(), also: {} }),
      async *list() {
        mustBeHere()
        for (const [id, card] of cards) yield { id, revision: '1', storage: 'phone', body: Buffer.from(card).toString('base64') }
        return { count: cards.size, revision: revision() }
      },
      openFile: () => nothing(),
    }
    const write = async (_: string, records: readonly Uint8Array[]) => {
      if (!here(station).includes(serial)) throw new OutcomeUnknown('NotPlugged')
      return records.map((record) => (cards.set(`m${++ids}`, Buffer.from(record).toString()), { ids: [`m${ids}`] }))
    }
    const remove = async (_: string, gone: readonly string[]) => gone.filter((id) => cards.delete(id))
    const open = async (_: string, id: string) => ({ body: Buffer.from(cards.get(id)!).toString('base64'), revision: '1' })
    const sink = { write, remove, open, putFile: () => nothing(), amend: () => nothing() }
    const attach = async () => (mustBeHere(), { source, sink, place: async () => facts(serial) })
    return { attach, body: null }
  },
})
const here = (station: string) => [...held.keys()].filter((serial) => (lies.get(serial) ?? station) === station)
const nothing = (): never => {
  throw new Error('contacts without files ask for none')
}

export const card = (name: string, n: number) =>
  `BEGIN:VCARD\r\nVERSION:2.1\r\nN:Shore;${name};;;\r\nTEL;CELL:+4477009004${n}\r\nEND:VCARD\r\n`
