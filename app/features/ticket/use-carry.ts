import { computed, ref, type Ref } from 'vue'
import { calls } from '#contracts/http/calls.ts'
import type { TicketView } from '#contracts/http/ticket.ts'
import { isLeftOut } from '#core/book/index.ts'
import { ofTicket, type TicketCall } from './ticket-call.ts'

/** Carrying, and what is asked once before anything is written: mixed-up phones, kinds left out whole. */
export function useCarry(ticket: Ref<TicketView | undefined>, act: (name: string, call: TicketCall) => Promise<boolean>) {
  const asks = ref<'roles' | 'left-out' | null>(null)
  const leftOut = computed(() => (ticket.value?.ledger ?? []).filter(isLeftOut))

  /** @param isSure what was asked last is answered with yes */
  async function carry(isSure = false): Promise<boolean> {
    const { forecasts, needsExchangeAnswer, areRolesFrozen } = ticket.value!
    const answered = isSure ? asks.value : null
    if (needsExchangeAnswer && answered === null) {
      asks.value = 'roles'
      return false
    }
    if (leftOut.value.length > 0 && answered !== 'left-out' && !areRolesFrozen) {
      asks.value = 'left-out'
      return false
    }
    asks.value = null
    const stamps = Object.fromEntries(forecasts.map((f) => [f.kind, f.stamp]))
    return act('carry', ofTicket(calls.carry, { stamps, confirmRoles: needsExchangeAnswer }))
  }
  return { asks, leftOut, carry, no: () => (asks.value = null) }
}
