import { marks } from '../face.ts'
import { filesFace } from '../one-file/face.ts'

export const booksFace = filesFace({
  code: 'books',
  orrin: { keeps: ['position', 'marks'] },
  tamsel: { keeps: [] },
  veyra: { keeps: ['position'] },
  changes: {
    tamsel: [
      { code: 'position-dropped', loss: true },
      { code: 'marks-dropped', loss: true },
    ],
    ios: [{ code: 'marks-dropped', loss: true }],
  },
  facets: marks('book', ['heard', 'locked', 'begun', 'marked', 'cloud']),
})
