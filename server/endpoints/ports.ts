import type { PortView } from '#contracts/link/index.ts'
import { portsOfStation, type Station } from '../base/config.ts'
import { LinkError, type Endpoint } from './endpoint.ts'
import { transportOf } from './transports.ts'
import { patience } from '../base/patience.ts'
import { Problem } from '../base/problem.ts'
import type { Services } from '../base/services.ts'

/** A port by its number in the shop, and the station it is at. */
export interface BenchPort extends PortView {
  readonly station: string
}

/** All stations' ports, as one look found them. */
export interface Bench {
  readonly ports: readonly BenchPort[]
  /** Codes of the stations that answered. */
  readonly seen: readonly string[]
}

/** What stands in the ports of every station now; the ports of one that does not answer are empty. */
export async function readBench({ config: { stations } }: Pick<Services, 'config'>): Promise<Bench> {
  const looks = await Promise.all(stations.map((station) => lookAt(station, stations.length > 1)))
  const seen = looks.flatMap(({ station, isSeen }) => (isSeen ? [station.code] : []))
  return {
    ports: stations.length > 0 ? looks.flatMap(({ ports }) => ports) : emptyPorts({ code: '', firstPort: 1 }),
    seen,
  }
}

/** Until when a station that let everybody wait is not asked again, by its address: the other benches must not wait for it. */
const silentUntil = new Map<string, number>()

async function lookAt(station: Station, hasOthers: boolean): Promise<{ station: Station; ports: BenchPort[]; isSeen: boolean }> {
  const { code, firstPort, link } = station
  const unseen = { station, ports: emptyPorts(station), isSeen: false }
  const began = performance.now()
  if (hasOthers && began < (silentUntil.get(link.url) ?? 0)) return unseen
  try {
    const ports = (await transportOf(station).ports()).map((view) => ({ ...view, port: firstPort - 1 + view.port, station: code }))
    return { station, ports, isSeen: true }
  } catch {
    const now = performance.now()
    if (now - began > patience.bench.longMs) silentUntil.set(link.url, now + patience.bench.silentMs)
    return unseen
  }
}

function emptyPorts({ code, firstPort }: Pick<Station, 'code' | 'firstPort'>): BenchPort[] {
  return Array.from({ length: portsOfStation }, (_, i) => ({ port: firstPort + i, drawsPower: false, phone: null, station: code }))
}

/** Code of the station a phone lies at; undefined where no port has it. */
export function stationOf({ ports }: { readonly ports: readonly BenchPort[] }, serial: string | null): string | undefined {
  return serial === null ? undefined : ports.find(({ phone }) => phone?.facts.serial === serial)?.station
}

/**
 * A phone on the bench: at the station of this process where it has one, else wherever it lies.
 * @throws LinkError `NotPlugged`
 */
export async function findOnBench({ config }: Pick<Services, 'config'>, serial: string): Promise<Endpoint> {
  const { stations, station } = config
  const code = station ? station.code : stationOf(await readBench({ config }), serial)
  const found = stations.find((one) => one.code === code)
  if (!found) throw new LinkError('NotPlugged')
  return transportOf(found).endpoint(serial)
}

/** The phones that are seen, as a ticket names them. */
export function seenPhones({ ports }: { ports: readonly PortView[] }) {
  return ports.flatMap(({ phone }) => (phone ? [phone.facts] : []))
}

/** Makes the phone on a port show a mark, so that two of the same model can be told apart. @throws Problem `PortEmpty` and the link's own codes */
export async function markPort(services: Services, port: number, text: string): Promise<void> {
  const { ports } = await readBench(services)
  const view = ports.find((view) => view.port === port)
  const station = view?.phone && services.config.stations.find(({ code }) => code === view.station)
  const body = station && transportOf(station).endpoint(view.phone!.facts.serial).body
  if (!body) throw new Problem('PortEmpty')
  await body.mark(text).catch((error: unknown) => {
    throw error instanceof LinkError ? new Problem(error.code) : error
  })
}
