/** A time as answers say it. */
export function iso(date: Date | null): string | null {
  return date ? date.toISOString() : null
}
