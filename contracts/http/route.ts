import { z } from 'zod'

/** Who may call: anybody; who signed in; who signed in, where practice phones are there. */
export type Needs = 'nobody' | 'staff' | 'practice'

/** One call of the HTTP interface, whole: the server answers by it, the client asks by it, the documents are drawn from it. */
export interface Route<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Reply extends z.ZodType = z.ZodType,
> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  /** Below the server’s root; `{name}` for a parameter, `{name*}` for all that follows. */
  readonly path: `/api/${string}`
  /** What it does, in a line. */
  readonly says: string
  readonly needs: Needs
  readonly params: Params
  readonly query: Query
  /** JSON; or bytes that are streamed as they come. */
  readonly takes: 'nothing' | 'json' | 'bytes'
  readonly body: Body
  /** The largest body that is read, in bytes. */
  readonly mostBytes: number
  readonly sends: 'json' | 'bytes' | 'events'
  readonly reply: Reply
  readonly status: 200 | 201
}

/** What a body may be where its contract does not say more. Bytes. */
export const usualBytes = 1_000_000
/** How deep JSON may be nested. */
export const mostDepth = 32

/** A part of a call that says nothing. */
export const nothing = z.object({})
/** What a call answers that says nothing but that it was done. */
export const done = z.object({ ok: z.literal(true) })

/** What a route says of itself. */
export type Wish<P = unknown, Q = unknown, B = unknown, R = unknown> = Pick<Route, 'method' | 'path' | 'says'> & {
  readonly needs?: Needs
  readonly params?: P
  readonly query?: Q
  readonly body?: B
  readonly reply?: R
  readonly takes?: 'bytes'
  readonly sends?: 'bytes' | 'events'
  readonly mostBytes?: number
  readonly status?: 201
}

/** A route by what it says of itself; what it leaves out is as most are. */
export function route<
  P extends z.ZodType = typeof nothing,
  Q extends z.ZodType = typeof nothing,
  B extends z.ZodType = typeof nothing,
  R extends z.ZodType = typeof done,
>(wish: Wish<P, Q, B, R>): Route<P, Q, B, R> {
  return {
    needs: 'staff',
    params: nothing as unknown as P,
    query: nothing as unknown as Q,
    body: nothing as unknown as B,
    reply: done as unknown as R,
    sends: 'json',
    mostBytes: usualBytes,
    status: 200,
    ...wish,
    takes: wish.takes ?? (wish.body ? 'json' : 'nothing'),
  }
}
