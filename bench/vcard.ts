import ICAL from 'ical.js'
import { createVcardReader } from '#core/formats/vcard/index.ts'
import { dialects } from '#standins/kinds/contacts/dialects.ts'
import { people } from '#standins/kinds/contacts/people.ts'
import { median, report, sideBySide } from './measure.ts'

/** Reading a 20,000-card vCard 3.0 file card by card, unknown properties kept, against ical.js on the same file. */
export async function measureVcard(): Promise<void> {
  const { veyra } = dialects
  const cards = people({ seed: 3, count: 19_975, style: 'traps' }).map(({ person }) =>
    veyra.give(veyra.store(person)).toString('utf8').replace('END:VCARD', 'X-KEPT:verbatim\r\nEND:VCARD'),
  )
  const file = Buffer.from(cards.join(''))
  const chunks = Array.from({ length: Math.ceil(file.length / 65_536) }, (_, i) => file.subarray(i * 65_536, (i + 1) * 65_536))
  const read = () => {
    const reader = createVcardReader()
    let n = 0
    for (const chunk of chunks) for (const card of reader.push(chunk)) if (card.ok) n++
    for (const card of reader.end()) if (card.ok) n++
    if (n !== cards.length) throw new Error(`read ${n} of ${cards.length}`)
  }
  const readByIcal = () => {
    let n = 0
    for (const card of file.toString('utf8').split(/(?=BEGIN:VCARD)/)) if (ICAL.parse(card)) n++
    if (n !== cards.length) throw new Error(`ical.js read ${n}`)
  }
  const { firstMs, secondMs } = await sideBySide(5, read, readByIcal)
  const floors: number[] = []
  for (let i = 0; i < 6; i++) {
    const began = performance.now()
    const decoder = new TextDecoder()
    let lines = 0
    for (const chunk of chunks) lines += decoder.decode(chunk, { stream: true }).split('\n').length
    if (lines > 0) floors.push(performance.now() - began)
  }
  console.log(
    `${cards.length} cards, ${(file.length / 1e6).toFixed(1)} MB: ours ${firstMs.toFixed(0)} ms, ical.js ${secondMs.toFixed(0)} ms; decode and split alone is ${((median(floors) / firstMs) * 100).toFixed(0)}% of ours`,
  )
  report('vCard reading, ical.js’s time over ours', secondMs / firstMs, { atLeast: 1 })
}
