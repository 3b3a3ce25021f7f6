import { LinkError, type Connection, type Sink, type Source } from './endpoint.ts'

const photos = 'photos'
/** The kind films stand under since they have a row of their own. */
export const filmKind = 'videos'
const films = filmKind

/**
 * A phone whose films are read with its photos, as they were before they had a row of their own: a ticket that was
 * counted so ends so. What is sent as a photo and is a film, the phone keeps among its films by itself.
 */
export function withFilmsInPhotos(connection: Connection): Connection {
  const { source, sink } = connection
  return { ...connection, source: sourceWithFilms(source), sink: sink && sinkWithFilms(sink) }
}

function sourceWithFilms(source: Source): Source {
  const counts = async () => [await source.count(photos), await source.count(films)] as const
  return {
    async count(kind) {
      if (kind !== photos) return source.count(kind)
      const [a, b] = await counts()
      return {
        ...a,
        items: a.items + b.items,
        bytes: a.bytes + b.bytes,
        derived: a.derived + b.derived,
        derivedOf: { ...b.derivedOf, ...a.derivedOf },
        revision: `${a.revision}+${b.revision}`,
      }
    },
    async *list(kind) {
      if (kind !== photos) return yield* source.list(kind)
      const first = yield* source.list(photos)
      const second = yield* source.list(films)
      return { count: first.count + second.count, revision: `${first.revision}+${second.revision}` }
    },
    openFile: (kind, handle) => (kind === photos ? eitherFile(source, handle) : source.openFile(kind, handle)),
  }
}

async function* eitherFile(source: Source, handle: string): AsyncGenerator<Uint8Array> {
  let isBegun = false
  try {
    for await (const chunk of source.openFile(photos, handle)) {
      isBegun = true
      yield chunk
    }
  } catch (error) {
    if (isBegun || !(error instanceof LinkError) || error.code !== 'NoSuchRecord') throw error
    yield* source.openFile(films, handle)
  }
}

function sinkWithFilms(sink: Sink): Sink {
  const either = async <T>(kind: string, work: (kind: string) => Promise<T>): Promise<T> => {
    if (kind !== photos) return work(kind)
    return work(photos).catch((error: unknown) => {
      if (error instanceof LinkError && error.code === 'NoSuchRecord') return work(films)
      throw error
    })
  }
  return {
    ...sink,
    async remove(kind, nativeIds) {
      const removed = await sink.remove(kind, nativeIds)
      const left = kind === photos ? nativeIds.filter((id) => !removed.includes(id)) : []
      return left.length > 0 ? [...removed, ...(await sink.remove(films, left))] : removed
    },
    open: (kind, nativeId) => either(kind, (one) => sink.open(one, nativeId)),
    amend: (kind, nativeId, ifRevision, record) => either(kind, (one) => sink.amend(one, nativeId, ifRevision, record)),
  }
}
