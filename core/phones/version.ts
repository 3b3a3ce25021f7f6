/** The first number of a version: `18` of `18.2`; not a number when there is none. */
export function majorVersion(version: string): number {
  return Number.parseInt(version, 10)
}
