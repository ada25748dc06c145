/** The shelf: what is looked for, what was found, and taking tunes in. */
import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { withPlayed } from '#core/arrangement/edits'
import { firstRecipe } from '#core/arrangement/first'
import { NO_PINS, type Arrangement } from '#core/arrangement/recipe'
import type { FingerPins } from '#core/fingering/fingerPin'
import type { StoredArrangement } from '#core/formats/backup/backup'
import type { FileTune } from '#core/formats/readFile'
import { INSTRUMENTS, writtenFor } from '#core/instruments/instruments'
import { isHome } from '#core/instruments/tunings'
import type { Tune } from '#core/music/tune'
import { type ShelfQuery, type TuneList, type TuneListItem } from '#contract/documents'
import { api } from '../api/client'

const PAGE = 200
/** Tunes sent at once: few enough for the bar to move, and for a stop to be felt. */
const PART = 40
export function* inParts(list: readonly FileTune[]): Generator<readonly FileTune[]> {
  for (let i = 0; i < list.length; i += PART) yield list.slice(i, i + PART)
}
type Filters = Partial<Pick<ShelfQuery, 'kind' | 'key' | 'metre' | 'instrument' | 'level' | 'tuning' | 'tag'>>
export type Sort = ShelfQuery['sort']

/**
 * The arrangement a tune from a file begins with: for its instrument, with the tuning and the fingers the
 * file gives.
 */
export function firstArrangement(t: FileTune): Arrangement {
  const instrument = writtenFor(t.tune)
  const plain = firstRecipe(t.tune, instrument, 'As written')
  const fits = t.tuning?.length === INSTRUMENTS[instrument].strings.length && !isHome(instrument, t.tuning)
  return withPlayed(plain, {
    ...(fits && { tuning: [...t.tuning!] }),
    pins: { ...NO_PINS, fingers: t.pins },
  })
}

/** Those the file holds; else one to begin with. */
export const arrangementsOf = (t: FileTune): readonly StoredArrangement[] =>
  t.arrangements.length > 0 ? t.arrangements : [{ id: 'first', arrangement: firstArrangement(t) }]

export const useShelf = defineStore('shelf', () => {
  const tunes = shallowRef<readonly TuneListItem[]>([])
  const total = ref(0)
  const shelf = ref(0)
  const facets = shallowRef<TuneList['facets'] | null>(null)
  const state = ref<'loading' | 'ready' | 'failed'>('loading')
  const problem = ref('')
  const search = ref('')
  const filters = reactive<Filters>({})
  const sort = ref<Sort>('title')
  const order = ref<'up' | 'down'>('up')
  let asked = 0

  const query = computed(() => ({
    search: search.value.trim() || undefined,
    ...filters,
    sort: sort.value,
    order: order.value,
  }))
  const filtered = computed(
    () => Object.values(filters).some(v => v !== undefined) || search.value.trim() !== '',
  )

  /** Asks the server; only the newest answer counts. `more` adds the next page. */
  async function load(more = false) {
    const mine = ++asked
    try {
      const found = await api.shelf({ ...query.value, offset: more ? tunes.value.length : 0, limit: PAGE })
      if (mine !== asked) return
      tunes.value = more ? [...tunes.value, ...found.tunes] : found.tunes
      total.value = found.total
      shelf.value = found.shelf
      facets.value = found.facets
      state.value = 'ready'
    } catch (e) {
      if (mine !== asked) return
      state.value = 'failed'
      problem.value = e instanceof Error ? e.message : String(e)
    }
  }
  watch(query, () => void load())

  function showAll() {
    search.value = ''
    for (const f of Object.keys(filters) as (keyof Filters)[]) delete filters[f]
  }

  function sortBy(by: Sort) {
    if (sort.value === by) order.value = order.value === 'up' ? 'down' : 'up'
    else [sort.value, order.value] = [by, 'up']
  }

  /**
   * Puts a tune on the shelf with a first arrangement for the instrument it is written for; returns its id.
   */
  async function add(tune: Tune, source: string | null, pins: FingerPins = {}): Promise<string> {
    const made = await api.createTune(
      source,
      tune,
      firstArrangement({ tune, source, findings: [], pins, tuning: null, arrangements: [] }),
    )
    return made.id
  }

  /** Puts many on the shelf, a part at a time; what is there when it is stopped stays, whole tunes only. */
  async function addAll(
    parts: Iterable<readonly FileTune[]> | AsyncIterable<readonly FileTune[]>,
    progress: (done: number) => void,
    stopped: () => boolean,
  ): Promise<string[]> {
    const ids: string[] = []
    for await (const part of parts) {
      if (stopped()) break
      if (part.length === 0) continue
      const made = await api.importTunes(
        part.map(t => ({ source: t.source, tune: t.tune, arrangements: arrangementsOf(t) })),
      )
      ids.push(...made.ids)
      progress(ids.length)
    }
    return ids
  }

  async function putAway(ids: readonly string[]) {
    for (const id of ids) await api.putAway(id)
    await load()
  }

  /** For good: what nothing was written on. */
  async function throwAway(id: string) {
    await api.putAway(id)
    await api.throwAway(id)
  }

  async function bringBack(ids: readonly string[]) {
    for (const id of ids) await api.bringBack(id)
    await load()
  }

  return {
    tunes,
    total,
    shelf,
    facets,
    state,
    problem,
    search,
    filters,
    filtered,
    sort,
    order,
    load,
    showAll,
    sortBy,
    add,
    addAll,
    putAway,
    throwAway,
    bringBack,
  }
})
