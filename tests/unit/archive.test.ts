import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asciiName, createPaths, safeName } from '#core/formats/files/names.ts'
import { createRecordSplitter } from '#core/formats/files/records.ts'
import { formOn } from '#core/kinds/form.ts'
import type { FoundFile } from '#core/kinds/kind.ts'
import { kinds } from '#core/kinds/registry.ts'
import { folderModel } from '#core/phones/models.ts'
import { readTools } from '#server/vault/read-tools.ts'
import { phoneKind } from '#standins/kinds/registry.ts'
import { standinModels } from '#standins/phones/models.ts'
import { recordsOf } from '#standins/phones/records.ts'

const tools = readTools({ region: 'GB', zone: 'Europe/London' }, Date.UTC(2026, 10, 27))
const models = standinModels.filter(({ model }) => ['Orrin 5', 'Tamsel M2', 'Veyra 12', 'Holt 5'].includes(model))

/** Cut at every place a stream may be cut at: a few bytes at a time, and all at once. */
function* cutUp(bytes: Buffer, size: number) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
}

describe.each(kinds.map((kind) => [kind.code, kind] as const))('%s taken home as files', (code, kind) => {
  const archive = kind.archive!
  for (const model of models)
    it(`from ${model.model}: every item, traps among them, says the same when its file is read`, () => {
      const giver = recordsOf(model, code)
      if (!giver) return
      const records = [...phoneKind(code)!.contents(model, { seed: 1127, count: 120, style: 'traps' })]
        .filter(({ damage }) => !damage)
        .flatMap(({ stored }) => {
          const record = giver.give(stored)
          return kind.several?.(record) ?? [record]
        })
        .map((record) => {
          const read = kind.read(record, tools)
          const files = read.ok ? (kind.filesOf?.(read.item) ?? []) : []
          const noted = new Map<string, FoundFile>(
            files.map(({ handle, sizeBytes }) => [handle, { sizeBytes, digest: createHash('sha256').update(handle).digest('base64url') }]),
          )
          return kind.noteFiles ? kind.noteFiles(record, noted) : record
        })
      const paths = createPaths()
      /** What the files are found to be when they are streamed from where they stand. */
      const found = new Map<string, FoundFile>()
      const wanted: string[][] = []
      const text = Buffer.concat([
        Buffer.from(archive.head ?? ''),
        ...records.flatMap((record, position) => {
          const read = kind.read(record, tools)
          if (!read.ok) return []
          const formed = formOn(kind, read.item, folderModel)
          if ('cannot' in formed) return []
          wanted.push(kind.atoms(formed.item, tools))
          const at = new Map(
            (kind.filesOf?.(formed.item) ?? []).map((file) => {
              const { folder, name } = archive.placeOf!(formed.item, file, position + 1)
              const path = paths(folder, name)
              found.set(path, file)
              return [file.handle, path]
            }),
          )
          return [Buffer.from(archive.write(formed.item, { record, position: position + 1, paths: at }))]
        }),
        Buffer.from(archive.tail ?? ''),
      ])
      if (records.length === 0) return
      // a phone has one picture of each place
      expect(wanted.length).toBeGreaterThan(code === 'wallpapers' ? 1 : 10)
      for (const size of [7, 4096, text.length]) {
        const splitter = archive.splitter()
        const cut = [...cutUp(text, size)].flatMap((chunk) => [...splitter.push(chunk)])
        const again = [...cut, ...splitter.end()].map((record) => {
          const read = kind.read(kind.noteFiles?.(record, found) ?? record, tools)
          return read.ok ? kind.atoms(read.item, tools) : [read.code]
        })
        expect(again).toEqual(wanted)
      }
    })
})

describe('names', () => {
  it('holds nothing a file system keeps for itself, and no device of Windows’', () => {
    expect(safeName('CON')).toBe('_CON')
    expect(safeName('nul.txt')).toBe('_nul.txt')
    expect(safeName('COM1.tar.gz')).toBe('_COM1.tar.gz')
    expect(safeName('Console.jpg')).toBe('Console.jpg')
    expect(safeName('../../etc/passwd')).toBe('-..-etc-passwd')
    expect(safeName('a:b*c?.jpg ')).toBe('a-b-c-.jpg')
    expect(safeName('evil\u202egpj.exe')).toBe('evilgpj.exe')
    expect(safeName('...')).toBe('file')
    expect(safeName('x'.repeat(400) + '.jpeg')).toHaveLength(150)
    expect(asciiName('Café – 山.png')).toBe('Cafe  .png')
  })

  it('whatever it was called, it is a name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (name) => {
        const safe = safeName(name)
        expect(safe).not.toMatch(/[<>:"/\\|?*\p{Cc}\p{Cs}]|^\.|[. ]$|^$/u)
        expect(Buffer.byteLength(safe)).toBeLessThanOrEqual(152)
        expect(safeName(safe)).toBe(safe)
      }),
      { seed: 1, numRuns: 2000 },
    )
  })

  it('no two paths are the same, whichever letters a file system tells apart', () => {
    const paths = createPaths()
    expect([paths('A', 'x.jpg'), paths('A', 'X.JPG'), paths('A', 'x (2).jpg'), paths('B', 'x.jpg'), paths('A', 'x.jpg')]).toEqual([
      'A/x.jpg',
      'A/X (2).JPG',
      'A/x (2) (2).jpg',
      'B/x.jpg',
      'A/x (3).jpg',
    ])
  })
})

describe('cutting a file into records', () => {
  it('leaves out what stands between them, and gives one that breaks off as far as it goes', () => {
    const splitter = createRecordSplitter((line) => (line === 'B' ? 'begins' : line === 'E' ? 'ends' : 'goes-on'))
    const out = [...splitter.push(Buffer.from('stray\nB\n1\nE\nmore\nB\n2\nB\n')), ...splitter.push(Buffer.from('3')), ...splitter.end()]
    expect(out.map((bytes) => Buffer.from(bytes).toString())).toEqual(['B\n1\nE\n', 'B\n2\n', 'B\n3'])
  })
})
