import { many, one, type Client } from '../base/db/sql.ts'

export interface PastWish {
  readonly number: string
  /** Clear, for open tickets; hashed, for past ones. */
  readonly serial: { readonly text: string; readonly hash: Buffer } | null
  /** Days in the shop’s zone, both included; empty for any. */
  readonly from: string
  readonly to: string
  readonly staff: string
  readonly model: string
  readonly outcome: string
  readonly zone: string
}

export interface PastTicketRow {
  id: number
  number: string
  created_at: Date
  by: string
  handed_back_at: Date | null
  old: string
  new: string
  outcome: 'open' | 'agreed' | 'accepted' | 'signed-open' | 'called-off'
  is_erased: boolean
}

const outcome = `case when t.called_off_at is not null then 'called-off'
                      when t.signed_at is null then 'open'
                      when t.signed_open then 'signed-open'
                      when exists (select 1 from ticket_kind k where k.ticket_id = t.id and k.accepted_at is not null) then 'accepted'
                      else 'agreed' end`

const tickets = `from ticket t
       join staff s on s.id = t.booked_by
       join ticket_phone o on o.ticket_id = t.id and o.side = 'old'
       join ticket_phone n on n.ticket_id = t.id and n.side = 'new'`
const answers = `where t.purpose = 'carry' and ($1 = '' or t.number ilike '%' || $1 || '%')
        and ($2::text is null or exists (
          select 1 from ticket_phone p where p.ticket_id = t.id and (p.serial = $2 or p.serial_hash = $3)))
        and ($4 = '' or (t.created_at at time zone $10)::date >= nullif($4, '')::date)
        and ($5 = '' or (t.created_at at time zone $10)::date <= nullif($5, '')::date)
        and ($6 = '' or s.name = $6 or exists (
          select 1 from ticket_act a join staff w on w.id = a.staff_id where a.ticket_id = t.id and w.name = $6))
        and ($7 = '' or strpos(lower(o.model), lower($7)) > 0 or strpos(lower(n.model), lower($7)) > 0)
        and ($8 = '' or $8 = ${outcome})
        and ($9::bigint is null or t.id < $9)`

const valuesOf = (w: PastWish, before: number | null) => [
  w.number.replace(/[\\%_]/g, '\\$&'),
  w.serial?.text ?? null,
  w.serial?.hash ?? null,
  w.from,
  w.to,
  w.staff,
  w.model,
  w.outcome,
  before,
  w.zone,
]

/** Tickets that answer to a wish, the newest first. */
export function manyPast(
  client: Client,
  wish: PastWish,
  { before, limit }: { before: number | null; limit: number },
): Promise<PastTicketRow[]> {
  return many<PastTicketRow>(
    client,
    `select t.id, t.number, t.created_at, s.name as by, t.handed_back_at, o.model as old, n.model as new, ${outcome} as outcome,
            t.erased_at is not null as is_erased
       ${tickets}
      ${answers}
      order by t.id desc
      limit ${limit + 1}`,
    valuesOf(wish, before),
  )
}

export async function countPast(client: Client, wish: PastWish): Promise<number> {
  return (await one<{ n: number }>(client, `select count(*)::int as n ${tickets} ${answers}`, valuesOf(wish, null))).n
}
