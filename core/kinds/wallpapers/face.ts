import { marks } from '../face.ts'
import { filesFace } from '../one-file/face.ts'

export const wallpapersFace = filesFace({
  code: 'wallpapers',
  orrin: { keeps: ['places'] },
  tamsel: { keeps: ['places'] },
  // nobody but its owner may set one: it stands among the photos
  veyra: { keeps: [], placed: 'photos' },
  changes: {
    ios: [
      { code: 'set-by-owner', loss: true },
      { code: 'placed-in-photos', loss: false },
    ],
  },
  facets: marks('wallpaper', ['lock', 'home', 'moving']),
})
