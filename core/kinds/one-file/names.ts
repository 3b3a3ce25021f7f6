import { renameTo } from '../../formats/sniff.ts'
import type { OneFile } from './model.ts'

/** How the name of a file ends, its point with it: by what it is, else as it is called; nothing where a text ends so already. */
export function endingOf({ name, type }: Pick<OneFile, 'name' | 'type'>, text = ''): string {
  const own = /\.[A-Za-z0-9]{1,8}$/.exec(renameTo(name, type))?.[0] ?? ''
  return text.toLowerCase().endsWith(own.toLowerCase()) ? '' : own
}

/** A moment as it stands in a name: in the order in which names are sorted, without a sign a file system lacks. UTC. */
export function momentInName(atMs: number | null): string {
  return atMs === null ? 'no date' : new Date(atMs).toISOString().slice(0, 19).replace('T', ' ').replaceAll(':', '.')
}
