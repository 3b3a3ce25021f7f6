import type { PlaceKind } from '#contracts/http/fields.ts'
import type { Services } from '../base/services.ts'
import type { PhoneRow } from '../case/tickets.queries.ts'
import { LinkError, type Endpoint } from './endpoint.ts'
import { emptyEndpoint } from './makers/nothing.ts'
import { fileEndpoint } from './makers/file.ts'
import { folderEndpoint } from './makers/folder.ts'
import { lockerEndpoint } from './makers/locker.ts'
import { findOnBench } from './ports.ts'
import { openUpload } from './upload-store.ts'
import { findUpload } from './uploads.queries.ts'

/** Who makes the endpoint of a side, by what place it names. @throws LinkError `NotPlugged` when there is none */
const makers: Readonly<Record<PlaceKind, (services: Services, phone: PhoneRow) => Promise<Endpoint>>> = {
  async bench(services, { serial }) {
    if (!serial) throw new LinkError('NotPlugged')
    return findOnBench(services, serial)
  },
  async locker(services, { copy_id: copyId, ticket_id: ticketId, side }) {
    if (copyId === null) throw new LinkError('CopyGone')
    return lockerEndpoint(services, copyId, { ticketId, side })
  },
  async folder(services, { copy_id: copyId, ticket_id: ticketId }) {
    if (copyId === null) throw new LinkError('CopyGone')
    return folderEndpoint(services, copyId, { ticketId })
  },
  async nothing(_, { serial }) {
    return emptyEndpoint(serial!)
  },
  async file({ config, pool }, phone) {
    const upload = phone.upload_id ? await findUpload(pool, phone.upload_id) : undefined
    if (!upload) throw new LinkError('NotPlugged')
    return fileEndpoint({
      serial: phone.serial!,
      region: 'GB',
      kinds: upload.kinds,
      open: (kind) => openUpload(config, upload.id, kind),
    })
  },
}

/** What a side of a ticket is read from or written to. @throws LinkError `NotPlugged` when it is not there */
export function findEndpoint(services: Services, phone: PhoneRow): Promise<Endpoint> {
  return makers[phone.place](services, phone)
}
