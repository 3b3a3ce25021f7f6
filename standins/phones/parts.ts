import { randomUUID } from 'node:crypto'
import type pg from 'pg'
import { generate, generatedFrom, makeFile, type Recipe } from '../photos/files.ts'

/** What belongs to records and is streamed by a handle of its own: attachments, pictures, clips, packages. */
export interface OwnPart {
  readonly handle: string
  readonly bytes?: Buffer
  readonly recipe?: Recipe
  readonly sizeBytes?: number
}

const pieceBytes = 262_144

export class NoRoom extends Error {}

/** Takes a part as it comes, never whole in memory. One that says of itself that it was made from a number is compared with that and kept as such. @throws NoRoom when it is more than is free */
export async function takePart(
  pool: pg.Pool,
  { serial, kind, free }: { serial: string; kind: string; free: number },
  bytes: AsyncIterable<Buffer>,
): Promise<{ handle: string; sizeBytes: number }> {
  const handle = `new-${randomUUID()}`
  let sizeBytes = 0
  let pending: Buffer[] = []
  let pendingBytes = 0
  let n = 0
  let known: { n: number; size: number; pieces: Generator<Buffer>; rest: Buffer } | undefined
  const insert = (bytes: Buffer | null, made: object | null) =>
    pool.query('insert into part (serial, kind, handle, size_bytes, bytes, made) values ($1, $2, $3, $4, $5, $6)', [
      serial,
      kind,
      handle,
      sizeBytes,
      bytes,
      made && JSON.stringify(made),
    ])
  const flush = async () => {
    const whole = Buffer.concat(pending)
    pending = []
    pendingBytes = 0
    if (n === 0) await insert(null, null)
    await pool.query('insert into part_piece (serial, kind, handle, n, bytes) values ($1, $2, $3, $4, $5)', [
      serial,
      kind,
      handle,
      n++,
      whole,
    ])
  }
  try {
    for await (const chunk of bytes) {
      if (sizeBytes === 0) {
        const from = generatedFrom(chunk)
        if (from) known = { ...from, pieces: generate(from.n, from.size), rest: Buffer.alloc(0) }
      }
      sizeBytes += chunk.length
      if (sizeBytes > free) throw new NoRoom()
      if (known) {
        if (!isNext(known, chunk)) throw new Error('not the bytes it says it is')
        continue
      }
      pending.push(chunk)
      pendingBytes += chunk.length
      if (pendingBytes >= pieceBytes) await flush()
    }
    if (known && sizeBytes !== known.size) throw new Error('not all of the bytes it says it is')
    // what fits into one row is one statement
    if (n === 0) await insert(known ? null : Buffer.concat(pending), known ? { generated: known.n, size: known.size } : null)
    else {
      if (pendingBytes > 0) await flush()
      await pool.query('update part set size_bytes = $4 where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle, sizeBytes])
    }
  } catch (error) {
    if (n > 0) await pool.query('delete from part where serial = $1 and kind = $2 and handle = $3', [serial, kind, handle])
    throw error
  }
  return { handle, sizeBytes }
}

function isNext(known: { pieces: Generator<Buffer>; rest: Buffer }, chunk: Buffer): boolean {
  for (let at = 0; at < chunk.length;) {
    if (known.rest.length === 0) known.rest = (known.pieces.next().value as Buffer | undefined) ?? Buffer.alloc(0)
    const n = Math.min(known.rest.length, chunk.length - at)
    if (n === 0 || known.rest.compare(chunk, at, at + n, 0, n) !== 0) return false
    known.rest = known.rest.subarray(n)
    at += n
  }
  return true
}

interface PartRow {
  bytes: Buffer | null
  size_bytes: number
  made: Recipe | null
}

/** The bytes of a part, in pieces, and how many; undefined when the phone does not have it. */
export async function givePart(
  pool: pg.Pool,
  serial: string,
  kind: string,
  handle: string,
): Promise<{ sizeBytes: number; pieces: AsyncIterable<Buffer> } | undefined> {
  const { rows } = await pool.query<PartRow>('select bytes, size_bytes, made from part where serial = $1 and kind = $2 and handle = $3', [
    serial,
    kind,
    handle,
  ])
  const [row] = rows
  if (!row) return undefined
  if (row.made && 'generated' in row.made) return { sizeBytes: row.made.size, pieces: later(generate(row.made.generated, row.made.size)) }
  if (row.bytes || row.made) {
    const whole = row.bytes ?? makeFile(row.made!)
    return { sizeBytes: whole.length, pieces: later(cut(whole)) }
  }
  return { sizeBytes: row.size_bytes, pieces: stored(pool, serial, kind, handle) }
}

async function* later(pieces: Iterable<Buffer>): AsyncGenerator<Buffer> {
  yield* pieces
}

function* cut(whole: Buffer): Generator<Buffer> {
  for (let at = 0; at < whole.length; at += 65_536) yield whole.subarray(at, at + 65_536)
}

async function* stored(pool: pg.Pool, serial: string, kind: string, handle: string): AsyncGenerator<Buffer> {
  for (let n = 0; ; n++) {
    const { rows } = await pool.query<{ bytes: Buffer }>(
      'select bytes from part_piece where serial = $1 and kind = $2 and handle = $3 and n = $4',
      [serial, kind, handle, n],
    )
    if (!rows[0]) return
    yield* cut(rows[0].bytes)
  }
}

/** The beginning of a part: what an index looks at. */
export async function partHead(pool: pg.Pool, serial: string, kind: string, handle: string): Promise<Buffer> {
  const part = await givePart(pool, serial, kind, handle)
  const out: Buffer[] = []
  let got = 0
  if (part) {
    for await (const piece of part.pieces) {
      out.push(piece)
      got += piece.length
      if (got >= pieceBytes) break
    }
  }
  return Buffer.concat(out)
}

/** Parts that no record names go when the session ends, or the cable. */
export async function dropLooseParts(pool: pg.Pool, serial: string): Promise<void> {
  await pool.query('delete from part where serial = $1 and record_id is null', [serial])
}

/** What loose parts take up. */
export async function looseBytes(pool: pg.Pool, serial: string): Promise<number> {
  const { rows } = await pool.query<{ n: number }>(
    'select coalesce(sum(size_bytes), 0)::bigint as n from part where serial = $1 and record_id is null',
    [serial],
  )
  return rows[0]!.n
}

/** Puts parts into a phone as its own. */
export async function insertOwnParts(
  pool: pg.Pool,
  serial: string,
  kind: string,
  parts: readonly (OwnPart & { readonly recordId: number })[],
): Promise<void> {
  await pool.query(
    `insert into part (serial, kind, handle, record_id, bytes, made, size_bytes)
     select $1, $2, p.handle, p.id, decode(p.bytes, 'base64'), p.made, p.size
       from jsonb_to_recordset($3::jsonb) as p(id bigint, handle text, bytes text, made jsonb, size bigint)
         on conflict do nothing`,
    [
      serial,
      kind,
      JSON.stringify(
        parts.map(({ recordId, handle, bytes, recipe, sizeBytes }) => ({
          id: recordId,
          handle,
          bytes: bytes?.toString('base64') ?? null,
          made: recipe ?? null,
          size: bytes?.length ?? sizeBytes ?? 0,
        })),
      ),
    ],
  )
}
