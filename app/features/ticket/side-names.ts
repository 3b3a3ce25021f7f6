import { computed, inject, provide, type ComputedRef, type InjectionKey } from 'vue'
import type { TicketView } from '#contracts/http/ticket.ts'
import { sideName } from '../../words/copy-line.ts'
import { lookBoard } from '../../words/lockers.ts'
import { ofSides } from '../../words/sides.ts'
import { words } from '../../words/words.ts'

export interface SideNames {
  readonly old: string
  readonly new: string
  /** What a count of items is called. */
  readonly filter: (code: string) => string
  /** A copy is looked into: what would become of its items on a phone is no matter. */
  readonly isLook: boolean
  /** What is said of two phones, said of what is there. */
  readonly say: (text: string) => string
}

const key: InjectionKey<ComputedRef<SideNames>> = Symbol('sides')
const usual = (code: string) => words.filters[code as keyof typeof words.filters] ?? code
const phones: SideNames = {
  old: sideName('old', 'bench'),
  new: sideName('new', 'bench'),
  filter: usual,
  isLook: false,
  say: (text) => text,
}

/** What the two sides of the ticket that is shown are called: its phones, or the locker where one is a copy. For all below, and for whoever asks. */
export function provideSideNames(ticket: () => Pick<TicketView, 'old' | 'new' | 'isLook'> | undefined): ComputedRef<SideNames> {
  const names = computed((): SideNames => {
    const shown = ticket()
    if (!shown) return phones
    const say = (text: string) => ofSides(text, { old: shown.old.place, new: shown.new.place })
    // of a copy that is looked into nothing waits, and there is no phone
    const filter = (code: string) => say(shown.isLook ? (lookBoard.filters[code] ?? usual(code)) : usual(code))
    return { old: sideName('old', shown.old.place), new: sideName('new', shown.new.place), filter, isLook: shown.isLook, say }
  })
  provide(key, names)
  return names
}

export function useSideNames(): ComputedRef<SideNames> {
  return inject(key, () => computed(() => phones), true)
}

type Say = (text: string) => string

/** The words of a component, said of the sides of the ticket that is shown: of a locker where one is no phone. */
export function useSaid<Words extends object>(words: Words, sides = useSideNames()): Words {
  return sayingOf(words, (text) => sides.value.say(text))
}

function sayingOf<Words extends object>(words: Words, say: Say): Words {
  return new Proxy(words, {
    get(of, name) {
      const value: unknown = Reflect.get(of, name)
      if (typeof value === 'string') return say(value)
      if (typeof value === 'function') {
        return (...args: unknown[]): unknown => {
          const made: unknown = Reflect.apply(value, of, args)
          return typeof made === 'string' ? say(made) : made
        }
      }
      return typeof value === 'object' && value !== null && !Array.isArray(value) ? sayingOf(value, say) : value
    },
  })
}
