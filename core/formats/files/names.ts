const reserved = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i
const mostBytes = 150

/**
 * A name every file system takes: no character one of them keeps for itself, no name Windows keeps for a device, nothing
 * a reader would turn around or not show, and no longer than most allow with a number behind it.
 * @param fallback where nothing is left of it
 */
export function safeName(name: string, fallback = 'file'): string {
  let text = name
    .normalize('NFC')
    // controls, halves of characters, and what turns text around or is not seen
    .replace(/[\p{Cc}\p{Cf}\p{Cs}\u2028\u2029]/gu, '')
    .replace(/[<>:"/\\|?*]/g, '-')
    .replace(/^[\s.]+|[\s.]+$/g, '')
  if (utf8Length(text) > mostBytes) {
    const ending = /\.[A-Za-z0-9]{1,8}$/.exec(text)?.[0] ?? ''
    let stem = [...text.slice(0, text.length - ending.length)]
    while (utf8Length(stem.join('')) + ending.length > mostBytes) stem = stem.slice(0, -1)
    text = stem.join('').trimEnd() + ending
  }
  if (text === '') return fallback
  return reserved.test(text) ? `_${text}` : text
}

/** The same in letters of ASCII alone, for where a standard knows no others. */
export function asciiName(name: string, fallback = 'file'): string {
  return safeName(name.normalize('NFKD').replace(/[^\x20-\x7e]/g, ''), fallback).replace(/[;%']/g, '-')
}

function utf8Length(text: string): number {
  let n = 0
  for (const character of text) {
    const point = character.codePointAt(0)!
    n += point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4
  }
  return n
}

/**
 * Gives each file a path no other has, whatever file system it comes to: some tell upper and lower case apart, some
 * don't. Asked for the same in the same order, it gives the same.
 */
export function createPaths() {
  const taken = new Set<string>()
  const next = new Map<string, number>()
  return (folder: string, name: string): string => {
    const safe = safeName(name)
    const dot = /\.[A-Za-z0-9]{1,8}$/.exec(safe)?.index ?? safe.length
    const key = `${folder}/${safe}`.toLowerCase()
    for (let n = next.get(key) ?? 1; ; n++) {
      const path = `${folder}/${n === 1 ? safe : `${safe.slice(0, dot)} (${n})${safe.slice(dot)}`}`
      if (taken.has(path.toLowerCase())) continue
      taken.add(path.toLowerCase())
      next.set(key, n + 1)
      return path
    }
  }
}
