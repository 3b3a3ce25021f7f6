import { marks } from '../face.ts'
import { filesFace, mostOnCard } from '../one-file/face.ts'

export const documentsFace = filesFace({
  code: 'documents',
  permission: 'files and documents',
  orrin: { keeps: [], folders: true, plainNames: true },
  tamsel: { keeps: [], folders: true, plainNames: true, mostBytes: mostOnCard },
  veyra: { keeps: [], folders: true },
  changes: {
    android: [{ code: 'name-changed', loss: false }],
    tamsel: [{ code: 'name-changed', loss: false }],
  },
  facets: { ...marks('document', ['locked', 'empty', 'cloud']), 'document-large': { fromBytes: 20_000_000 } },
})
