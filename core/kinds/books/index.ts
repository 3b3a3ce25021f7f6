import { isSound } from '../../formats/sniff.ts'
import { oneFileKind, type OneFile } from '../one-file/index.ts'
import { booksFace } from './face.ts'

const authorOf = ({ seen, says }: OneFile) => seen.artist || (says.author ?? '')

/** Books that are read or heard, with where their owner is in them. */
export const books = oneFileKind({
  face: booksFace,
  tag: 'book',
  title: 'Books',
  isOne: { by: ({ type }) => /^application\/(epub\+zip|pdf)$/.test(type) || isSound(type), rule: 'no-book' },
  content: ['position', 'marks'],
  isDated: false,
  isPlayed: true,
  waysOut: ['without'],
  titleOf: (file) => file.seen.title || file.says.title || file.name,
  groupOf: authorOf,
  linesOf: (file) => [['author', authorOf(file)]],
  marksOf: ({ type, says }) => ({ heard: isSound(type), begun: says.position !== undefined, marked: says.marks !== undefined }),
  brings: ({ type }) => type === 'application/epub+zip',
  page: { by: 'group' },
  sampleOf: { '': { type: 'application/epub+zip' } },
  sampleSays: { position: '0.5', marks: '3' },
})
