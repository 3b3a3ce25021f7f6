import { describe, expect, it } from 'vitest'
import { numbers } from '#standins/demo/draw.ts'
import { playlists as onPhones } from '#standins/kinds/playlists/index.ts'
import { standinModel } from '#standins/phones/models.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { mostEntries, readM3u8, writeM3u8 } from '../../formats/playlist/m3u8.ts'
import { readXspf, writeXspf } from '../../formats/playlist/xspf.ts'
import { findModel } from '../../phones/models.ts'
import { playlists } from './index.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, 0)
const to = findModel({ maker: 'Veyra', model: 'Veyra 12', platform: 'ios' })
/** Lists of a practice phone, by name, as it writes them. */
const listsOf = (phone: string) =>
  new Map(
    [...onPhones.contents(standinModel(phone)!, { seed: 5, count: 2, style: 'traps' })]
      .filter(({ damage }) => !damage)
      .map(({ stored }) => [(stored as { name: string }).name, onPhones.on(standinModel(phone)!)!.give(stored)]),
  )
const read = (bytes: Uint8Array) => {
  const result = playlists.read(bytes, tools)
  if (!result.ok) throw new Error(result.code)
  return result.item
}
const said = (bytes: Uint8Array) => {
  const formed = playlists.change(read(bytes), to)
  return 'cannot' in formed ? [formed.cannot] : formed.changes.map(({ code }) => code)
}

describe.each(['Orrin 5', 'Tamsel M2', 'Veyra 12'])('lists of a %s', (phone) => {
  const lists = listsOf(phone)
  it('entries that name tracks that did not come are a loss that is named', () => {
    const list = lists.get('With a gap')!
    // one says no digest; another’s track is gone, which whoever reads the music knows
    expect(said(list)).toEqual(['tracks-missing'])
    const noted = playlists.namesOthers!.note(list, new Set([1]))
    const formed = playlists.change(read(noted), to)
    expect('item' in formed && formed.item.entries).toHaveLength(2)
    expect(said(playlists.namesOthers!.note(lists.get('Nothing left')!, new Set([0])))).toEqual(['no-track-comes'])
  })

  it('order, and the same track twice, are content', () => {
    const list = read(lists.get('Twice')!)
    const [a, b, c, d] = list.entries
    expect(a!.digest).toBe(c!.digest)
    expect(playlists.atoms(list, tools)).not.toEqual(playlists.atoms({ ...list, entries: [b!, a!, c!, d!] }, tools))
    expect(said(lists.get('Twice')!)).toEqual([])
  })

  it('one its phone makes by a rule is carried as it stands; an empty one, too; one that names itself has a gap there', () => {
    expect(said(lists.get('Most played')!)).toEqual(['smart-becomes-fixed'])
    expect(said(lists.get('Empty')!)).toEqual([])
    expect(said(lists.get('Itself')!)).toEqual(['tracks-missing'])
    expect(read(lists.get('Größe & <Ångström> 山')!).name).toBe('Größe & <Ångström> 山')
  })
})

describe('files of lists', () => {
  it('what is written is read again the same, whatever its names hold', () => {
    const list = {
      name: 'a\nb # 山',
      isSmart: false,
      entries: [
        { path: '#not a comment.mp3', title: 'a - b', artist: 'c', seconds: 61, digest: 'x'.repeat(43), isGone: false },
        { path: '', title: '', artist: '', seconds: 0, digest: '', isGone: true },
      ],
    }
    const again = readM3u8(writeM3u8(list))!
    expect(again.name).toBe('a b # 山')
    expect(again.entries.map(({ digest, isGone, seconds, title }) => [digest, isGone, seconds, title])).toEqual([
      ['x'.repeat(43), false, 61, 'a - b'],
      ['', true, 0, ''],
    ])
    expect(readM3u8(writeM3u8(again))).toEqual(again)
  })

  it('XSPF: title, and of each track where it lies, what it is called, by whom and how long', () => {
    const text = `<?xml version="1.0" encoding="UTF-8"?><playlist version="1"><title>Low &#38; high</title><trackList>
      <track><location>file:///music/T%20one.mp3</location><title>T one</title><creator>Ada &amp; co</creator><duration>61000</duration></track>
      <track><title>no place</title></track></trackList></playlist>`
    expect(readXspf(Buffer.from(text))).toEqual({
      name: 'Low & high',
      isSmart: false,
      entries: [
        { path: '/music/T one.mp3', title: 'T one', artist: 'Ada & co', seconds: 61, digest: '', isGone: false },
        { path: '', title: 'no place', artist: '', seconds: 0, digest: '', isGone: false },
      ],
    })
  })

  it('XSPF written is XSPF read: names of any signs, paths, and by which bytes a track is known', () => {
    const list = {
      name: 'Low & <high> “山”',
      isSmart: false,
      entries: [
        {
          path: '../Music/Größe & Söhne/01 50% #1?.mp3',
          title: 'a & b',
          artist: '<c>',
          seconds: 61,
          digest: 'x'.repeat(43),
          isGone: false,
        },
        { path: '', title: 'nowhere', artist: '', seconds: 0, digest: '', isGone: false },
      ],
    }
    expect(readXspf(Buffer.from(writeXspf(list)))).toEqual(list)
    expect(readXspf(Buffer.from(writeXspf({ ...list, name: 'a\u0000b' })))!.name).toBe('ab')
  })

  it('a billion entries, a line without an end, and what is altered at random: no list, or a short one, and never a throw', () => {
    const many = Buffer.from('#EXTM3U\n' + 'a.mp3\n'.repeat(mostEntries + 1))
    expect(readM3u8(many)).toBeUndefined()
    expect(readXspf(Buffer.from('<playlist>' + '<track>'.repeat(mostEntries + 1)))).toBeUndefined()
    expect(readM3u8(Buffer.from(`#EXTM3U\n${'a'.repeat(5_000_000)}`))!.entries[0]!.path.length).toBeLessThan(5000)
    const next = numbers(3)
    const wholes = [
      ...listsOf('Orrin 5').values(),
      Buffer.from('<?xml?><playlist><title>a</title><track><location>b</location></track></playlist>'),
    ]
    for (let i = 0; i < 3000; i++) {
      const bytes = Buffer.from(wholes[i % wholes.length]!)
      for (let n = 1 + Math.floor(next() * 6); n > 0; n--) bytes[Math.floor(next() * bytes.length)] = Math.floor(next() * 256)
      const result = playlists.read(bytes.subarray(0, next() < 0.3 ? Math.floor(next() * bytes.length) : bytes.length), tools)
      if (!result.ok) expect(playlists.failures).toContain(result.code)
      else playlists.atoms(result.item, tools)
    }
  })
})
