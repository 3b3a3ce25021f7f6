import { oneFileKind } from '../one-file/index.ts'
import { documentsFace } from './face.ts'

/** What somebody keeps in folders: any file, in its folder, under its name. */
export const documents = oneFileKind({
  face: documentsFace,
  tag: 'document',
  title: 'Documents',
  content: [],
  isDated: false,
  hasPath: true,
  canBeEmpty: true,
  // a document nobody here can open is its owner's all the same
  isPlayed: false,
  waysOut: ['no-large', 'without'],
  titleOf: ({ name }) => name,
  groupOf: ({ folder }) => folder,
  linesOf: () => [],
  marksOf: ({ sizeBytes, isCloudOnly }) => ({ empty: sizeBytes === 0 && !isCloudOnly }),
  folderOf: ({ folder }) => folder.replace(/^Documents\/?/, ''),
  brings: ({ type }) => /^(text\/|application\/)/.test(type) && type !== 'application/epub+zip',
  page: { by: 'group' },
  sampleOf: { '': { type: 'application/pdf' } },
})
