import { createRecordSplitter } from '../../formats/files/records.ts'
import { readM3u8, writeM3u8, type TrackList } from '../../formats/playlist/m3u8.ts'
import { readXspf, writeXspf } from '../../formats/playlist/xspf.ts'
import { capabilityOf } from '../../phones/capability.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { Kind } from '../kind.ts'
import { playlistsFace, type PlaylistsAbility } from './face.ts'

const version = 1
/** Of a line cut by bytes: a mark of UTF-8 in front of the first. */
const bom = /^\u00ef\u00bb\u00bf/
const isHead = (line: string) => line.replace(bom, '').startsWith('#EXTM3U')
const comes = ({ digest, isGone }: TrackList['entries'][number]) => digest !== '' && !isGone

/** Lists of tracks: each names its tracks by their content, in its order. */
export const playlists: Kind<TrackList> = {
  ...playlistsFace,
  canonicalVersion: version,
  joins: false,
  read(bytes) {
    const list = readM3u8(bytes) ?? readXspf(bytes)
    return list ? { ok: true, item: list, issues: [] } : { ok: false, code: 'no-playlist' }
  },
  // its order is content: a fact for each place
  atoms: ({ name, entries }) =>
    [`name\u001f${name.normalize('NFC')}`, ...entries.map(({ digest }, i) => `${String(i).padStart(5, '0')}\u001f${digest}`)].sort(),
  canonicalBytes: (atoms) => utf8Bytes(`playlists ${version}\n${atoms.join('\n')}`),
  matchKeys: () => [],
  change(list, to) {
    const { write } = capabilityOf<PlaylistsAbility>(to, 'playlists')
    if ('cannot' in write) return write
    const entries = list.entries.filter(comes)
    if (entries.length === 0 && list.entries.length > 0) return { cannot: 'no-track-comes' }
    const changes = [
      ...(entries.length < list.entries.length ? [{ code: 'tracks-missing', loss: true }] : []),
      ...(list.isSmart && !write.smart ? [{ code: 'smart-becomes-fixed', loss: true }] : []),
    ]
    return { item: { ...list, entries, isSmart: list.isSmart && write.smart }, changes }
  },
  changes: { 'tracks-missing': { loss: true }, 'smart-becomes-fixed': { loss: true } },
  rules: ['no-track-comes', 'file-is-read-only', 'not-known', 'no-such-kind'],
  failures: ['no-playlist', 'storage-error'],
  issues: [],
  sample: () => ({ name: 'a', isSmart: true, entries: [{ path: 'a', title: '', artist: '', seconds: 0, digest: 'a', isGone: false }] }),
  write: (list) => writeM3u8(list),
  namesOthers: {
    kind: 'music',
    of: ({ entries }) => entries.map(({ digest }) => digest),
    note(bytes, gone) {
      const list = readM3u8(bytes) ?? readXspf(bytes)
      return list && gone.size > 0
        ? writeM3u8({ ...list, entries: list.entries.map((entry, i) => (gone.has(i) ? { ...entry, isGone: true } : entry)) })
        : bytes
    },
    async found(bytes, digestAt) {
      const list = readM3u8(bytes) ?? readXspf(bytes)
      if (!list) return bytes
      const entries = []
      for (const entry of list.entries) entries.push({ ...entry, digest: entry.digest || ((await digestAt(entry.path)) ?? '') })
      return writeM3u8({ ...list, entries })
    },
    lost: 'tracks-missing',
  },
  // places of its form that did not come after all
  withMade: (list, made) => ({ ...list, entries: list.entries.filter((_, i) => !made.has(String(i))) }),
  describe: ({ name, entries }) => ({
    title: name,
    lines: entries
      .slice(0, 200)
      .map(({ title, artist, path }) => ({ field: 'entry', text: [artist, title].filter(Boolean).join(', ') || path })),
  }),
  shape({ entries, isSmart }) {
    const shape: Record<string, number> = { tracks: entries.length }
    if (isSmart) shape.smart = 1
    if (entries.length === 0) shape.empty = 1
    if (entries.some((entry) => !comes(entry))) shape.gapped = 1
    return shape
  },
  figures: ['tracks'],
  openFiles: [{ code: 'm3u8', extension: 'm3u8', mediaType: 'application/vnd.apple.mpegurl', write: (list) => writeM3u8(list) }],
  archive: {
    file: 'Playlists.m3u8',
    page: { title: 'Playlists', by: 'name' },
    // what a player opens: its tracks are found where the archive has them
    eachBeside: {
      folder: 'Playlists',
      nameOf: ({ name }) => `${name || 'Playlist'}.xspf`,
      write: (list, pathOf) =>
        writeXspf({ ...list, entries: list.entries.map((entry) => ({ ...entry, path: pathOf(entry.digest) ?? '' })) }),
    },
    write: (list) => writeM3u8(list),
    splitter: () => createRecordSplitter((line) => (isHead(line) ? 'begins' : 'goes-on')),
    brought: {
      begins: (head) => head.startsWith('#EXTM3U') || (head.startsWith('<') && /<playlist[\s>]/.test(head)),
      splitter: () => {
        // XSPF is one list a file; of the other there may be several, one behind the other
        let isXml: boolean | undefined
        return createRecordSplitter((line) => {
          if (isXml === undefined) {
            isXml = line.replace(bom, '').trimStart().startsWith('<')
            if (isXml) return 'begins'
          }
          return !isXml && isHead(line) ? 'begins' : 'goes-on'
        })
      },
    },
  },
}
