/** Places in a text, in their order. */

/** Index of the last of some sorted places that is not beyond one; -1 when there is none. */
export function lastUpTo(places: readonly { readonly at: number }[], at: number): number {
  let [low, high] = [-1, places.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (places[middle]!.at <= at) low = middle
    else high = middle - 1
  }
  return low
}
