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
