/** The things of a list by a key each of them has, groups and things in the order they come. */
export function groupBy<T>(list: readonly T[], key: (x: T) => string): Map<string, T[]> {
  const out = new Map<string, T[]>()
  for (const x of list) {
    const k = key(x)
    const group = out.get(k)
    if (group) group.push(x)
    else out.set(k, [x])
  }
  return out
}
