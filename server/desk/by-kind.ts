/** Rows of several kinds, to be asked for by kind. */
export function byKind<Row extends { readonly kind: string }>(rows: readonly Row[]): (kind: string) => Row[] {
  const groups = new Map<string, Row[]>()
  for (const row of rows) {
    const group = groups.get(row.kind)
    if (group) group.push(row)
    else groups.set(row.kind, [row])
  }
  return (kind) => groups.get(kind) ?? []
}
