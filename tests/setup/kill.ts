import type { TicketView } from '#contracts/http/ticket.ts'
import type { TestShop } from './shop.ts'
import { carry, countIn, isChecked, waitFor, worker } from './ticket.ts'

/** Where the worker dies, or the cable goes. */
export const moments = {
  'killed before send': { checkpoint: 'before-send' },
  'cut mid-write': { fault: { point: 'write.mid', effect: 'cut', skip: 1 } },
  'cut after write, before the answer': { fault: { point: 'write.after', effect: 'cut' } },
  'killed after the answer, before commit': { checkpoint: 'after-answer' },
} as const

/** Counts in and carries; the worker dies at its moment, and another goes on. */
export async function carryAcrossDeath(
  shop: TestShop,
  number: string,
  moment: { readonly checkpoint: string; readonly of?: 'carry' | 'check-off' } | { readonly fault: unknown },
): Promise<TicketView> {
  const checkpoint = 'checkpoint' in moment ? moment.checkpoint : undefined
  const of = ('checkpoint' in moment && moment.of) || 'carry'
  let deaths = 0
  const first = worker(shop, (name, run) => {
    if (name === checkpoint && run.type === of && deaths++ === 0) {
      first.kill()
      return new Promise(() => undefined)
    }
    return undefined
  })
  await countIn(shop, number)
  await carry(shop, number)
  if (checkpoint) while (deaths === 0) await new Promise((r) => setTimeout(r, 20))
  const second = worker(shop)
  const ticket = await waitFor(shop, number, isChecked, 'check off')
  first.kill()
  second.kill()
  return ticket
}
