/**
 * Whether the phones look exchanged: the one named new holds something and the old one nothing, or at least ten
 * times what the old one holds.
 * Asked once before anything is written; never decided by the product.
 */
export function looksExchanged(oldItems: number, newItems: number): boolean {
  if (oldItems === 0) return newItems > 0
  return newItems >= 20 && newItems >= oldItems * 10
}
