/** Shapes that may be asked for while masked. */
const facets: Readonly<Record<string, string>> = {
  'with-photo': `(i.shape->>'photo')::int > 0`,
  'no-name': `(i.shape->>'named')::int = 0`,
  'several-numbers': `(i.shape->>'phones')::int > 1`,
  'no-number': `(i.shape->>'phones')::int = 0`,
  'in-groups': `(i.shape->>'groups')::int > 0`,
  ...Object.fromEntries(['in', 'out', 'missed', 'rejected', 'blocked', 'withheld'].map((name) => [`call-${name}`, `i.shape ? '${name}'`])),
  ...Object.fromEntries(
    ['received', 'sent', 'draft', 'failed', 'sms', 'mms', 'chat', 'group', 'attachments', 'unread', 'line2'].map((name) => [
      `message-${name}`,
      `i.shape ? '${name}'`,
    ]),
  ),
  'event-occurs': `(i.shape->>'occurrences')::int > 0`,
  ...Object.fromEntries(['series', 'single', 'allDay', 'overrides', 'alarms'].map((name) => [`event-${name}`, `i.shape ? '${name}'`])),
  ...Object.fromEntries(
    ['film', 'moving', 'edited', 'favourite', 'hidden', 'burst', 'cloud', 'damaged', 'turned', 'placed', 'heic'].map((name) => [
      `photo-${name}`,
      `i.shape ? '${name}'`,
    ]),
  ),
  'photo-large': `i.size_bytes >= 10000000`,
  'photo-files': `(i.shape->>'files')::int > 0`,
  ...Object.fromEntries(['tied', 'bank', 'codes', 'wallet', 'chat', 'data'].map((name) => [`app-${name}`, `i.shape ? '${name}'`])),
}

/** The condition of a shape that may be asked for while masked; undefined when there is no such shape. */
export function facetSql(name: string): string | undefined {
  return Object.hasOwn(facets, name) ? facets[name] : undefined
}

/** Shapes most items of a kind have: walking along the list finds a page of them at once. */
const common: ReadonlySet<string> = new Set([
  ...['message-received', 'message-sent', 'message-sms', 'call-in', 'call-out', 'call-missed', 'event-single', 'event-occurs'],
  ...['photo-files', 'app-data'],
])

/** Whether the places of a shape's items are kept with a reading. */
export function isTagged(facet: string): boolean {
  return Object.hasOwn(facets, facet) && !common.has(facet)
}

/** An array of the shapes an item `i` has, of those whose places are kept; by the words they begin with, a kind's own. */
export function tagsSql(prefix: string): string {
  const own = Object.entries(facets).filter(([name]) => isTagged(name) && prefixOf(name) === prefix)
  return `array_remove(array[${own.map(([name, condition]) => `case when ${condition} then '${name}' end`).join(', ')}]::text[], null)`
}

const prefixes = ['call', 'message', 'event', 'photo', 'app']
const prefixOf = (name: string) => prefixes.find((prefix) => name.startsWith(`${prefix}-`)) ?? ''

/** Which shapes are a kind's. */
export const prefixOfKind: Readonly<Record<string, string>> = {
  contacts: '',
  calls: 'call',
  messages: 'message',
  calendar: 'event',
  photos: 'photo',
  apps: 'app',
}
