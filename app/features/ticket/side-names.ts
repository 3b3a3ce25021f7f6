import { computed, inject, provide, type ComputedRef, type InjectionKey } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { sideName } from '../../words/copy-line.ts'
import { lookBoard } from '../../words/lockers.ts'
import { words } from '../../words/words.ts'

export interface SideNames {
  readonly old: string
  readonly new: string
  /** What a count of items is called. */
  readonly filter: (code: string) => string
}

const key: InjectionKey<ComputedRef<SideNames>> = Symbol('sides')
const usual = (code: string) => words.filters[code as keyof typeof words.filters] ?? code
const phones: SideNames = { old: sideName('old', 'bench'), new: sideName('new', 'bench'), filter: usual }

/** What the two sides of the ticket that is shown are called: its phones, or the locker where one is a copy. */
export function provideSideNames(ticket: () => TicketView | undefined): void {
  provide(
    key,
    computed(() => {
      const shown = ticket()
      if (!shown) return phones
      // of a copy that is looked into nothing waits, and there is no phone
      const filter = (code: string) => (shown.isLook ? (lookBoard.filters[code] ?? usual(code)) : usual(code))
      return { old: sideName('old', shown.old.place), new: sideName('new', shown.new.place), filter }
    }),
  )
}

export function useSideNames(): ComputedRef<SideNames> {
  return inject(key, () => computed(() => phones), true)
}
