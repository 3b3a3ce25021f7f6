import { computed, inject, provide, type ComputedRef, type InjectionKey } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { sideName } from '../../words/copy-line.ts'

export interface SideNames {
  readonly old: string
  readonly new: string
}

const key: InjectionKey<ComputedRef<SideNames>> = Symbol('what the sides of the ticket are called')
const phones: SideNames = { old: sideName('old', 'bench'), new: sideName('new', 'bench') }

/** What the two sides of the ticket that is shown are called: its phones, or the locker where one is a copy. */
export function provideSideNames(ticket: () => TicketView | undefined): void {
  provide(
    key,
    computed(() => {
      const shown = ticket()
      return shown ? { old: sideName('old', shown.old.place), new: sideName('new', shown.new.place) } : phones
    }),
  )
}

export function useSideNames(): ComputedRef<SideNames> {
  return inject(key, () => computed(() => phones), true)
}
