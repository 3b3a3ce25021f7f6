import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'

/** Folders whose imports are looked at: tests and scripts stand on top of all. */
export const tops = ['app', 'contracts', 'core', 'server', 'standins']

/** The storeys of the server, from the ground up: each imports only what stands below it, or beside it in its own. */
export const storeys = ['base', 'vault', 'case', 'endpoints', 'ready', 'runs', 'book', 'line', 'desk', 'events', 'api']
/** Processes and hooks that stand on top, beside api. */
export const onTop = ['worker', 'plugins', 'middleware']

/** Where a specifier of a file leads, as a path from the root; undefined for a package. @param {string} file @param {string} specifier */
export function targetOf(file, specifier) {
  if (specifier.startsWith('#')) return specifier.slice(1)
  if (specifier.startsWith('~/')) return join('app', specifier.slice(2))
  if (specifier.startsWith('.')) return normalize(join(dirname(file), specifier))
  return undefined
}

// a component that is fetched when it is opened closes no circle: it is not there when its file is loaded
const imported = /\bfrom '([^'\n]+)'|^import '([^'\n]+)'|(?<!defineAsyncComponent\(\(\) => )\bimport\('([^'\n]+)'\)/gm

/** The files that a file imports, types included. @param {string} file @param {string} text */
export function importsOf(file, text) {
  const found = new Set()
  for (const [, from, bare, called] of text.matchAll(imported)) {
    const target = targetOf(file, from ?? bare ?? called)
    if (target) found.add(target)
  }
  return [...found]
}

/** Every file of ours and what it imports. @param {string} root */
export function readGraph(root) {
  const listed = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', ...tops], { cwd: root, encoding: 'utf8' })
  const files = listed.split('\n').filter((file) => /\.(ts|vue)$/.test(file) && !file.endsWith('.test.ts') && existsSync(join(root, file)))
  return new Map(files.map((file) => [file, importsOf(file, readFileSync(join(root, file), 'utf8'))]))
}

/** Groups of nodes that reach each other, larger than one (Tarjan). @param {Map<string, string[]>} graph @returns {string[][]} */
export function circlesOf(graph) {
  const index = new Map()
  const low = new Map()
  const stack = []
  const onStack = new Set()
  const out = []
  const visit = (node) => {
    index.set(node, index.size)
    low.set(node, index.get(node))
    stack.push(node)
    onStack.add(node)
    for (const next of graph.get(node) ?? []) {
      if (!graph.has(next)) continue
      if (!index.has(next)) {
        visit(next)
        low.set(node, Math.min(low.get(node), low.get(next)))
      } else if (onStack.has(next)) low.set(node, Math.min(low.get(node), index.get(next)))
    }
    if (low.get(node) !== index.get(node)) return
    const group = []
    for (;;) {
      const last = stack.pop()
      onStack.delete(last)
      group.push(last)
      if (last === node) break
    }
    if (group.length > 1) out.push(group.sort())
  }
  for (const node of graph.keys()) if (!index.has(node)) visit(node)
  return out
}

/** The storey of a file of the server, or undefined. @param {string} file */
export function storeyOf(file) {
  const [top, storey] = file.split('/')
  return top === 'server' ? storey : undefined
}

/** What stands against one file of the server importing another; undefined when nothing does. @param {string} file @param {string} target */
export function againstStoreys(file, target) {
  const [from, to] = [storeyOf(file), storeyOf(target)]
  if (from === undefined || to === undefined || from === to || onTop.includes(from)) return undefined
  if (onTop.includes(to)) return `server/${from}/ must not import server/${to}/, which stands on top`
  const [at, below] = [storeys.indexOf(from), storeys.indexOf(to)]
  if (at < 0) return `server/${from}/ is no storey: ${storeys.join(', ')}`
  if (below < 0) return `server/${to}/ is no storey: ${storeys.join(', ')}`
  return below > at ? `server/${from}/ must not import server/${to}/, which stands above it` : undefined
}
