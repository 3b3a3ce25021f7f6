import { endingOf, typeOfMedia, type MediaRecipe } from '../../files/media.ts'
import { fileKindOnPhones, type FileWish } from '../one-file/index.ts'

const lastDay = Date.UTC(2026, 7, 1, 20)
const titles = ['Nets and knots', 'The lighthouse year', 'Bees at sea', 'A choir of gulls', 'Low water'] as const
const authors = ['Ada Oakes', 'Wilf Leeming', 'Ines Harrow'] as const

function* shelf({ seed, count, style = 'plain' }: { seed: number; count: number; style?: 'traps' | 'plain' }): Generator<FileWish> {
  const one = (name: string, media: MediaRecipe, more: Partial<FileWish> = {}): FileWish => ({
    name: `${name}.${endingOf(media)}`,
    recipe: { media },
    type: typeOfMedia(media),
    atMs: lastDay,
    ...more,
  })
  for (let i = 0; i < count; i++) {
    const [title, author, salt] = [`${titles[i % titles.length]!} ${i + 1}`, authors[i % authors.length]!, seed * 1000 + i]
    const media: MediaRecipe = i % 4 === 3 ? { as: 'pdf', title, salt } : { as: 'epub', title, author, salt }
    yield one(title, media, {
      stored: {
        says: {
          title,
          author,
          ...(i % 3 === 0 ? { position: (0.1 + (i % 9) / 10).toFixed(2) } : {}),
          ...(i % 5 === 0 ? { marks: String(1 + (i % 7)) } : {}),
        },
      },
    })
  }
  if (style === 'plain') return
  // bought, heard, bought and heard, the same twice, and a file that only calls itself a book
  yield one('bought', { as: 'epub', title: 'Bought', author: 'Somebody', isProtected: true, salt: seed })
  yield one(
    'heard',
    { as: 'm4b', seconds: 9000, audio: 'mp4a', tags: { title: 'Heard', artist: 'Ada Oakes' }, salt: seed },
    { stored: { says: { position: '1200' } } },
  )
  yield one('bought and heard', { as: 'm4b', seconds: 9000, audio: 'mp4a', isProtected: true, salt: seed + 1 })
  for (const folder of ['Books', 'Download'])
    yield one('twice', { as: 'epub', title: 'Twice', author: 'Ada Oakes', salt: seed + 2 }, { stored: { folder } })
  yield { name: 'no book.epub', recipe: { garbage: seed }, type: 'application/epub+zip', atMs: lastDay }
  yield { ...one('dead', { as: 'epub', title: 'Dead', author: 'x', salt: seed + 3 }), damage: 'storage-error' }
}

/** Books that are read or heard. */
export const books = fileKindOnPhones({
  code: 'books',
  isAsked: false,
  folder: 'Books',
  ways: {
    orrin: { time: 'ms', keeps: ['position', 'marks'], lists: ['title', 'author'] },
    tamsel: { time: 'seconds', keeps: [], lists: ['title'] },
    veyra: { time: 'offset', keeps: ['position'], lists: ['title', 'author', 'marks'] },
    holt: { time: 'ms', keeps: [], hasNone: true },
  },
  files: shelf,
})
