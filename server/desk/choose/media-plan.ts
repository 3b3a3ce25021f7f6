import type { MediaPlan } from '#contracts/http/media.ts'
import type { PhoneFacts, PortView } from '#contracts/link/index.ts'
import type { WayOut } from '#core/kinds/kind.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { durationOf } from '#core/plan/duration.ts'
import { newestYearsThatFit, spaceFor } from '#core/plan/space.ts'
import type { Client } from '../../base/db/sql.ts'
import type { KindRow, PhoneRow } from '../../case/tickets.queries.ts'
import { manyMediaPlans, manyRates, manyYears, oneWay } from '../../book/entries/media.queries.ts'

import { byKind } from '../by-kind.ts'

/** What a conversion grows and takes before one was measured. */
const assumedConversion = { ratio: 2.2, ms: 1300 }

export interface PlanPhones {
  /** As the bench sees them now; null while a phone is away. */
  readonly old: PhoneFacts | null
  readonly new: PhoneFacts | null
}

/** Of the forecasts, what the light kinds take. */
type Counts = readonly { readonly kind: string; readonly counts: { readonly carried: number; readonly changed: number } }[]

/**
 * Space and time of what is chosen and still waits: growth by conversion, the reserve a phone needs, a range of time
 * from the measured rates; and, when it does not fit, the ways out with their figures.
 */
export async function readMediaPlan(
  client: Client,
  kinds: readonly KindRow[],
  { forecasts, phones }: { forecasts: Counts; phones: PlanPhones },
): Promise<MediaPlan> {
  let [items, bytes, files, conversions, toConvert, growsBytes, conversionMs] = [0, 0, 0, 0, 0, 0, assumedConversion.ms]
  let isMeasured = false
  const media = kinds.filter(({ kind }) => kindOf(kind).isMedia)
  const planned = await plansOf(client, media)
  const plans = byKind(planned)
  const readings = media.flatMap(({ old_reading: id }) => (id === null ? [] : [id]))
  const rates = readings.length > 0 ? await manyRates(client, readings) : []
  const rate = readings.flatMap((id) => rates.filter((one) => one.id === id))[0]?.rate
  for (const row of kinds) {
    if (!kindOf(row.kind).isMedia) {
      const counts = forecasts.find((f) => f.kind === row.kind)?.counts
      items += counts ? counts.carried + counts.changed : 0
      continue
    }
    const [plan] = plans(row.kind)
    const { conversion } = row.measured
    if (conversion) [conversionMs, isMeasured] = [conversion.ms, true]
    if (!plan) continue
    bytes += plan.bytes
    files += plan.items
    conversions += plan.conversions
    toConvert += plan.to_convert
    growsBytes += Math.max(0, Math.round(plan.bytes_to_convert * ((conversion?.ratio ?? assumedConversion.ratio) - 1)))
  }
  const space = phones.new
    ? spaceFor({ freeBytes: phones.new.freeBytes, totalBytes: phones.new.totalBytes, chosenBytes: bytes, growsBytes })
    : null
  const duration = durationOf({
    items,
    bytes: bytes + growsBytes,
    files,
    conversions: toConvert,
    conversionMs,
    measuredBytesPerSecond: rate,
    cableBytesPerSecond: Math.min(...[phones.old, phones.new].map((facts) => facts?.bytesPerSecond || 30_000_000)),
    temperatureC: Math.max(...[phones.old, phones.new].map((facts) => facts?.temperatureC ?? 20)),
  })
  return {
    chosenBytes: bytes,
    growsBytes,
    files,
    freeBytes: phones.new?.freeBytes ?? null,
    space,
    duration,
    measuredBytesPerSecond: rate ?? null,
    conversions:
      conversions > 0 ? { items: conversions, growsBytes, seconds: Math.ceil((toConvert * conversionMs) / 1000), isMeasured } : null,
    waysOut:
      space && !space.fits
        ? await readWaysOut(client, kinds, { room: phones.new!.freeBytes - space.reserveBytes - growsBytes, bytes, plans: planned })
        : [],
  }
}

const plansOf = async (client: Client, media: readonly KindRow[]) =>
  media.length === 0
    ? []
    : manyMediaPlans(
        client,
        media[0]!.ticket_id,
        media.map(({ kind }) => kind),
      )

/** Of the ticket's kinds, those that can be left behind that way. */
export const kindsWithWay = (kinds: readonly KindRow[], way: WayOut) => kinds.filter(({ kind }) => kindOf(kind).waysOut?.includes(way))

/** By year, by size, by length, favourites only, without a kind: each with what would be carried then, and whether that fits. */
async function readWaysOut(
  client: Client,
  kinds: readonly KindRow[],
  { room, bytes, plans }: { room: number; bytes: number; plans: readonly { kind: string; items: number; bytes: number }[] },
): Promise<MediaPlan['waysOut']> {
  const out: MediaPlan['waysOut'] = []
  const scopeOf = (way: WayOut) => {
    const its = kindsWithWay(kinds, way)
    const mine = plans.filter(({ kind }) => its.some((row) => row.kind === kind)).reduce((sum, plan) => sum + plan.bytes, 0)
    return its.length === 0
      ? undefined
      : { ticketId: its[0]!.ticket_id, kinds: its.map(({ kind }) => kind), mine, left: room - (bytes - mine) }
  }
  const byYear = scopeOf('since-year')
  if (byYear) {
    const years = await manyYears(client, byYear)
    const since = newestYearsThatFit(years, byYear.left)
    if (since !== null) {
      const taken = years.filter(({ year }) => year >= since)
      out.push({
        way: 'since-year',
        sinceYear: since,
        kind: null,
        items: taken.reduce((sum, y) => sum + y.items, 0),
        bytes: taken.reduce((sum, y) => sum + y.bytes, 0),
        fits: true,
      })
    }
  }
  for (const way of ['no-large', 'no-long', 'favourites'] as const) {
    const scope = scopeOf(way)
    const figures = scope && (await oneWay(client, scope, way))
    if (figures && figures.bytes < scope.mine) out.push({ way, sinceYear: null, kind: null, ...figures, fits: figures.bytes <= scope.left })
  }
  const all = plans.reduce((sum, plan) => sum + plan.items, 0)
  for (const { kind } of kindsWithWay(kinds, 'without')) {
    const plan = plans.find((one) => one.kind === kind)
    if (plan && plan.bytes > 0 && plan.bytes < bytes)
      out.push({
        way: 'without',
        sinceYear: null,
        kind,
        items: all - plan.items,
        bytes: bytes - plan.bytes,
        fits: bytes - plan.bytes <= room,
      })
  }
  return out
}

/** What the bench says of both phones now. */
export function factsOf(phones: readonly PhoneRow[], ports: readonly PortView[]): PlanPhones {
  const of = (side: 'old' | 'new') => {
    const serial = phones.find((phone) => phone.side === side)?.serial
    return (serial && ports.find(({ phone }) => phone?.facts.serial === serial)?.phone?.facts) || null
  }
  return { old: of('old'), new: of('new') }
}
