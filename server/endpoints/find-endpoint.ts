import type { PlaceKind } from '#contracts/http/fields.ts'
import type { Services } from '../base/services.ts'
import type { PhoneRow } from '../case/tickets.queries.ts'
import { LinkError, type Endpoint } from './endpoint.ts'
import { emptyEndpoint } from './makers/nothing.ts'
import { fileEndpoint } from './makers/file.ts'
import { folderEndpoint } from './makers/folder.ts'
import { lockerEndpoint } from './makers/locker.ts'
import { findOnBench } from './ports.ts'
import { openFilesOf, openUpload } from './upload-store.ts'
import { passwordOf } from './brought/uploads.ts'
import { findUpload, manyFiles } from './uploads.queries.ts'
import { findKeys } from '../vault/holdings.ts'

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
    const keys = findKeys(config, upload.id)
    if (!keys) throw new LinkError('KeyAway')
    const sizes = new Map((await manyFiles(pool, upload.id)).map((file) => [file.no, file.size_bytes]))
    return fileEndpoint({
      serial: phone.serial!,
      place: upload.place ?? { region: 'GB', zone: 'Europe/London' },
      kinds: upload.kinds,
      hasWholeCalendar: upload.layout === 1,
      open: (kind) => openUpload(config, upload.id, kind),
      openFile: openFilesOf(config, upload.id, { sizeOf: (no) => sizes.get(no) ?? 0, password: passwordOf(keys, upload) }),
    })
  },
}

/** What a side of a ticket is read from or written to. @throws LinkError `NotPlugged` when it is not there */
export function findEndpoint(services: Services, phone: PhoneRow): Promise<Endpoint> {
  return makers[phone.place](services, phone)
}
