import { calls } from '#contracts/http/calls.ts'
import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { BenchEvent } from '#contracts/http/bench.ts'
import type { TicketView, TodayView } from '#contracts/http/ticket.ts'
import { api } from '../composables/use-api.ts'

const isIn = ({ holds }: TicketView, change: number) => change < holds.below && !holds.without.includes(change)

/**
 * What the server says of tickets and the bench, by number. A late answer never overwrites a newer one, nor what the
 * event stream told since it was asked for.
 */
export const useTickets = defineStore('tickets', () => {
  const today = ref<TodayView | null>(null)
  const byNumber = ref<Record<string, TicketView>>({})
  const asked: Record<string, number> = {}
  const kept: Record<string, number> = {}
  let told: { at: number; event: BenchEvent }[] = []
  let tick = 0

  async function latest<T>(what: string, look: () => Promise<T>, keep: (value: T) => void): Promise<void> {
    const mine = (asked[what] = (asked[what] ?? 0) + 1)
    const since = tick
    const value = await look()
    if ((kept[what] ?? 0) > mine) return
    kept[what] = mine
    keep(value)
    for (const { at, event } of told) if (at > since) patch(event)
  }

  const loadToday = () =>
    latest<TodayView>(
      'today',
      () => api(calls.today),
      (value) => (today.value = value),
    )
  const loadTicket = (number: string) =>
    latest<TicketView>(
      number,
      () => api(calls.ticket, { params: { number } }),
      (value) => keepTicket(number, value),
    )
  /** An event that was long on its way tells of what has passed: that is not kept, and whatever else it says is asked for. */
  const passed = (look: Promise<unknown>) => void look.catch(() => undefined)

  function patch({ moment, ports, isBenchSeen, unseenStations, tickets }: BenchEvent): void {
    const isOfToday = today.value !== null && moment >= today.value.moment
    if (isOfToday) today.value = { ...today.value!, ports, isBenchSeen, unseenStations }
    else if (today.value) passed(loadToday())
    for (const { ready, ...part } of tickets) {
      const listed = isOfToday && today.value?.tickets.find((ticket) => ticket.number === part.number)
      if (listed) Object.assign(listed, part)
      const open = byNumber.value[part.number]
      if (!open) continue
      if (moment < open.moment) passed(loadTicket(part.number))
      else byNumber.value[part.number] = { ...open, ...part, ready }
    }
  }

  const acts: Record<string, number> = {}
  /** Changes told of a ticket while an act of this page was on its way, whose answer may hold them. */
  const toldMeanwhile: Record<string, number[]> = {}

  const hiding = new Set<string>()
  function keepTicket(number: string, ticket: TicketView | undefined): void {
    if (!ticket) return
    if (ticket.showingUntil === null) hiding.delete(number)
    byNumber.value[number] = hiding.has(number) ? { ...ticket, showingUntil: null } : ticket
  }

  function applyBench(event: BenchEvent): void {
    told = [...told.slice(-30), { at: ++tick, event }]
    patch(event)
  }

  return {
    today,
    byNumber,
    applyBench,
    /** Names are hidden on this page from now on, whatever the server still says, until somebody shows them again. */
    hideNow(number: string) {
      hiding.add(number)
      keepTicket(number, byNumber.value[number])
    },
    showAgain: (number: string) => void hiding.delete(number),
    /**
     * Runs an act of this page and keeps the ticket it is answered with; what is told of the ticket meanwhile waits for
     * the answer. @returns whether all that was told is in it; else the ticket is looked at once more
     */
    async acting(number: string, work: () => Promise<unknown>): Promise<boolean> {
      acts[number] = (acts[number] ?? 0) + 1
      const since = tick
      let answer: unknown
      try {
        answer = await work()
      } finally {
        acts[number]!--
      }
      const { ticket } = answer as { ticket?: TicketView }
      if (!ticket) return false
      // whatever was asked for before is older than this
      kept[number] = asked[number] = (asked[number] ?? 0) + 1
      keepTicket(number, ticket)
      // which of the two is newer, the answer or what the bench told meanwhile, nobody can say here
      const isBenchMoved = told.some(({ at, event }) => at > since && event.tickets.some((part) => part.number === number))
      const isWhole = !isBenchMoved && (toldMeanwhile[number] ?? []).every((change) => isIn(ticket, change))
      if (!acts[number]) delete toldMeanwhile[number]
      return isWhole
    },
    /** Whether a change told of a ticket is on the page already, or comes with the answer that is awaited. */
    knows(number: string, change: number | undefined): boolean {
      if (change === undefined) return false
      if (acts[number]) {
        toldMeanwhile[number] = [...(toldMeanwhile[number] ?? []), change]
        return true
      }
      const ticket = byNumber.value[number]
      return ticket !== undefined && isIn(ticket, change)
    },
    loadToday,
    loadTicket,
  }
})
