import { dirname } from 'node:path'
import { againstStoreys, circlesOf, readGraph, storeyOf } from './import-graph.js'

/** Prints how the house is built: folders, arrows between them, arrows that run back up, circles of folders and of files. */
export function printStructure(): void {
  const files = readGraph(process.cwd())
  const inside = new Map([...files].filter(([file]) => file.startsWith('server/')))
  const folderOf = (file: string) => storeyOf(file) ?? dirname(file)
  const folders = new Map<string, Set<string>>()
  let back = 0
  for (const [file, targets] of inside) {
    const from = folderOf(file)
    if (!folders.has(from)) folders.set(from, new Set())
    for (const target of targets) {
      if (!inside.has(target)) continue
      if (folderOf(target) !== from) folders.get(from)!.add(folderOf(target))
      if (againstStoreys(file, target)) back++
    }
  }
  const arrows = [...folders.values()].reduce((sum, to) => sum + to.size, 0)
  const knots = circlesOf(new Map([...folders].map(([from, to]) => [from, [...to]])))
  const circles = circlesOf(files)
  console.log(
    `server: ${folders.size} folders, ${arrows} arrows between them, ${back} imports that run back up, ${knots.length} knots of folders`,
  )
  for (const knot of knots) console.log(`  knot: ${knot.join(', ')}`)
  console.log(`whole tree: ${files.size} files, ${circles.length} circles of files`)
  for (const circle of circles) console.log(`  circle: ${circle.join(', ')}`)
  for (const [from, to] of [...folders].sort()) console.log(`  ${from.padEnd(12)} -> ${[...to].sort().join(' ')}`)
}
