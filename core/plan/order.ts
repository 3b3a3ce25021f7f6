export interface Stretch {
  readonly code: 'first' | 'light' | 'media'
  readonly kinds: readonly string[]
}

/**
 * The order of the line, in its visible stretches: light kinds, then media; before both a kind that was put first because
 * its phone may not last.
 */
export function stretchesOf(kinds: readonly { readonly kind: string; readonly isMedia: boolean }[], first: string | null): Stretch[] {
  const rest = kinds.filter(({ kind }) => kind !== first)
  const stretches: Stretch[] = [
    { code: 'first', kinds: kinds.filter(({ kind }) => kind === first).map(({ kind }) => kind) },
    { code: 'light', kinds: rest.filter(({ isMedia }) => !isMedia).map(({ kind }) => kind) },
    { code: 'media', kinds: rest.filter(({ isMedia }) => isMedia).map(({ kind }) => kind) },
  ]
  return stretches.filter(({ kinds: some }) => some.length > 0)
}
