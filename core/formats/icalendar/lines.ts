/** A content line of iCalendar, unfolded (RFC 5545 section 3.1). */
export interface ContentLine {
  readonly name: string
  readonly text: string
}

/** A component with what stands directly in it. */
export interface RawComponent {
  readonly name: string
  readonly lines: readonly string[]
  readonly components: readonly RawComponent[]
  /** It broke off before its END. */
  readonly isCut: boolean
}

const mostDepth = 8
const mostLines = 200_000

/** Unfolds and nests the components of a text. Never throws: what breaks off is marked, what is stray is left out and counted. */
export function readComponents(text: string): { roots: RawComponent[]; strayLines: number } {
  const roots: RawComponent[] = []
  const open: { name: string; lines: string[]; components: RawComponent[] }[] = []
  let strayLines = 0
  const close = (isCut: boolean) => {
    const { name, lines, components } = open.pop()!
    const parent = open.at(-1)
    const component = { name, lines, components, isCut }
    if (parent) parent.components.push(component)
    else roots.push(component)
  }
  for (const line of unfold(text)) {
    // most lines are neither: their first letter says so
    const letter = line.charCodeAt(0) | 32
    const edge = letter === 98 || letter === 101 ? /^(BEGIN|END):([A-Za-z0-9-]+)\s*$/i.exec(line) : null
    const name = edge?.[2]?.toUpperCase() ?? ''
    if (edge?.[1]?.toUpperCase() === 'BEGIN') {
      if (open.length < mostDepth) open.push({ name, lines: [], components: [] })
      else strayLines++
    } else if (edge) {
      const at = open.findLastIndex((component) => component.name === name)
      if (at < 0) {
        strayLines++
        continue
      }
      // an END that skips some: they broke off
      while (open.length > at + 1) close(true)
      close(false)
    } else if (line.trim() !== '') {
      const inside = open.at(-1)
      if (inside && inside.lines.length < mostLines) inside.lines.push(line)
      else strayLines++
    }
  }
  while (open.length > 0) close(true)
  return { roots, strayLines }
}

function unfold(text: string): string[] {
  const bare = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text
  const lines = bare.includes('\r') ? bare.split('\n').flatMap(withoutCr) : bare.split('\n')
  if (!/[\r\n][ \t]/.test(text)) return lines
  const out: string[] = []
  for (const line of lines) {
    if ((line.startsWith(' ') || line.startsWith('\t')) && out.length > 0) out[out.length - 1] += line.slice(1)
    else out.push(line)
  }
  return out
}

/** CR CR LF is one line end, too: a file that went through two hands. A CR of its own ends a line. */
function withoutCr(line: string): string | string[] {
  let end = line.length
  while (end > 0 && line.charCodeAt(end - 1) === 13) end--
  const bare = line.slice(0, end)
  return bare.includes('\r') ? bare.split('\r') : bare
}

/** A component as text again, folded or not: what ical.js reads. */
export function componentText(component: RawComponent): string {
  return [`BEGIN:${component.name}`, ...component.lines, ...component.components.map(componentText), `END:${component.name}`].join('\r\n')
}
