import { ListMusic } from '@lucide/vue'
import type { KindPack } from '../kind-pack.ts'

export const playlists: KindPack = {
  code: 'playlists',
  icon: ListMusic,
  words: {
    title: 'Playlists',
    one: 'playlist',
    many: 'playlists',
    facets: {
      '': 'Any playlist',
      'playlist-smart': 'Made by a rule',
      'playlist-gapped': 'With tracks that do not come',
      'playlist-empty': 'Empty',
    },
    shapes: {
      tracks: ['track', 'tracks'],
      smart: ['made by a rule', 'made by a rule'],
      gapped: ['with gaps', 'with gaps'],
      empty: ['empty', 'empty'],
    },
    sums: { tracks: 'Tracks they name' },
    files: { m3u8: 'M3U8' },
    reasons: {
      'tracks-missing': 'some of the tracks it names do not come over; it is carried without them',
      'smart-becomes-fixed': 'its phone makes it anew by a rule; it is carried as it stands now',
      'no-track-comes': 'none of the tracks it names comes over',
      'no-playlist': 'it is no list of tracks',
    },
  },
}
