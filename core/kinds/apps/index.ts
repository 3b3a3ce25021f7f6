import { createRecordSplitter } from '../../formats/files/records.ts'
import { appLine, noteInAppRecord, readAppRecord, writeAppRecord } from '../../formats/app-record/index.ts'
import { invariant } from '../../invariant.ts'
import { utf8Bytes } from '../../text/bytes.ts'
import type { Kind, ItemFile } from '../kind.ts'
import { appChanges, byHandChanges, changeApp } from './change.ts'
import { tiedBy, type App, type Known } from './model.ts'
import { appsOn, appsFace } from './face.ts'

export type { App, Candidate, Known } from './model.ts'
export { findCounterpart, type Counterpart } from './counterpart.ts'

/** Raised whenever the same app would give other bytes. */
const appCanonicalVersion = 1

/** The customer's own apps; what a phone came with is nobody's. */
export const apps: Kind<App> = {
  ...appsFace,
  canonicalVersion: appCanonicalVersion,
  joins: false,
  read(bytes) {
    const record = readAppRecord(bytes)
    if (!record) return { ok: false, code: 'no-app' }
    const { catalogue, ...app } = record
    return { ok: true, issues: [], item: { ...app, known: catalogue === '' ? undefined : readKnown(catalogue), tied: tiedBy(app.use) } }
  },
  // which version it is, and whether it was started since, is no content: stores update apps by themselves
  atoms: ({ id, data, dataStays }) => [`app\u001f${id}`, ...(data && !dataStays ? [`data\u001f${data.digest}`] : [])],
  canonicalBytes: (atoms) => utf8Bytes(`apps ${appCanonicalVersion}\n${atoms.join('\n')}`),
  matchKeys: (atoms) => atoms.filter((atom) => atom.startsWith('app\u001f')),
  hasIdentity: true,
  change: changeApp,
  changes: appChanges,
  rules: [
    'has-no-apps',
    'web-page-only',
    'no-counterpart',
    'other-region',
    'needs-newer',
    'package-not-given',
    'other-data-there',
    'file-is-read-only',
    'not-known',
  ],
  issues: [],
  failures: ['no-app', 'attachment-missing', 'stalls', 'reads-differently', 'storage-error'],
  byHand: byHandChanges,
  sample: (from) => ({
    id: 'org.example.sample',
    name: 'a',
    version: '1',
    use: 'tools',
    package: from.platform === 'android' ? { handle: 'p', sizeBytes: 1, digest: 'p' } : undefined,
    data: undefined,
    dataStays: true,
    tied: undefined,
    known: undefined,
  }),
  write({ id, name, version, use, package: pack, data, dataStays }, to) {
    const { write } = appsOn(to)
    invariant(!('cannot' in write), 'only a phone that takes apps is written to')
    return writeAppRecord(
      { id, name, version, use, package: pack, data, dataStays, catalogue: '' },
      write.installs === 'store' ? 'plist' : 'lines',
    )
  },
  filesOf: ({ package: pack, data }) => [pack, data].filter((file): file is ItemFile => file !== undefined),
  noteFiles: (bytes, found) => noteInAppRecord(bytes, { digests: found }),
  noteKnown: (bytes, known) => noteInAppRecord(bytes, { catalogue: JSON.stringify(known) }),
  appId: ({ id }) => id,
  withHandles: (app, handles) => {
    const moved = (file: ItemFile | undefined) => file && { ...file, handle: handles.get(file.handle) ?? file.handle }
    return { ...app, package: moved(app.package), data: moved(app.data) }
  },
  archive: {
    file: 'Apps.jsonl',
    page: { title: 'Apps', by: 'name' },
    // what a file is, is found out by whoever reads it, and never taken from here
    write: ({ package: pack, data, ...app }, { paths }) =>
      appLine(
        { ...app, package: pack && { ...pack, digest: '' }, data: data && { ...data, digest: '' } },
        (handle) => paths.get(handle) ?? '',
      ),
    splitter: () => createRecordSplitter((line) => (line.startsWith('{') ? 'begins' : 'goes-on')),
    brought: { begins: (head) => /^\{"id":"[^"]+","name":/.test(head) },
    placeOf: ({ id, data }, { handle }) => ({ folder: 'Apps', name: `${id}${handle === data?.handle ? '.data' : '.package'}`, atMs: null }),
  },
  sizeBytes: ({ package: pack, data }) => (pack?.sizeBytes ?? 0) + (data?.sizeBytes ?? 0),
  describe: ({ name, id, version, use }) => ({
    title: name || id,
    lines: [
      ['name', name],
      ['app', id],
      ['version', version],
      ['use', use],
    ]
      .filter(([, text]) => text)
      .map(([field, text]) => ({ field: field!, text: text! })),
  }),
  shape({ tied, data, package: pack }) {
    const shape: Record<string, number> = { fileBytes: (pack?.sizeBytes ?? 0) + (data?.sizeBytes ?? 0) }
    if (tied) Object.assign(shape, { tied: 1, [tied]: 1 })
    if (data) shape.data = 1
    return shape
  },
  figures: ['tied', 'fileBytes'],
}

/** What we noted ourselves; anything else is as if nothing was known. */
function readKnown(text: string): Known | undefined {
  try {
    return JSON.parse(text) as Known
  } catch {
    return undefined
  }
}
