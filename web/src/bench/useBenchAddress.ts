/** The arrangement and the phrase that are open, in the address of the bench. */
import { watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { queryWord, replaceQuery } from '../address/inAddress'
import type { useDocuments } from '../stores/documents'
import type { OpenPart } from '../stores/openPart'

export function useBenchAddress(docs: ReturnType<typeof useDocuments>, part: OpenPart) {
  const [route, router] = [useRoute(), useRouter()]
  /** What the address asks for and the tune, not read yet, may have. */
  let wanted: { readonly arrangement?: string; readonly phrase?: string } = {}

  watch(
    () => docs.loading,
    loading => {
      if (loading === 'loading') {
        const [arrangement, phrase] = ['arrangement', 'phrase'].map(key => queryWord(route.query, key))
        wanted = { arrangement, phrase }
      }
      if (loading !== 'ready') return
      const known = docs.arrangements.find(a => a.id === wanted.arrangement)
      if (known) docs.choose(known.id)
      wanted = { ...wanted, arrangement: undefined }
    },
    { flush: 'sync' },
  )
  watch(
    () => part.phrases,
    phrases => {
      if (phrases.length === 0 || wanted.phrase === undefined) return
      const known = phrases.find(p => p.id === wanted.phrase)
      if (known) part.focus = known.id
      wanted = { ...wanted, phrase: undefined }
    },
  )
  watch(
    () => [docs.loading, docs.arrangementId, part.focus, route.path] as const,
    ([loading, arrangement, phrase]) => {
      if (loading !== 'ready' || wanted.phrase !== undefined || route.name !== 'bench') return
      const first = docs.arrangements[0]?.id === arrangement
      replaceQuery(router, {
        arrangement: first ? undefined : arrangement || undefined,
        phrase: phrase ?? undefined,
      })
    },
  )
  /** A station's address: the same arrangement and phrase there. */
  const stationAt = (path: string) => {
    const { arrangement, phrase } = route.query
    return { path, query: { ...(arrangement && { arrangement }), ...(phrase && { phrase }) } }
  }
  return { stationAt }
}
