/** An instant as a field for date and time takes it, by the clock of this browser. */
export function localTime(atMs: number): string {
  return new Date(atMs - new Date(atMs).getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}
