import { marks, type KindFace } from '../face.ts'

/** What a phone does with lists of tracks. */
export interface PlaylistsAbility {
  /** It makes lists anew by rules of its own. */
  readonly smart: boolean
}

const readOnly = { cannot: 'file-is-read-only' }
const none = { cannot: 'no-such-kind' }

export const playlistsFace: KindFace = {
  code: 'playlists',
  group: 'files',
  phones: {
    Orrin: { read: true, write: { smart: false } },
    Tamsel: { read: true, write: { smart: false } },
    Veyra: { read: true, write: { smart: false } },
    Holt: { read: false, write: none },
    File: { read: true, write: readOnly },
  },
  guides: {
    android: { read: true, write: true, changes: [{ code: 'tracks-missing', loss: true }] },
    tamsel: { read: true, write: true, changes: [{ code: 'tracks-missing', loss: true }] },
    ios: { read: true, write: true, changes: [{ code: 'tracks-missing', loss: true }] },
    keypad: { read: none, write: none },
    'holt-5': { read: none, write: none },
  },
  facets: marks('playlist', ['smart', 'gapped', 'empty']),
  needs: ['accounts-still'],
  // it goes behind the tracks it names
  isMedia: true,
}
