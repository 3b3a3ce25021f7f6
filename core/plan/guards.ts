/**
 * Whether the phones look exchanged: the one named new holds at least ten times what the old one holds.
 * Asked once before anything is written; never decided by the product.
 */
export function looksExchanged(oldItems: number, newItems: number): boolean {
  return newItems >= 20 && newItems >= oldItems * 10
}
