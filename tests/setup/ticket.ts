import { afterAll, beforeAll, expect } from 'vitest'
import type { TicketView } from '#contracts/http/ticket.ts'
import { againstLedger, worker } from './acts.ts'
import { openShop, type TestShop } from './shop.ts'

export * from './acts.ts'

/** A shop and a worker for all tests of a file, ended with it. */
export function useShop({
  checkpoint,
  ...options
}: Parameters<typeof openShop>[0] & { readonly checkpoint?: Parameters<typeof worker>[1] } = {}): () => TestShop {
  let shop: TestShop
  let hands: ReturnType<typeof worker>
  beforeAll(async () => {
    shop = await openShop(options)
    hands = worker(shop, checkpoint)
  })
  afterAll(async () => {
    hands.kill()
    await shop.close()
  })
  return () => shop
}

/** @see againstLedger */
export async function expectAgrees(...of: Parameters<typeof againstLedger>): Promise<void> {
  expect(await againstLedger(...of)).toEqual([])
}

/**
 * What was foretold is met, or each difference is named: nothing becomes less than was said without a fate or a reason
 * that says why, and no change comes that nobody foretold. Of a ticket on which nothing was chosen otherwise meanwhile.
 */
export function expectForecastMet(counted: TicketView, checked: TicketView): void {
  for (const { kind, counts, changes } of counted.forecasts) {
    const { fates, toInstall } = checked.ledger.find((row) => row.kind === kind)!
    const told = (fate: string, code?: string) =>
      checked.reasons
        .filter((reason) => reason.kind === kind && reason.fate === fate && (code === undefined || reason.code === code))
        .reduce((sum, { items }) => sum + items, 0)
    const byThePhone = told('merged', 'joined-by-phone')
    const otherwise = fates.refused + fates.gone + fates.lost + fates.editedThere + fates.pushedOut + byThePhone + toInstall
    expect([kind, fates.carried + fates.changed + otherwise]).toEqual([kind, counts.carried + counts.changed])
    expect([kind, fates.merged - byThePhone, fates.alreadyThere, fates.notChosen, fates.cannotCross, fates.unreadable]).toEqual([
      kind,
      counts.merged,
      counts.alreadyThere,
      counts.notChosen,
      counts.cannotCross,
      counts.unreadable,
    ])
    const codes = [...new Set(checked.reasons.filter((r) => r.kind === kind && r.fate === 'changed').map((r) => r.code))]
    for (const code of codes) {
      const foretold = changes.find((change) => change.code === code)?.items ?? 0
      expect([kind, code, told('changed', code) <= foretold]).toEqual([kind, code, true])
    }
    for (const { code, items } of changes) expect([kind, code, items - told('changed', code) <= otherwise]).toEqual([kind, code, true])
  }
}
