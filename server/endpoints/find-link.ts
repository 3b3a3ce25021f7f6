import { findUpload } from './uploads.queries.ts'
import type { Services } from '../base/services.ts'
import type { PhoneRow } from '../case/tickets.queries.ts'
import { openUpload } from './upload-store.ts'
import { fileLink } from './makers/file-link.ts'
import { LinkError, type PhoneLink } from './link.ts'
import { standinLink } from './makers/standin-link.ts'

/** The link to a phone of a ticket. @throws LinkError `NotPlugged` when there is none */
export async function findLink(services: Services, phone: PhoneRow): Promise<PhoneLink> {
  const { config, pool } = services
  if (phone.link === 'file') {
    const upload = phone.upload_id ? await findUpload(pool, phone.upload_id) : undefined
    if (!upload) throw new LinkError('NotPlugged')
    return fileLink({
      serial: phone.serial!,
      region: 'GB',
      sizeBytes: upload.size_bytes,
      kinds: upload.kinds,
      open: (kind) => openUpload(config.dataFolder, config.masterKey, { id: upload.id, keyWrapped: upload.key_wrapped }, kind),
    })
  }
  if (!config.link || !phone.serial) throw new LinkError('NotPlugged')
  return standinLink(config.link, phone.serial)
}
