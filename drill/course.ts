import { numbers } from '#standins/demo/draw.ts'

/** One thing that happens in a course: an act of the technician, of a hand on a phone, or a fault. */
export type Op =
  | { readonly op: 'carry' | 'check' | 'again' | 'take-away' }
  | { readonly op: 'edit-old' | 'delete-old' | 'unchoose' | 'edit-new' | 'delete-new' | 'copy-new' | 'copy-old'; readonly at: number }
  | { readonly op: 'fault'; readonly side: 'old' | 'new'; readonly point: string; readonly effect: string; readonly skip: number }
  | { readonly op: 'kill'; readonly at: string }

export interface Course {
  readonly seed: number
  readonly kind: (typeof kinds)[number]
  readonly pair: readonly [string, string]
  readonly oldCount: number
  readonly newCount: number
  /** The new phone holds some of what the old one does. */
  readonly isOverlapping: boolean
  /** The old phone is copied into a locker first, and the copy is what is carried; where the copying is killed, if at all. */
  readonly locker: { readonly kill: string | null } | null
  /** It is taken home as files first, and brought back: those are what is carried. */
  readonly files: { readonly kill: string | null } | null
  readonly ops: readonly Op[]
}

const pairs = [
  ['Orrin 5', 'Orrin 9'],
  ['Tamsel M2', 'Tamsel M3'],
  ['Veyra 12', 'Veyra 14'],
] as const
const kinds = [
  ...(['contacts', 'calls', 'calendar', 'messages', 'messages', 'photos', 'apps'] as const),
  ...(['videos', 'music', 'documents', 'books', 'recordings', 'voicemail', 'wallpapers', 'playlists'] as const),
] as const

const newFaults = [
  ['write.before', ['cut', 'refuse-one']],
  ['write.mid', ['cut']],
  ['write.record', ['drop', 'double', 'alter', 'half']],
  ['write.after', ['cut', 'one-answer-less']],
  ['list.mid', ['cut', 'fail']],
  ['list.end', ['leave-out-one', 'no-end']],
  ['count', ['one-more']],
  ['remove', ['cut']],
  ['attach', ['cut']],
] as const
const oldFaults = [
  ['list.mid', ['cut', 'not-json']],
  ['list.end', ['leave-out-one']],
  ['file.give', ['cut']],
] as const
const checkpoints = ['before-send', 'after-answer', 'before-pairing', 'clear-before-remove', 'clear-before-commit', 'resolve-before-commit']

/** Kinds whose content is their file’s, whatever a hand writes beside it. */
const unedited: readonly string[] = ['photos', 'videos', 'music', 'books', 'wallpapers']

/** Kinds that have no place of their own on every maker's phones: an entry stands elsewhere than it stood. */
export const standsApart = ({ kind, pair: [old] }: Pick<Course, 'kind' | 'pair'>): boolean =>
  kind === 'voicemail' || (kind === 'recordings' && !old.startsWith('Orrin')) || (kind === 'wallpapers' && old.startsWith('Veyra'))

/** A course drawn from a seed: the same seed draws the same. */
export function courseOf(seed: number): Course {
  const next = numbers(seed)
  const pick = <T>(list: readonly T[]) => list[Math.floor(next() * list.length)]!
  const below = (n: number) => Math.floor(next() * n)
  const fault = (): Op => {
    const side = next() < 0.8 ? 'new' : 'old'
    const [point, effects] = pick<readonly [string, readonly string[]]>(side === 'new' ? newFaults : oldFaults)
    return { op: 'fault', side, point, effect: pick(effects), skip: below(3) }
  }
  const hand = (): Op => {
    const op = pick(['edit-old', 'edit-old', 'delete-old', 'unchoose', 'edit-new', 'delete-new', 'copy-new', 'copy-old'] as const)
    return { op, at: below(12) }
  }
  const anything = (): Op => {
    const chance = next()
    if (chance < 0.22) return { op: 'carry' }
    if (chance < 0.34) return { op: 'check' }
    if (chance < 0.42) return { op: 'again' }
    if (chance < 0.47) return { op: 'take-away' }
    if (chance < 0.53) return { op: 'kill', at: pick(checkpoints) }
    return chance < 0.7 ? fault() : hand()
  }
  const before = Array.from({ length: below(3) }, () => (next() < 0.4 ? fault() : hand()))
  const ops = [...before, { op: 'carry' } as const, ...Array.from({ length: 3 + below(8) }, anything)]
  const kind = pick(kinds)
  // what stays behind of an app’s data, and by which store it comes, is no matter of counting contents
  const pair = kind === 'apps' ? pairs[0] : pick(kind === 'calls' ? pairs.slice(0, 2) : pairs)
  // the date of a photo is its file’s, whatever a hand writes beside it
  // drawn apart: what a seed drew before, it draws still
  const apart = numbers(seed * 31 + 7)
  const isByLocker = apart() < 0.25
  const locker = isByLocker ? { kill: apart() < 0.5 ? checkpoints[Math.floor(apart() * 3)]! : null } : null
  // of an app that is brought as a file nobody knows from which store it came
  const isByFiles = !isByLocker && kind !== 'apps' && apart() < 0.25
  const files = isByFiles
    ? { kill: apart() < 0.5 ? [...checkpoints.slice(0, 3), 'packing', 'finished'][Math.floor(apart() * 5)]! : null }
    : null
  const isOfCopied = (op: Op) => (locker ?? files) !== null && (op.op.endsWith('-old') || (op.op === 'fault' && op.side === 'old'))
  const isUnedited = (op: Op) => unedited.includes(kind) && (op.op.startsWith('edit') || (op.op === 'fault' && op.effect === 'alter'))
  const drawn = { oldCount: 3 + below(5), newCount: below(4) }
  // a phone has a picture of each of two places, or one of both
  const places = pair[0].startsWith('Tamsel') ? 1 : 2
  const counts = kind === 'wallpapers' ? { oldCount: places, newCount: Math.min(places, drawn.newCount) } : drawn
  return {
    seed,
    kind,
    pair,
    ...counts,
    // recordings that stand apart are told by their times, which are the same of every seed
    isOverlapping: next() < 0.5 || (kind === 'recordings' && standsApart({ kind, pair })),
    locker,
    files,
    ops: ops.filter((op) => !isUnedited(op) && !isOfCopied(op)),
  }
}
