import { nextTick, onMounted, onUpdated, type Ref } from 'vue'

/**
 * A table as one stop (ARIA grid pattern): the arrows, or h j k l, go from one thing that can be pressed to the next,
 * Home and End along the row, with Ctrl to the first and the last row. What can't be pressed is no stop.
 */
export function useGridKeys(table: Ref<HTMLElement | undefined>) {
  let current: HTMLElement | undefined

  const lines = () =>
    [...(table.value?.querySelectorAll<HTMLElement>('tr') ?? [])]
      .map((row) => [...row.querySelectorAll<HTMLElement>('button:not(:disabled)')])
      .filter((stops) => stops.length > 0)

  function settle() {
    const stops = lines().flat()
    if (!current || !stops.includes(current)) current = stops[0]
    for (const stop of stops) stop.tabIndex = stop === current ? 0 : -1
  }
  onMounted(settle)
  onUpdated(() => void nextTick(settle))

  /** Of a row, what stands nearest below or above. */
  function nearest(row: readonly HTMLElement[], to: HTMLElement): HTMLElement {
    const middle = (element: HTMLElement) => {
      const { left, width } = element.getBoundingClientRect()
      return left + width / 2
    }
    const at = middle(to)
    return row.reduce((best, stop) => (Math.abs(middle(stop) - at) < Math.abs(middle(best) - at) ? stop : best))
  }

  function onKeydown(event: KeyboardEvent) {
    if (event.altKey || event.metaKey || !(event.target instanceof HTMLElement)) return
    const rows = lines()
    const y = rows.findIndex((row) => row.includes(event.target as HTMLElement))
    if (y < 0) return
    const row = rows[y]!
    const x = row.indexOf(event.target)
    const from = event.target
    const along = (by: number) => row[Math.max(0, Math.min(row.length - 1, x + by))]
    const across = (by: number) => {
      const other = rows[Math.max(0, Math.min(rows.length - 1, y + by))]!
      return other === row ? from : nearest(other, from)
    }
    const moves: Record<string, () => HTMLElement | undefined> = {
      ArrowRight: () => along(1),
      l: () => along(1),
      ArrowLeft: () => along(-1),
      h: () => along(-1),
      ArrowDown: () => across(1),
      j: () => across(1),
      ArrowUp: () => across(-1),
      k: () => across(-1),
      Home: () => (event.ctrlKey ? rows[0]![0] : row[0]),
      End: () => (event.ctrlKey ? rows.at(-1)!.at(-1) : row.at(-1)),
    }
    const to = moves[event.key]?.()
    if (!to) return
    event.preventDefault()
    to.focus()
  }
  function onFocusin(event: FocusEvent) {
    if (!(event.target instanceof HTMLElement) || !lines().flat().includes(event.target)) return
    current = event.target
    settle()
  }
  return { onKeydown, onFocusin }
}
