/** What is open stands in the address, so that a reload, going back, or a copied link comes to the same place. */
import { watch, type Ref } from 'vue'
import { useRoute, useRouter, type LocationQuery, type Router } from 'vue-router'

/** The same place with some of its query told otherwise; undefined takes a word away. */
export function replaceQuery(router: Router, words: Readonly<Record<string, string | undefined>>): void {
  const { path, query, hash } = router.currentRoute.value
  const next = { ...query, ...words }
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key]
  if (sameQuery(query, next)) return
  void router.replace({ path, query: next, hash })
}

const sameQuery = (a: LocationQuery, b: Readonly<Record<string, unknown>>) =>
  Object.keys(a).length === Object.keys(b).length && Object.keys(a).every(k => a[k] === b[k])

export const queryWord = (query: LocationQuery, key: string): string | undefined => {
  const value = query[key]
  return typeof value === 'string' ? value : undefined
}

/**
 * A choice of the page under a word of its own: taken from the address first, then told there when it changes. The
 * first of all goes without saying.
 */
export function useInAddress<T extends string>(key: string, choice: Ref<T>, all: () => readonly T[]): void {
  const [route, router] = [useRoute(), useRouter()]
  const wordOf = (value: T) => ({ [key]: value === all()[0] ? undefined : value })
  const found = all().find(v => v === queryWord(route.query, key))
  if (found !== undefined) choice.value = found
  else replaceQuery(router, wordOf(choice.value))
  watch(choice, value => replaceQuery(router, wordOf(value)))
}
