import { sniffType } from '#core/formats/sniff.ts'
import { formOn } from '#core/kinds/form.ts'
import { kindOf } from '#core/kinds/registry.ts'
import { readSome } from '../../endpoints/read-some.ts'
import { manyToMeasure, setMeasured } from '../../book/entries/media.queries.ts'
import { openContents } from '../../vault/contents.ts'
import { attach, orWait } from '../../runs/ticket-of-run.ts'
import type { WorkAlone } from '../step.ts'
import { mostPictureBytes, NotConverted, toJpeg } from './converter.ts'

/**
 * Converts a few of the largest pictures that will be converted, and throws them away: how much bigger they get and
 * how long it takes is what the forecast says of the rest. @throws MustWait
 */
export async function measureConversion({ context, ticket, kind: code }: WorkAlone): Promise<void> {
  const kind = kindOf(code)
  if (!kind.conversions) return
  const { pool } = context.services
  const scope = { ticketId: ticket.ticket.id, kind: code }
  const some = await manyToMeasure(pool, scope)
  if (some.length === 0) return
  const { source } = await attach(context, ticket.old)
  let [was, is, ms, n] = [0, 0, 0, 0]
  for (const body of await openContents(pool, ticket.keys, some)) {
    const read = kind.read(body, ticket.toolsFor(ticket.old))
    const changed = read.ok ? formOn(kind, read.item, ticket.target) : undefined
    if (!changed || 'cannot' in changed) continue
    const [one] = kind.conversions(changed.item)
    const file = kind.filesOf!(changed.item).find(({ handle }) => handle === one?.handle)
    if (!file || file.sizeBytes > mostPictureBytes) continue
    const whole = await orWait('old', () => readSome(source, code, file.handle, mostPictureBytes))
    const started = performance.now()
    try {
      const made = await toJpeg(whole, sniffType(whole) ?? '')
      // the first one also starts the decoder
      if (n === 0 && some.length > 1) await toJpeg(whole, sniffType(whole) ?? '')
      const took = performance.now() - started
      was += whole.length
      is += made.length
      ms += n === 0 && some.length > 1 ? took / 2 : took
      n++
    } catch (error) {
      if (!(error instanceof NotConverted)) throw error
    }
  }
  if (n > 0) await context.fenced((client) => setMeasured(client, scope, { conversion: { ratio: is / was, ms: Math.ceil(ms / n), n } }))
}
