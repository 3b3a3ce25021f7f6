import { calls } from '#contracts/http/calls.ts'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { ofKind, ofTicket } from './ticket-call.ts'
import { useTicketActs } from './use-ticket-acts.ts'

/** What was sent, in the order it was sent; each answered when the test says so. */
const sent: { method: string; body: unknown; answer: () => void }[] = []
beforeEach(() => {
  setActivePinia(createPinia())
  sent.length = 0
  vi.stubGlobal(
    'fetch',
    (_: string, { method, body }: { method?: string; body?: string } = {}) =>
      new Promise((resolve) => {
        const answer = () => resolve({ ok: true, json: async () => ({}) })
        if (method === 'POST') sent.push({ method, body: JSON.parse(body ?? 'null'), answer })
        else answer()
      }),
  )
})
afterEach(() => vi.unstubAllGlobals())

const chosen = (key: string) => ofKind(calls.choose, 'contacts', { choice: 'some', set: [{ key, isChosen: true }] })
const settle = () => new Promise((resolve) => setTimeout(resolve, 5))

describe('what a technician does', () => {
  it('two boxes pressed one after the other are two choices, in order', async () => {
    const { act } = useTicketActs(ref('T-1'))
    const both = [act('choose', chosen('old-1')), act('choose', chosen('old-2'))]
    await settle()
    expect(sent).toHaveLength(1)
    sent[0]!.answer()
    await settle()
    sent[1]!.answer()
    expect(await Promise.all(both)).toEqual([true, true])
    expect(sent.map(({ body }) => body)).toEqual([chosen('old-1').body, chosen('old-2').body])
  })

  it('a press made twice is one', async () => {
    const { act, busy } = useTicketActs(ref('T-1'))
    const both = [act('sign', ofTicket(calls.sign, { by: 'x' })), act('sign', ofTicket(calls.sign, { by: 'x' }))]
    await settle()
    expect(busy.value).toBe('sign')
    sent[0]!.answer()
    expect(await Promise.all(both)).toEqual([true, false])
    expect(sent).toHaveLength(1)
    expect(busy.value).toBe('')
  })
})
