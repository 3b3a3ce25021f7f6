import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { TicketView, TodayView } from '#contracts/http/ticket.ts'
import { api } from '../composables/use-api.ts'

/** What the server says of tickets and the bench, by number. A late answer never overwrites a newer one. */
export const useTickets = defineStore('tickets', () => {
  const today = ref<TodayView | null>(null)
  const byNumber = ref<Record<string, TicketView>>({})
  const asked: Record<string, number> = {}

  async function latest<T>(what: string, path: string, keep: (value: T) => void): Promise<void> {
    const mine = (asked[what] = (asked[what] ?? 0) + 1)
    const value = await api<T>(path)
    if (asked[what] === mine) keep(value)
  }
  return {
    today,
    byNumber,
    loadToday: () => latest<TodayView>('today', 'today', (value) => (today.value = value)),
    loadTicket: (number: string) => latest<TicketView>(number, `tickets/${number}`, (value) => (byNumber.value[number] = value)),
  }
})
