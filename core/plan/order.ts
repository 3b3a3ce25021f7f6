export interface LinePart {
  readonly part: 'first' | 'light' | 'media'
  readonly kinds: readonly string[]
}

/**
 * The order of the line, in its visible parts: light kinds, then media; before both a kind that was put first because
 * its phone may not last.
 */
export function lineParts(kinds: readonly { readonly kind: string; readonly isMedia: boolean }[], first: string | null): LinePart[] {
  const rest = kinds.filter(({ kind }) => kind !== first)
  const parts: LinePart[] = [
    { part: 'first', kinds: kinds.filter(({ kind }) => kind === first).map(({ kind }) => kind) },
    { part: 'light', kinds: rest.filter(({ isMedia }) => !isMedia).map(({ kind }) => kind) },
    { part: 'media', kinds: rest.filter(({ isMedia }) => isMedia).map(({ kind }) => kind) },
  ]
  return parts.filter((part) => part.kinds.length > 0)
}
