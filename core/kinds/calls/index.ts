import { firstLine } from '../../text/lines.ts'
import { createCardSplitter, readVcards, writeVcard, type PlainProperty } from '../../formats/vcard/index.ts'
import { invariant } from '../../invariant.ts'
import { binaryText, utf8Bytes } from '../../text/bytes.ts'
import { writeBasicTime } from '../../text/zone.ts'
import { csvLine } from '../../formats/csv/write.ts'
import type { Kind } from '../kind.ts'
import { callChanges, changeCall } from './change.ts'
import { callFromVcard, eachCall } from './from-vcard.ts'
import type { Call, CallType } from './model.ts'
import { callsOn, callsFace } from './face.ts'

export type { Call } from './model.ts'

/** Raised whenever the same call would give other bytes. */
const canonicalVersion = 1

const written: Readonly<Record<CallType, { type: string; state?: string }>> = {
  in: { type: 'RECEIVED' },
  out: { type: 'DIALED' },
  missed: { type: 'MISSED' },
  rejected: { type: 'MISSED', state: 'REJECTED' },
  blocked: { type: 'MISSED', state: 'BLOCKED' },
}

const said: Readonly<Record<CallType, string>> = {
  in: 'called',
  out: 'was called',
  missed: 'called, missed',
  rejected: 'called, turned away',
  blocked: 'called, blocked',
}

export const calls: Kind<Call> = {
  ...callsFace,
  canonicalVersion,
  joins: false,
  read(bytes, tools) {
    const [first, ...more] = readVcards(bytes)
    if (!first) return { ok: false, code: 'empty-card' }
    if (more.length > 0) return { ok: false, code: 'more-than-one-card' }
    if (!first.ok) return { ok: false, code: first.code }
    const lossy = first.issues.find((issue) => issue.severity === 'lossy')
    if (lossy) return { ok: false, code: lossy.code }
    const result = callFromVcard(first.card, tools)
    return 'code' in result
      ? { ok: false, code: result.code }
      : { ok: true, item: result.call, issues: first.issues.map((issue) => issue.code) }
  },
  several: eachCall,
  // the name beside a number is made of the contacts, and a phone that does not say how long says nothing
  atoms: (call, tools) => [
    [
      'call',
      call.number ? tools.number(call.number) : 'withheld',
      call.atMs === null ? '' : Math.floor(call.atMs / 1000),
      call.type,
      call.durationS ? `${call.durationS} s` : '',
    ].join('\u001f'),
  ],
  canonicalBytes: (atoms) => utf8Bytes(`calls ${canonicalVersion}\n${atoms.join('\n')}`),
  matchKeys: () => [],
  change: changeCall,
  changes: callChanges,
  rules: ['platform-takes-no-calls', 'phone-takes-no-calls', 'file-is-read-only', 'no-room', 'not-known', 'no-time'],
  issues: ['charset-guessed', 'stray-text', 'no-version'],
  failures: [
    'empty-card',
    'more-than-one-card',
    'no-end',
    'no-version',
    'nested-card',
    'stray-text',
    'line-too-long',
    'line-without-colon',
    'charset-unknown',
    'damaged-base64',
    'damaged-quoted-printable',
    'storage-error',
    'no-call-date',
    'no-call-type',
  ],
  sample: () => ({ number: '1', name: '', type: 'rejected', atMs: 0, durationS: 60 }),
  write(call, to, number) {
    const { write } = callsOn(to)
    invariant(!('cannot' in write), 'only a phone that takes calls is written to')
    return callToVcard(call, write.vcard, number)
  },
  describe: (call) => ({
    title: call.name || call.number,
    lines: [
      ...(call.number ? [{ field: 'phone', text: call.number }] : []),
      ...(call.durationS
        ? [{ field: 'duration', text: `${Math.floor(call.durationS / 60)}:${String(call.durationS % 60).padStart(2, '0')}` }]
        : []),
    ],
  }),
  shape: (call) => ({
    [call.type]: 1,
    ...(call.number ? {} : { withheld: 1 }),
    ...(call.atMs === null ? { timeNotKnown: 1 } : {}),
    ...(call.durationS ? { minutes: Math.ceil(call.durationS / 60) } : {}),
  }),
  at: (call) => call.atMs,
  openFiles: [
    { code: 'calls-vcf', extension: 'vcf', mediaType: 'text/vcard', write: (call, { number }) => callToVcard(call, '3.0', number) },
    {
      code: 'calls-csv',
      extension: 'csv',
      mediaType: 'text/csv; charset=utf-8; header=present',
      head: csvLine(['when', 'type', 'number', 'name', 'seconds']),
      write: (call) =>
        csvLine([
          call.atMs === null ? '' : new Date(call.atMs).toISOString(),
          call.type,
          call.number,
          call.name,
          call.durationS === undefined ? '' : String(call.durationS),
        ]),
    },
  ],
  archive: {
    file: 'Calls.vcf',
    page: { title: 'Calls', by: 'time', says: ({ type }) => said[type] },
    write: (call) => callToVcard(call, '3.0'),
    splitter: createCardSplitter,
    brought: {
      begins: (head) => /^BEGIN:VCARD\s*$/im.test(firstLine(head)),
      takes: (card) => binaryText(card).toUpperCase().includes('X-IRMC-CALL-DATETIME'),
    },
    beside: [{ file: 'Calls.csv', code: 'calls-csv' }],
  },
  /** A phone keeps only so many, the newest. */
  capacity(to) {
    const { write } = callsOn(to)
    return 'cannot' in write ? undefined : write.newest
  },
}

function callToVcard(call: Call, version: '2.1' | '3.0', number?: (text: string) => string): Uint8Array {
  const { type, state } = written[call.type]
  const out: PlainProperty[] = [
    { name: 'N', value: [call.name, '', '', '', ''] },
    { name: 'FN', value: call.name },
    { name: 'TEL', value: call.number ? (number?.(call.number) ?? call.number) : 'withheld' },
    { name: 'X-IRMC-CALL-DATETIME', types: [type], value: call.atMs === null ? '' : writeBasicTime(call.atMs) },
  ]
  if (state) out.push({ name: 'X-CALL-STATE', value: state })
  if (call.durationS !== undefined) out.push({ name: 'X-CALL-DURATION', value: String(call.durationS) })
  return writeVcard(out, version)
}
