/**
 * States what must hold in our own code. Never for a customer's data: that yields issues.
 * @throws Error naming what did not hold
 */
export function invariant(condition: unknown, held: string): asserts condition {
  if (!condition) throw new Error(`Invariant broken: ${held}`)
}
