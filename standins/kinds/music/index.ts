import { numbers } from '../../demo/draw.ts'
import { typeOfMedia, type MediaRecipe } from '../../files/media.ts'
import { dialectOf, fileKindOnPhones, type FileWish } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 9, 2, 12)
const artists = ['The Saltmere Choir', 'Low Tide Four', 'Ada Oakes', 'Größe & Söhne', '潮の音'] as const
const albums = ['Harbour light', 'Knots', 'Bell buoy', 'Winter crossing'] as const
const words = ['Tide', 'Lantern', 'Net', 'Gull', 'Mast', 'Fog', 'Quay', 'Swell', 'Ferry', 'Anchor'] as const

/** A track from a seed and its number: the same for whoever asks. */
export function trackOf(seed: number, i: number, size = 0): { name: string; media: MediaRecipe; says: Record<string, string> } {
  const next = numbers(seed * 1000 + i)
  const album = Math.floor(i / 10)
  const title = `${words[Math.floor(next() * 10)]!} ${words[i % 10]!.toLowerCase()}`
  const tags = {
    title,
    artist: artists[album % artists.length]!,
    album: albums[album % albums.length]!,
    track: (i % 10) + 1,
    year: 1990 + (album % 30),
  }
  const as = (['mp3', 'mp3', 'm4a', 'mp3', 'flac'] as const)[Math.floor(next() * 5)]!
  const seconds = 100 + Math.floor(next() * 200)
  const media: MediaRecipe =
    as === 'm4a'
      ? { as, seconds, audio: 'mp4a', tags, salt: seed * 10_000 + i, ...(size ? { size } : {}) }
      : { as, seconds, tags, salt: seed * 10_000 + i, ...(size ? { size } : {}) }
  return {
    name: `${String(tags.track).padStart(2, '0')} ${title}.${as}`,
    media,
    says: { title, artist: tags.artist, album: tags.album, track: String(tags.track) },
  }
}

function* tracks({
  seed,
  count,
  style = 'plain',
  size = 0,
}: {
  seed: number
  count: number
  style?: 'traps' | 'plain'
  size?: number
}): Generator<FileWish> {
  for (let i = 0; i < count; i++) {
    const { name, media, says } = trackOf(seed, i, size)
    yield {
      name,
      recipe: { media },
      type: typeOfMedia(media),
      atMs: lastDay - i * 60_000,
      stored: { folder: `Music/${says.artist!.replaceAll('/', '-')}/${says.album!}`, says },
    }
  }
  if (style === 'plain') return
  let n = 0
  const trap = (name: string, media: MediaRecipe, more: Partial<FileWish> = {}): FileWish => ({
    name,
    recipe: { media },
    type: typeOfMedia(media),
    atMs: lastDay - 86_400_000 - ++n * 1000,
    ...more,
  })
  const salt = (i: number) => seed * 1000 + 900 + i
  const tags = { title: 'Slack water', artist: 'Low Tide Four', album: 'Knots' }
  // bought: it opens with its shop's key alone
  yield trap('bought.m4p', { as: 'm4a', seconds: 180, audio: 'mp4a', tags, isProtected: true, salt: salt(1) })
  // what the other family can't play
  yield trap('lossless.m4a', { as: 'm4a', seconds: 200, audio: 'alac', tags, salt: salt(2) })
  yield trap('bell.ogg', { as: 'ogg', seconds: 20, tags, salt: salt(3) })
  yield trap('memo.amr', { as: 'amr', seconds: 2, salt: salt(4) })
  // the same track in two folders
  for (const folder of ['Music', 'Download'])
    yield trap('twice.mp3', { as: 'mp3', seconds: 90, tags, salt: salt(5) }, { stored: { folder } })
  // tags missing, wrong in the list, or of 3 MB
  yield trap('no tags.mp3', { as: 'mp3', seconds: 60, hasNoTags: true, salt: salt(6) })
  yield trap(
    'other in the list.mp3',
    { as: 'mp3', seconds: 60, tags: { title: 'What it is' }, salt: salt(7) },
    { stored: { says: { title: 'What it was once', artist: 'Nobody' } } },
  )
  yield trap('large cover.mp3', { as: 'mp3', seconds: 60, tags, tagBytes: 2_600_000, salt: salt(8) })
  // episodes of podcasts
  for (let i = 0; i < 3; i++)
    yield trap(
      `episode ${i + 1}.m4a`,
      {
        as: 'm4a',
        seconds: 1800,
        audio: 'mp4a',
        tags: { title: `Harbour talk ${i + 1}`, album: 'Harbour talk' },
        isPodcast: true,
        salt: salt(10 + i),
      },
      { stored: { folder: 'Podcasts', says: { podcast: 'yes', title: `Harbour talk ${i + 1}` } } },
    )
  // wrong ending, empty, no sound at all, cut
  yield trap('really flac.mp3', { as: 'flac', seconds: 30, tags, salt: salt(20) }, { type: 'audio/mpeg' })
  yield { name: 'empty.mp3', recipe: { empty: true }, type: 'audio/mpeg', atMs: lastDay }
  yield { name: 'no sound.mp3', recipe: { garbage: seed + 1 }, type: 'audio/mpeg', atMs: lastDay }
  yield trap('cut.m4a', { as: 'm4a', seconds: 100, audio: 'mp4a', index: 'last', tags, size: 20_000, cutTo: 9000, salt: salt(21) })
  yield { ...trap('dead sector.mp3', { as: 'mp3', seconds: 30, tags, salt: salt(22) }), damage: 'storage-error' }
  yield { ...trap('only bought.m4a', { as: 'm4a', seconds: 30, audio: 'mp4a', tags, salt: salt(23) }), stored: { cloud: true } }
  yield trap('Größe & <Ångström> 山.mp3', { as: 'mp3', seconds: 30, tags: { title: 'Größe & <Ångström> 山' }, salt: salt(24) })
}

/** Tracks and episodes; what rings and beeps is nobody's music, though one maker counts it with it. */
export const music = fileKindOnPhones({
  code: 'music',
  isAsked: true,
  folder: 'Music',
  ways: {
    orrin: { time: 'ms', keeps: ['podcast'], lists: ['title', 'artist', 'album', 'track'], saysTrackOf: true },
    tamsel: { time: 'seconds', keeps: [], lists: ['title', 'artist'] },
    veyra: { time: 'offset', keeps: ['podcast'], lists: ['title', 'artist', 'album', 'track'] },
    holt: { time: 'ms', keeps: [] },
  },
  files: tracks,
  ofDemo: () => ({ size: 90_000 }),
  derived: (phone) => ({ ringtones: dialectOf(phone) === 'tamsel' ? 12 : 0 }),
})
