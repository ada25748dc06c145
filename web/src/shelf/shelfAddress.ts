/** What the shelf is narrowed down by, and how it is sorted, in its address. */
import { watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { shelfQuerySchema } from '#contract/documents'
import { replaceQuery } from '../address/inAddress'
import type { useShelf } from '../stores/shelf'

const WORDS = [
  'search',
  'kind',
  'key',
  'metre',
  'instrument',
  'level',
  'tuning',
  'tag',
  'sort',
  'order',
] as const

export function useShelfAddress(shelf: ReturnType<typeof useShelf>) {
  const [route, router] = [useRoute(), useRouter()]
  const asked = Object.fromEntries(WORDS.flatMap(w => (route.query[w] ? [[w, route.query[w]]] : [])))
  const read = shelfQuerySchema.safeParse(asked)
  if (Object.keys(asked).length > 0 && read.success) {
    const { search, sort, order, offset: _, limit: __, ...filters } = read.data
    shelf.showAll()
    shelf.search = search ?? ''
    Object.assign(shelf.filters, filters)
    shelf.sort = sort
    shelf.order = order
  }
  const usual = shelfQuerySchema.parse({})
  watch(
    () => ({ ...shelf.filters, search: shelf.search?.trim(), sort: shelf.sort, order: shelf.order }),
    now =>
      replaceQuery(
        router,
        Object.fromEntries(
          WORDS.map(w => {
            const value = now[w]
            const plain = value === undefined || value === '' || value === usual[w]
            return [w, plain ? undefined : String(value)]
          }),
        ),
      ),
    { immediate: true },
  )
}
