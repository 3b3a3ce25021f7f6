import type { Facet } from '#core/kinds/face.ts'
import { faces } from '#core/kinds/faces.ts'

const facets: ReadonlyMap<string, Facet> = new Map(faces.flatMap((face) => Object.entries(face.facets)))

/** A condition on an item `i`; names and figures come from the kinds alone, never from outside. */
function sqlOf(facet: Facet): string {
  if ('has' in facet) return `i.shape ? '${facet.has}'`
  if ('fromBytes' in facet) return `i.size_bytes >= ${facet.fromBytes}`
  return `(i.shape->>'${facet.figure}')::int ${'is' in facet ? `= ${facet.is}` : `> ${facet.moreThan}`}`
}

/** The condition of a shape that may be asked for while masked; undefined when there is no such shape. */
export function facetSql(name: string): string | undefined {
  const facet = facets.get(name)
  return facet && sqlOf(facet)
}

/** Whether the places of a shape's items are kept with a reading; of shapes most items have they are not. */
export function isTagged(name: string): boolean {
  const facet = facets.get(name)
  return facet !== undefined && !facet.isCommon
}

/** An array of the shapes an item `i` of a kind has, of those whose places are kept. */
export function tagsSql(kind: string): string {
  const own = Object.entries(faces.find(({ code }) => code === kind)?.facets ?? {}).filter(([, facet]) => !facet.isCommon)
  if (own.length === 0) return `'{}'::text[]`
  return `array_remove(array[${own.map(([name, facet]) => `case when ${sqlOf(facet)} then '${name}' end`).join(', ')}]::text[], null)`
}
