import { createHash } from 'node:crypto'
import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { kindOf } from '#core/kinds/registry.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { makeFile } from '#standins/files/files.ts'
import { sortInMemory } from '../setup/uploads.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, Date.UTC(2026, 10, 27))
const card = (name: string) => Buffer.from(`BEGIN:VCARD\r\nVERSION:3.0\r\nN:${name};;;;\r\nFN:${name}\r\nEND:VCARD\r\n`)
const call = Buffer.from(
  'BEGIN:VCARD\r\nVERSION:2.1\r\nN:\r\nTEL:+447700900001\r\nX-IRMC-CALL-DATETIME;MISSED:20261101T120000Z\r\nEND:VCARD\r\n',
)
const calendar = Buffer.from(
  'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:a\r\nDTSTART:20260101T100000Z\r\nSUMMARY:One\r\nEND:VEVENT\r\nBEGIN:VEVENT\r\nUID:b\r\nDTSTART:20260102\r\nSUMMARY:Two\r\nEND:VEVENT\r\nBEGIN:VTODO\r\nUID:c\r\nEND:VTODO\r\nEND:VCALENDAR\r\n',
)
const photo = (salt: number, from = 'quay.jpg') => makeFile({ from: from === 'quay.jpg' ? 'hive.jpg' : from, salt })
const mail = Buffer.from('From ada@example.org Thu Jan  1 00:00:00 1970\nFrom: ada@example.org\nSubject: Hello\n\nA letter.\n\n')

const whys = (others: readonly { path: string; why: string }[]) => Object.fromEntries(others.map(({ path, why }) => [path, why]))

describe('files somebody brings', () => {
  it('are sorted by what they hold, whatever they are called; what is nothing Corvend takes is named with its reason', async () => {
    const sorted = await sortInMemory({
      'contacts.txt': card('Quill'),
      'list.dat': Buffer.concat([card('Wort'), call]),
      'dates.csv': calendar,
      'Holiday/IMG.bin': photo(1),
      'Holiday/film.jpg': makeFile({ from: 'clip.mp4', salt: 1 }),
      'letters.mbox': mail,
      'note.txt': Buffer.from('Dear customer'),
      'thing.dat': Buffer.from([0, 1, 2, 3, 255]),
      'nothing.vcf': Buffer.alloc(0),
    })
    expect(sorted.items).toEqual({ contacts: 2, calls: 1, calendar: 2, photos: 1, videos: 1, documents: 1 })
    expect(whys(sorted.others)).toEqual({
      'dates.csv': 'not-taken',
      'letters.mbox': 'mail',
      'thing.dat': 'not-known',
      'nothing.vcf': 'empty',
    })
    const read = kindOf('photos').read(sorted.records.photos![0]!, tools)
    expect(read.ok && kindOf('photos').describe(read.item)).toMatchObject({ title: 'IMG.bin', group: 'Holiday' })
    expect(read.ok && kindOf('photos').filesOf!(read.item).map(({ handle }) => handle)).toEqual(['Holiday/IMG.bin'])
    expect([...sorted.kept].sort()).toEqual(['Holiday/IMG.bin', 'Holiday/film.jpg', 'note.txt'])
  })

  it('lists of tracks, M3U8 and XSPF, name what they mean by its content; one that names itself, or nothing, has a gap', async () => {
    const track = (salt: number) => makeFile({ media: { as: 'mp3', seconds: 9, tags: { title: `T${salt}` }, salt } })
    const sorted = await sortInMemory({
      'Music/a.mp3': track(1),
      'Music/deep/b.mp3': track(2),
      'book.epub': makeFile({ media: { as: 'epub', title: 'Nets', author: 'Ada', salt: 1 } }),
      'memo.amr': makeFile({ media: { as: 'amr', seconds: 1, salt: 1 } }),
      'Music/list.m3u8': Buffer.from('#EXTM3U\n#PLAYLIST:Tide\n#EXTINF:9,T1\na.mp3\nlist.m3u8\ndeep/b.mp3\n'),
      'other.xspf': Buffer.from(
        '<?xml version="1.0"?>\n<playlist version="1" xmlns="http://xspf.org/ns/0/">\n<title>Low &amp; high</title><trackList><track><location>file:///music/b.mp3</location><duration>9000</duration></track></trackList></playlist>\n',
      ),
    })
    expect(sorted.items).toEqual({ music: 2, books: 1, recordings: 1, playlists: 2 })
    expect(sorted.others).toEqual([])
    const digest = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('base64url')
    const lists = sorted.records.playlists!.map((bytes) => kindOf('playlists').read(bytes, tools))
    expect(lists.map((read) => read.ok && kindOf('playlists').describe(read.item).title)).toEqual(['Tide', 'Low & high'])
    expect(lists.map((read) => read.ok && kindOf('playlists').namesOthers!.of(read.item))).toEqual([
      [digest(track(1)), '', digest(track(2))],
      [digest(track(2))],
    ])
  })

  it('twice the same is taken once and said; the same name with other content is two', async () => {
    const sorted = await sortInMemory({
      'a/IMG.jpg': photo(1),
      'b/IMG.jpg': photo(2),
      'c/IMG copy.jpg': photo(1),
      'people.vcf': card('Quill'),
      'people again.vcf': card('Quill'),
    })
    expect(sorted.items).toEqual({ contacts: 1, photos: 2 })
    expect(whys(sorted.others)).toEqual({ 'c/IMG copy.jpg': 'same-as', 'people again.vcf': 'same-as' })
  })

  it('of a ZIP each by itself; a ZIP inside, and what leads out of it, lead nowhere', async () => {
    const inner = zipSync({ 'x.vcf': card('Inner') })
    const sorted = await sortInMemory({
      'a.zip': zipSync({
        '../../etc/x.vcf': card('Quill'),
        'deep/IMG.jpg': photo(3),
        'inner.zip': inner,
        '__MACOSX/._x': Buffer.from('z'),
      }),
    })
    expect(sorted.items).toEqual({ contacts: 1, photos: 1 })
    expect(whys(sorted.others)).toEqual({ 'inner.zip': 'zip-inside' })
    expect([...sorted.kept]).toEqual(['deep/IMG.jpg'])
  })

  it('a damaged one is one that is named, and all others are taken', async () => {
    const zip = zipSync({ 'bad.jpg': [photo(1), { level: 0 }], 'good.jpg': [photo(2), { level: 0 }], 'people.vcf': card('Quill') })
    zip[200]! ^= 1
    const sorted = await sortInMemory({ 'a.zip': zip })
    expect(sorted.items).toEqual({ contacts: 1, photos: 1 })
    expect(whys(sorted.others)).toEqual({ 'bad.jpg': 'damaged' })
  })
})
