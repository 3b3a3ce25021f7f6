import { createHash } from 'node:crypto'
import { beforeAll, describe, expect, it } from 'vitest'
import { makeFile } from '#standins/files/files.ts'
import { phoneKind } from '#standins/kinds/registry.ts'
import { standinModel } from '#standins/phones/models.ts'
import { recordsOf } from '#standins/phones/records.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { inspectMedia } from '../../formats/media/inspect.ts'
import { findModel } from '../../phones/models.ts'
import { kindOf } from '../registry.ts'
import type { OneFile } from './index.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, Date.UTC(2026, 10, 27))
const model = (name: string, version = '18') =>
  findModel({ maker: name.split(' ')[0]!, model: name, platform: name.startsWith('Veyra') ? 'ios' : 'android', version })

/** An item of a practice phone as Count in reads it, its file streamed and looked into. */
interface Held {
  readonly name: string
  readonly storage: string | undefined
  readonly read: ReturnType<ReturnType<typeof kindOf>['read']>
}
async function heldOf(code: string, phone: string): Promise<Held[]> {
  const on = standinModel(phone)!
  const out: Held[] = []
  for (const { stored, storage, damage, attached = [] } of phoneKind(code)!.contents(on, { seed: 5, count: 3, style: 'traps' })) {
    if (damage) continue
    const bytes = attached.map(({ recipe }) => makeFile(recipe!))
    const found = new Map<string, { digest: string; sizeBytes: number; facts: Awaited<ReturnType<typeof inspectMedia>> }>()
    for (const [i, { handle }] of attached.entries())
      found.set(handle, {
        digest: createHash('sha256').update(bytes[i]!).digest('base64url'),
        sizeBytes: bytes[i]!.length,
        facts: await inspectMedia(bytes[i]!),
      })
    const record = kindOf(code).noteFiles!(recordsOf(on, code)!.give(stored), found)
    out.push({ name: (stored as { name: string }).name, storage, read: kindOf(code).read(record, tools) })
  }
  return out
}

/** What becomes of one on another phone: why it can't be read or can't cross, or its changes, and what it is called there. */
function becomes(code: string, { read }: Held, to: ReturnType<typeof model>): { said: string[]; name: string; item?: OneFile } {
  if (!read.ok) return { said: [read.code], name: '' }
  const formed = kindOf(code).change(read.item, to)
  if ('cannot' in formed) return { said: [formed.cannot], name: '' }
  const item = formed.item as OneFile
  return { said: formed.changes.map((change) => change.code), name: item.name, item }
}

const held: Record<string, Held[]> = {}
beforeAll(async () => {
  for (const kind of ['videos', 'music', 'recordings', 'voicemail', 'documents', 'books', 'wallpapers']) {
    held[kind] = await heldOf(kind, 'Orrin 5')
    held[`${kind} of Veyra`] = await heldOf(kind, 'Veyra 12')
  }
})
const named = (list: string, name: string) => held[list]!.filter((one) => one.name === name)
const said = (list: string, name: string, to: ReturnType<typeof model>) =>
  named(list, name).map((one) => becomes(list.split(' ')[0]!, one, to).said)

describe('videos', () => {
  it.each([
    ['codecs the new phone can’t play are named before, and the film comes all the same', 'newest.mp4', 'Veyra 12', ['not-playable']],
    ['what a newer model plays is no loss there', 'newest.mp4', 'Veyra 14', []],
    ['a container of computers', 'from a computer.mkv', 'Veyra 12', ['not-playable']],
    ['the first phones’ films', 'from the first phone.3gp', 'Veyra 12', ['not-playable']],
    ['half-written files come damaged as they are', 'broke off.mp4', 'Veyra 12', ['damaged-already']],
    ['one whose end was cut off', 'cut.mp4', 'Orrin 9', ['damaged-already']],
    ['an empty file is unreadable', 'empty.mp4', 'Orrin 9', ['empty-file']],
    ['bought: it opens with its shop’s key alone', 'bought.m4v', 'Orrin 9', ['locked-by-its-shop']],
    ['a wrong ending is set right', 'really a mov.mp4', 'Veyra 12', ['extension-corrected']],
    ['a file that is no film', 'no film.mp4', 'Veyra 12', ['no-film']],
    ['a date its list contradicts is the film’s own', 'contradicted.mp4', 'Veyra 12', ['date-by-camera']],
    ['slow motion on a phone that has none', 'slow.mp4', 'Tamsel M3', ['slow-becomes-plain']],
    ['a favourite on a phone that has none', 'favourite.mp4', 'Tamsel M3', ['favourite-dropped']],
    ['hidden on a phone that hides none', 'hidden.mp4', 'Tamsel M3', ['hidden-becomes-visible']],
  ])('%s', (_, name, to, codes) => expect(said('videos', name, model(to))).toEqual([codes]))

  it('the same film in two places is two, equal in content', () => {
    const twice = named('videos', 'twice.mp4').map(({ read }) => (read.ok ? kindOf('videos').atoms(read.item, tools) : []))
    expect(twice).toHaveLength(2)
    expect(twice[0]!.find((atom) => atom.startsWith('file'))).toBe(twice[1]!.find((atom) => atom.startsWith('file')))
  })

  it('time, place and turning are read from the film', () => {
    const item = (name: string) => {
      const [{ read }] = named('videos', name) as [Held]
      return read.ok ? (read.item as OneFile) : undefined
    }
    expect(item('far away.mp4')).toMatchObject({ hasPlace: true })
    expect(item('turned.mp4')!.seen.isTurned).toBe(true)
    expect(new Date(item('contradicted.mp4')!.atMs!).getUTCFullYear()).toBe(2018)
    expect(item('lying.mp4')!.seen.issue).toBe('boxes-lie')
  })

  it('larger than a card’s file system takes (4 GB) is said before; only in the cloud can’t cross; in several albums it keeps one', () => {
    const [{ read }] = named('videos', 'hevc.mp4') as [Held]
    const large = { ok: true, item: { ...(read as { item: OneFile }).item, sizeBytes: 4_294_967_296 }, issues: [] } as const
    expect(becomes('videos', { name: '', storage: '', read: large }, model('Tamsel M3')).said).toEqual(['too-large-for-it'])
    expect(becomes('videos', { name: '', storage: '', read: large }, model('Orrin 9')).said).toEqual([])
    expect(said('videos of Veyra', 'cloud 0.mov', model('Orrin 9'))).toEqual([['only-in-cloud']])
    expect(said('videos of Veyra', 'two albums.mp4', model('Orrin 9'))).toEqual([['albums-one-only']])
  })

  it('a phone of a version nobody said plays what all versions do', () => {
    const unsaid = findModel({ maker: 'Tamsel', model: 'Tamsel M3', platform: 'android' })
    expect(said('videos', 'hevc.mp4', unsaid)).toEqual([['not-playable']])
    expect(said('videos', 'hevc.mp4', model('Tamsel M3', '15'))).toEqual([[]])
  })
})

describe('music', () => {
  it.each([
    ['bought and protected ones can’t cross', 'bought.m4p', 'Orrin 9', [['locked-by-its-shop']]],
    ['lossless of the one family on the other', 'lossless.m4a', 'Tamsel M3', [['not-playable']]],
    ['a container the other family does not know', 'bell.ogg', 'Veyra 12', [['not-playable']]],
    ['the same track in two folders is two', 'twice.mp3', 'Veyra 12', [[], []]],
    ['a wrong ending', 'really flac.mp3', 'Orrin 9', [['extension-corrected']]],
    ['only bought, never loaded', 'only bought.m4a', 'Orrin 9', [['only-in-cloud']]],
    ['no sound at all', 'no sound.mp3', 'Orrin 9', [['no-sound']]],
    ['empty', 'empty.mp3', 'Orrin 9', [['empty-file']]],
  ])('%s', (_, name, to, codes) => expect(said('music', name, model(to))).toEqual(codes))

  it('tags missing, wrong in the list, or larger than anybody reads: what the file says stands before what the list says', () => {
    const shown = (name: string) => {
      const [{ read }] = named('music', name) as [Held]
      return read.ok ? { title: kindOf('music').describe(read.item).title, issues: read.issues } : undefined
    }
    expect(shown('no tags.mp3')).toMatchObject({ title: 'no tags.mp3' })
    expect(shown('other in the list.mp3')).toMatchObject({ title: 'What it is' })
    expect(shown('large cover.mp3')).toMatchObject({ issues: ['tags-too-large'] })
  })

  it('podcast episodes are a slice of their own', () => {
    const [{ read }] = named('music', 'episode 1.m4a') as [Held]
    expect(read.ok && kindOf('music').shape(read.item)).toMatchObject({ podcast: 1, seconds: 1800 })
    expect(read.ok && kindOf('music').archive!.placeOf!(read.item, kindOf('music').filesOf!(read.item)[0]!, 1).folder).toBe(
      'Music/Podcasts',
    )
  })
})

describe('recordings, voicemail and wallpapers go where their owner finds them', () => {
  it('title and date are not in the file: they go into its name, and into itself, where nobody may put it into the list', () => {
    const titled = held.recordings!.find(({ read }) => read.ok && (read.item as OneFile).says.title === 'Tide: 04/11 “low”?')!
    expect(becomes('recordings', titled, model('Orrin 9'))).toMatchObject({ said: [] })
    const there = becomes('recordings', titled, model('Veyra 12'))
    expect(there).toMatchObject({
      said: ['title-in-name', 'title-in-file', 'placed-in-files', 'name-changed'],
      name: 'Tide: 04-11 “low”?.m4a',
    })
    expect(there.item).toMatchObject({ isPlaced: true, folder: 'Recordings', atMs: expect.any(Number) })
    const { handle, atMs } = there.item!
    expect(there.item!.titled).toEqual({ title: 'Tide: 04/11 “low”?', atMs })
    expect([...kindOf('recordings').rewriters!(there.item).keys()]).toEqual([handle])
    // made once, it is what it was made into, and nothing is written a second time
    const made = kindOf('recordings').withMade!(there.item, new Map([[handle, { digest: 'made', sizeBytes: 9 }]])) as OneFile
    expect(made).toMatchObject({ digest: 'made', sizeBytes: 9 })
    expect(kindOf('recordings').rewriters!(made).size).toBe(0)
    // one without a title, and a format that holds none, stay what they are
    for (const [list, name] of [
      ['recordings', 'REC_0104.m4a'],
      ['recordings of Veyra', 'REC_0104.m4a'],
    ] as const)
      for (const one of named(list, name)) expect(becomes('recordings', one, model('Tamsel M3')).said).not.toContain('title-in-file')
    expect(becomes('recordings', titled, model('Tamsel M3')).name).toBe('Tide- 04-11 “low”-.m4a')
  })

  it('who left a message and when stand in the name of a sound file; nobody’s number is said so; what was not loaded can’t cross', () => {
    const of = (name: string) => becomes('voicemail', named('voicemail', name)[0]!, model('Veyra 12'))
    expect(of('vm-2.amr')).toMatchObject({
      said: ['caller-in-name', 'heard-dropped', 'placed-in-files'],
      name: 'Voicemail 2026-11-14 02.30.00 +447700900101.amr',
    })
    expect(of('vm-201.amr').name).toContain('No number')
    expect(of('vm-202.amr').said).toEqual(['only-in-cloud'])
    expect(becomes('voicemail', named('voicemail of Veyra', 'vm-204.m4a')[0]!, model('Orrin 9')).said).toContain('script-dropped')
  })

  it('a wallpaper nobody but its owner may set stands among the photos', () => {
    expect(becomes('wallpapers', named('wallpapers', 'lock.jpg')[0]!, model('Orrin 9'))).toMatchObject({ said: [] })
    expect(becomes('wallpapers', named('wallpapers', 'lock.jpg')[0]!, model('Veyra 12'))).toMatchObject({
      said: ['set-by-owner', 'placed-in-photos'],
      name: 'Wallpaper lock.jpg',
    })
  })
})

describe('documents', () => {
  it('folder paths are kept, and names another file system can’t hold are changed and said', () => {
    const [odd] = named('documents of Veyra', 'what * is <this>.txt') as [Held]
    const there = becomes('documents', odd, model('Orrin 9'))
    expect(there).toMatchObject({ said: ['name-changed'], name: 'what - is -this-.txt' })
    expect(there.item!.folder).toBe('Documents/a- b')
    expect(becomes('documents', odd, model('Veyra 14'))).toMatchObject({ said: [], name: 'what * is <this>.txt' })
  })

  it('the same name with other content is two, and a number behind a name that was taken is none of it', () => {
    const atoms = named('documents', 'list.txt').map(({ read }) => (read.ok ? kindOf('documents').atoms(read.item, tools).join() : ''))
    expect(new Set(atoms).size).toBe(3)
    const [{ read }] = named('documents', 'list.txt') as [Held]
    const item = (read as { item: OneFile }).item
    expect(kindOf('documents').atoms({ ...item, name: 'list (1).txt' }, tools)).toEqual(kindOf('documents').atoms(item, tools))
  })

  it('locked, empty and unknown ones are their owner’s, and cross', () => {
    for (const name of ['locked.pdf', 'empty.txt', 'data.bin', 'README'])
      expect([name, said('documents', name, model('Veyra 12'))]).toEqual([name, [[]]])
  })
})

describe('books', () => {
  it.each([
    ['protected ones, told by their encryption file', 'bought.epub', [['locked-by-its-shop']]],
    ['protected ones to be heard, told by their boxes', 'bought and heard.m4b', [['locked-by-its-shop']]],
    ['a file that only calls itself a book', 'no book.epub', [['no-book']]],
  ])('%s', (_, name, codes) => expect(said('books', name, model('Tamsel M3'))).toEqual(codes))

  it('position and marks stay behind where the phone keeps none', () => {
    const marked = held.books!.find(({ read }) => read.ok && (read.item as OneFile).says.marks && (read.item as OneFile).says.position)!
    expect(becomes('books', marked, model('Orrin 9')).said).toEqual([])
    expect(becomes('books', marked, model('Veyra 12')).said).toEqual(['marks-dropped'])
    expect(becomes('books', marked, model('Tamsel M3')).said).toEqual(['position-dropped', 'marks-dropped'])
  })
})
