import type { PhoneModel } from '../capability.ts'
import { majorVersion } from '../version.ts'

/** A container a phone opens, with what may be in it; none named: it has no codecs, or all of them are. */
export interface Playable {
  readonly type: string
  readonly codecs?: readonly string[]
  /** The models of its maker this holds for; all where none is named. */
  readonly models?: readonly string[]
  /** The least version of the platform. */
  readonly since?: number
}

const everySound: readonly Playable[] = [
  { type: 'audio/mpeg', codecs: ['mp3'] },
  { type: 'audio/mp4', codecs: ['aac'] },
  { type: 'audio/aac' },
  { type: 'audio/wav', codecs: ['pcm'] },
  { type: 'audio/amr', codecs: ['amr'] },
]
const everyPicture: readonly Playable[] = ['image/jpeg', 'image/png', 'image/gif'].map((type) => ({ type }))

/** What each maker's phones play, show and open by themselves: container by codec, by model and version. What is none of it is a file there all the same. */
export const plays: Readonly<Record<string, readonly Playable[]>> = {
  Orrin: [
    ...everySound,
    ...everyPicture,
    { type: 'image/webp' },
    { type: 'image/heic' },
    { type: 'audio/flac' },
    { type: 'audio/ogg', codecs: ['vorbis', 'opus'] },
    { type: 'video/mp4', codecs: ['h264', 'hevc', 'mpeg4', 'aac', 'mp3', 'opus'] },
    { type: 'video/mp4', codecs: ['av1', 'aac', 'opus'], models: ['Orrin 9'], since: 14 },
    { type: 'video/3gpp', codecs: ['h263', 'mpeg4', 'h264', 'amr', 'aac'] },
    { type: 'video/webm', codecs: ['vp8', 'vp9', 'vorbis', 'opus'] },
    { type: 'video/x-matroska', codecs: ['h264', 'hevc', 'vp8', 'vp9', 'aac', 'opus', 'vorbis'] },
    { type: 'application/epub+zip' },
    { type: 'application/pdf' },
  ],
  Tamsel: [
    ...everySound,
    ...everyPicture,
    { type: 'image/webp' },
    { type: 'audio/ogg', codecs: ['vorbis'] },
    { type: 'audio/flac', since: 14 },
    { type: 'video/mp4', codecs: ['h264', 'mpeg4', 'aac', 'mp3'] },
    { type: 'video/mp4', codecs: ['hevc', 'aac'], since: 14 },
    { type: 'video/3gpp', codecs: ['h263', 'mpeg4', 'amr', 'aac'] },
    { type: 'application/epub+zip' },
    { type: 'application/pdf' },
  ],
  Veyra: [
    ...everySound,
    ...everyPicture,
    { type: 'image/heic' },
    { type: 'audio/mp4', codecs: ['alac'] },
    { type: 'audio/flac', since: 11 },
    { type: 'video/mp4', codecs: ['h264', 'hevc', 'mpeg4', 'aac', 'alac', 'ac3'] },
    { type: 'video/mp4', codecs: ['av1', 'aac'], models: ['Veyra 14'] },
    { type: 'video/quicktime', codecs: ['h264', 'hevc', 'mpeg4', 'mjpeg', 'aac', 'alac', 'pcm'] },
    { type: 'video/quicktime', codecs: ['prores', 'pcm', 'aac'], models: ['Veyra 14'] },
    { type: 'application/epub+zip' },
    { type: 'application/pdf' },
  ],
}

/**
 * Whether a phone opens a file by itself. What nobody could read of its codecs is taken for what its container mostly
 * holds; of a maker nobody knows, nothing is said against it.
 */
export function playsOn(
  { maker, model, version }: Pick<PhoneModel, 'maker' | 'model' | 'version'>,
  { type, codecs }: { readonly type: string; readonly codecs: readonly string[] },
): boolean {
  const table = Object.hasOwn(plays, maker) ? plays[maker] : undefined
  if (!table) return true
  const major = version === undefined ? Number.NaN : majorVersion(version)
  return table.some(
    (row) =>
      row.type === type &&
      (row.models === undefined || row.models.includes(model)) &&
      // of a version nobody said, only what holds for all of them
      (row.since === undefined || major >= row.since) &&
      (row.codecs === undefined || codecs.every((codec) => row.codecs!.includes(codec))),
  )
}
