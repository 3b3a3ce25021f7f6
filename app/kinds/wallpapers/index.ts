import { Wallpaper } from '@lucide/vue'
import { fileShapes } from '../../words/file-shapes.ts'
import type { KindPack } from '../kind-pack.ts'

export const wallpapers: KindPack = {
  code: 'wallpapers',
  icon: Wallpaper,
  words: {
    title: 'Wallpapers',
    one: 'wallpaper',
    many: 'wallpapers',
    facets: {
      '': 'Any wallpaper',
      'wallpaper-lock': 'Of the lock screen',
      'wallpaper-home': 'Of the home screen',
      'wallpaper-moving': 'Moving',
    },
    shapes: {
      ...fileShapes,
      lock: ['lock screen', 'lock screen'],
      home: ['home screen', 'home screen'],
      moving: ['moving', 'moving'],
    },
    sums: { fileBytes: 'Bytes of files' },
    reasons: {
      'set-by-owner': 'nobody but the customer can set it: the picture is there, to be chosen in the phone’s settings',
      'placed-in-photos': 'it stands among the photos, in an album of its own',
    },
  },
}
