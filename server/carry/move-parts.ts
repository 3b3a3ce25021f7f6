import { createHash } from 'node:crypto'
import type { Kind, Part } from '#core/kinds/kind.ts'
import { LinkError } from '../links/link.ts'
import { MustWait, type RunContext } from '../runs/context.ts'
import { attach, orWait, type Attached, type RunTicket } from '../runs/ticket-of-run.ts'

/**
 * Streams what belongs to items from the old phone to the new one, before the records that name it are written:
 * a bounded pipe, digest on the way. A part that changed on the old phone since it was read is not sent on: the old
 * phone is looked at again. Parts that no record names afterwards go from the new phone with its session.
 * @throws MustWait, LeaseLost
 */
export async function moveParts<Item>(context: RunContext, ticket: RunTicket, { kind, now, forms }: { kind: Kind<Item>; now: Attached; forms: readonly Item[] }): Promise<Item[]> {
  if (!kind.parts || !kind.moveParts || !forms.some((form) => kind.parts!(form).length > 0)) return [...forms]
  const old = await attach(context, ticket.old)
  const out: Item[] = []
  for (const form of forms) {
    const handles = new Map<string, string>()
    for (const part of kind.parts(form)) handles.set(part.handle, await movePart({ kind: kind.code, old, now, part }))
    out.push(handles.size > 0 ? kind.moveParts(form, handles) : form)
  }
  return out
}

async function movePart({ kind, old, now, part }: { kind: string; old: Attached; now: Attached; part: Part }): Promise<string> {
  const hash = createHash('sha256')
  let isFromOld = false
  async function* streamed() {
    try {
      for await (const chunk of old.session.openPart(kind, part.handle)) {
        hash.update(chunk)
        yield chunk
      }
    } catch (error) {
      isFromOld = true
      throw error
    }
  }
  try {
    const handle = await now.session.putPart(kind, streamed())
    if (hash.digest('base64url') !== part.digest) throw new MustWait('PartChanged', 'old')
    return handle
  } catch (error) {
    // whoever failed is who needs a hand
    return await orWait(isFromOld ? 'old' : 'new', () => Promise.reject(error instanceof LinkError || error instanceof MustWait ? error : new LinkError('LinkLost')))
  }
}
