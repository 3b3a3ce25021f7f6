import { generate } from '#standins/files/files.ts'
import { getServices } from '#server/base/services.ts'
import { connectionTo, newCopy } from './copy.ts'
import { peakKb } from './measure.ts'
import { linkRecords } from './shop.ts'

/** Writes a locker and reads it back; prints its peak memory in kB, and how much a second. */
const [what, size] = [process.argv[2]!, Number(process.argv[3])]
const services = getServices('corvend-bench')
const { write, list, attached, name } = await connectionTo(services, await newCopy(services))

async function* media() {
  for (const piece of generate(7, size)) yield piece
}

const began = performance.now()
if (what === 'media') {
  await name('photos', 'h', await attached.sink.putFile('photos', media()))
} else {
  let batch: Parameters<typeof write>[1][number][] = []
  for (const { id, storage, body } of linkRecords('messages', size)) {
    batch.push({ id, storage, body })
    if (batch.length < 200) continue
    await write('messages', batch)
    batch = []
  }
  if (batch.length > 0) await write('messages', batch)
}
const between = performance.now()
let n = 0
if (what === 'media') for await (const chunk of attached.source.openFile('photos', 'h')) n += chunk.length
else for await (const record of list('messages')) n += record.unreadable ? 0 : 1
if (n !== size) throw new Error(`${n} came back of ${size}`)
const ended = performance.now()
const perSecond = { into: size / ((between - began) / 1000), back: size / ((ended - between) / 1000) }
console.log(JSON.stringify({ kb: peakKb(), perSecond }))
process.exit(0)
