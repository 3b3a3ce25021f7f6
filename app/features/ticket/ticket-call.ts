import type { z } from 'zod'
import type { Call } from '#contracts/http/calls.ts'
import type { Route } from '#contracts/http/route.ts'

type OfTicket = Route<z.ZodType<{ number: string }>>
type OfKind = Route<z.ZodType<{ number: string; kind: string }>>

/** What is to be asked of the server for the ticket on the page; its number is known there. */
export interface TicketCall {
  readonly call: Call
  readonly kind?: string
  readonly body?: unknown
}

/** Asks something of the ticket. */
export function ofTicket<R extends OfTicket>(call: Call<R>, body?: z.input<R['body']>): TicketCall {
  return { call, body }
}

/** Asks something of one kind of the ticket. */
export function ofKind<R extends OfKind>(call: Call<R>, kind: string, body?: z.input<R['body']>): TicketCall {
  return { call, kind, body }
}
