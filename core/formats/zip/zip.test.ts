import { zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { utf8Bytes } from '../../text/bytes.ts'
import { createZipReader, isZip, zipLimits } from './read.ts'

function readAll(bytes: Uint8Array, size = 700) {
  const entries: string[] = []
  const reader = createZipReader(() => {
    const at = entries.push('') - 1
    const decoder = new TextDecoder()
    return (chunk, isLast) => void (entries[at] += decoder.decode(chunk, { stream: !isLast }))
  })
  for (let at = 0; at < bytes.length; at += size) reader.push(bytes.subarray(at, at + size))
  return { ...reader.end(), entries }
}
const long = utf8Bytes(Array.from({ length: 4000 }, (_, i) => `TEL:+447700900${i}`).join('\r\n'))

describe('a ZIP', () => {
  it('is read entry after entry as it comes, stored or deflated, in pieces of any size', () => {
    const zip = zipSync({ 'a.vcf': long, 'folder/': new Uint8Array(0), 'b.ics': [utf8Bytes('BEGIN:VCALENDAR'), { level: 0 }] })
    expect(isZip(zip)).toBe(true)
    for (const size of [1, 97, 5000, zip.length]) {
      const { entries, issue } = readAll(zip, size)
      expect([issue, entries]).toEqual([undefined, [new TextDecoder().decode(long), 'BEGIN:VCALENDAR']])
    }
  })

  it('cut in the middle it is damaged, wherever the cut is, and says so', () => {
    const zip = zipSync({ 'a.vcf': long })
    for (const at of [40, 200, Math.floor(zip.length / 2)]) expect(readAll(zip.subarray(0, at)).issue).toBe('zip-damaged')
  })

  it('that inflates beyond its bounds is stopped while inflating', () => {
    expect(readAll(zipSync({ 'bomb.vcf': new Uint8Array(20_000_000) }), 4000).issue).toBe('zip-bomb')
    const many = zipSync(Object.fromEntries(Array.from({ length: zipLimits.entries + 1 }, (_, i) => [`${i}.vcf`, new Uint8Array(1)])))
    expect(readAll(many, 60_000).issue).toBe('zip-too-many-entries')
  })

  it('of folders only is counted like any other', () => {
    const folders = zipSync(Object.fromEntries(Array.from({ length: zipLimits.entries + 1 }, (_, i) => [`${i}/`, new Uint8Array(0)])))
    expect(readAll(folders, 60_000).issue).toBe('zip-too-many-entries')
  })

  it('a folder that holds bytes is passed over, and they count', () => {
    const zip = zipSync({ 'a/': utf8Bytes('not a folder'), 'b.vcf': utf8Bytes('BEGIN:VCARD') })
    expect(readAll(zip)).toEqual({ entries: ['BEGIN:VCARD'], issue: undefined })
    expect(readAll(zipSync({ 'bomb/': new Uint8Array(20_000_000) }), 4000).issue).toBe('zip-bomb')
  })

  const changed = (zip: Uint8Array, change: (view: DataView, directory: number) => void) => {
    const copy = zip.slice()
    const view = new DataView(copy.buffer)
    change(view, view.getUint32(copy.length - 6, true))
    return copy
  }
  it('whose digests or sizes lie is refused whole', () => {
    const zip = zipSync({ 'a.vcf': long, 'b.vcf': [long.subarray(0, 500), { level: 0 }] })
    expect(readAll(zip).issue).toBeUndefined()
    const lies: ((view: DataView, directory: number) => void)[] = [
      (view, at) => view.setUint32(at + 16, 1, true),
      (view, at) => view.setUint32(at + 24, 7, true),
      (view) => view.setUint16(view.byteLength - 12, 1, true),
      (view) => view.setUint8(view.byteLength - 22, 0),
    ]
    for (const lie of lies) expect(readAll(changed(zip, lie)).issue).toBe('zip-damaged')
  })

  it('that is locked with a password says so', () => {
    const zip = zipSync({ 'a.vcf': long })
    const locked = changed(zip, (view, at) => {
      view.setUint16(at + 8, 1, true)
      view.setUint16(6, 1, true)
      view.setUint32(40, 0x12345678, true)
    })
    expect(readAll(locked).issue).toBe('zip-encrypted')
  })

  it('with a long comment, or with its directory larger than one piece, is read all the same', () => {
    const many = zipSync(Object.fromEntries(Array.from({ length: 900 }, (_, i) => [`${i}-${'x'.repeat(200)}.vcf`, utf8Bytes(`n${i}`)])))
    const end = new DataView(many.buffer, many.byteOffset)
    end.setUint16(many.length - 2, 60_000, true)
    const whole = new Uint8Array(many.length + 60_000)
    whole.set(many)
    expect(readAll(whole, 999)).toMatchObject({ issue: undefined, entries: { length: 900 } })
  })

  it('bytes that are none are told apart by their beginning', () => {
    expect(isZip(utf8Bytes('BEGIN:VCARD'))).toBe(false)
    expect(isZip(new Uint8Array(0))).toBe(false)
  })
})
