import type { KindFace } from '../face.ts'
import type { OneFileAbility } from './model.ts'

type Write = OneFileAbility | { readonly cannot: string }

/** What a kind of files is on the phones of each maker, and what the guides say of it. */
export function filesFace({
  code,
  permission,
  orrin,
  tamsel,
  veyra,
  holt,
  changes = {},
  facets,
}: {
  readonly code: string
  readonly permission?: string
  readonly orrin: Write
  readonly tamsel: Write
  readonly veyra: Write
  /** Of keypad phones that give it; they take none. Undefined where they have no such kind. */
  readonly holt?: { readonly cannot: string }
  /** What the guides foretell, by the guide's id. */
  readonly changes?: Readonly<Record<string, readonly { readonly code: string; readonly loss: boolean }[]>>
  readonly facets: KindFace['facets']
}): KindFace {
  const guide = (id: string, write: Write) => ({
    read: true as const,
    write: 'cannot' in write ? write : (true as const),
    changes: [...(changes[id] ?? [])],
  })
  return {
    code,
    group: 'files',
    phones: {
      Orrin: { read: true, write: orrin },
      Tamsel: { read: true, write: tamsel },
      Veyra: { read: true, write: veyra },
      Holt: holt ? { read: true, write: holt } : { read: false, write: none },
      File: { read: true, write: { cannot: 'file-is-read-only' } },
    },
    guides: {
      android: guide('android', orrin),
      tamsel: guide('tamsel', tamsel),
      ios: guide('ios', veyra),
      keypad: holt ? guide('keypad', holt) : { read: none, write: none },
      'holt-5': holt ? guide('holt-5', holt) : { read: none, write: none },
    },
    facets,
    needs: ['charge-ample', 'accounts-still', 'cable-fast'],
    ...(permission ? { permission } : {}),
    isMedia: true,
  }
}

/** Of keypad phones, which have no such kind. */
const none = { cannot: 'no-such-kind' }

/** What a card's file system holds at the most in one file (FAT32). Bytes. */
export const mostOnCard = 4_294_967_295
