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

  it('bytes that are none are told apart by their beginning', () => {
    expect(isZip(utf8Bytes('BEGIN:VCARD'))).toBe(false)
    expect(isZip(new Uint8Array(0))).toBe(false)
  })
})
