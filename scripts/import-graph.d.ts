export const tops: readonly string[]
export const storeys: readonly string[]
export const onTop: readonly string[]
export function targetOf(file: string, specifier: string): string | undefined
export function importsOf(file: string, text: string): string[]
export function readGraph(root: string): Map<string, string[]>
export function circlesOf(graph: ReadonlyMap<string, readonly string[]>): string[][]
export function storeyOf(file: string): string | undefined
export function againstStoreys(file: string, target: string): string | undefined
