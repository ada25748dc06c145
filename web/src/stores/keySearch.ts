/** The search through keys, octaves and tunings: what was found, how far it is, and the best of it. */
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { commonKeys, keyQuestions, keysOfMode, paretoBest, type KeyRow } from '#core/grading/keyRows'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { keyName } from '#core/music/key'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { capital } from '#core/words/places'
import { Crew } from '../worker/crew'
import type { useDocuments } from './documents'
import type { OpenPart } from './openPart'
import type { useStudio } from './studio'

/** Milliseconds between two looks at what was found. */
const BETWEEN_ROWS = 300

/** @param problem where it is told that a search failed */
export function keySearch(
  docs: ReturnType<typeof useDocuments>,
  open: OpenPart,
  studio: ReturnType<typeof useStudio>,
  problem: Ref<string>,
) {
  const instruments = ref<InstrumentId[]>([...INSTRUMENT_IDS])
  const tunings = ref(false)
  const rows = shallowRef<readonly KeyRow[]>([])
  const progress = ref<{ done: number; of: number } | null>(null)
  const cell = shallowRef<KeyRow | null>(null)
  let run: AbortController | null = null
  /** They stay as long as the station is open. */
  const crew = new Crew()
  /**
   * A search is likely to be asked for: who will do it gets ready, with the tune's own key on half of the
   * instruments.
   */
  function expectSearch() {
    const part = open.asked
    if (!part) return
    const { tune } = part
    const own = (instrument: InstrumentId) => ({ instrument, key: tune.key, tunings: [null] })
    crew.gather((line, nth) =>
      Promise.all(
        INSTRUMENT_IDS.filter((_, i) => i % 2 === nth % 2).map(i =>
          line.ask('tryKey', part, own(i), studio.tableOf(i)),
        ),
      ),
    )
  }

  /**
   * Each key by itself, in workers of its own: the page is answered in between, and a cancel is felt at once.
   */
  async function search() {
    const part = open.asked
    if (!part) return
    const { tune } = part
    run?.abort()
    const { signal } = (run = new AbortController())
    rows.value = []
    cell.value = null
    problem.value = ''
    const list = keyQuestions(tune, {
      instruments: instruments.value,
      keys: keysOfMode(tune.key),
      tunings: tunings.value ? 'all' : 'home',
    })
    const of = list.reduce((sum, q) => sum + q.tunings.length, 0)
    progress.value = { done: 0, of }
    const found: KeyRow[] = []
    let done = 0
    let shown = 0
    /** Now and then, not at every answer: the table is drawn anew each time. */
    const show = () => {
      shown = performance.now()
      rows.value = [...found]
      progress.value = { done, of }
    }
    try {
      await crew.askAll(
        list,
        async (line, q) => ({ q, made: await line.ask('tryKey', part, q, studio.tableOf(q.instrument)) }),
        ({ q, made }) => {
          found.push(...made)
          done += q.tunings.length
          if (performance.now() - shown > BETWEEN_ROWS) show()
        },
        signal,
      )
    } catch (e) {
      if (!signal.aborted) problem.value = e instanceof Error ? e.message : String(e)
    }
    if (signal.aborted) return
    show()
    progress.value = null
  }
  function cancel() {
    run?.abort()
    progress.value = null
  }
  // Another tune, other notes: what was found is for the one before.
  watch(
    () => docs.documents?.tune,
    () => {
      cancel()
      rows.value = []
      cell.value = null
    },
  )

  const best = computed(() => new Set(paretoBest(rows.value)))
  const common = computed(() =>
    instruments.value.length > 1 && !progress.value
      ? commonKeys(rows.value, instruments.value).slice(0, 3)
      : [],
  )
  function make(row: KeyRow) {
    const name = `${INSTRUMENTS[row.instrument].name} in ${keyName(row.key)}, level ${row.level}`
    docs.takeArrangements([{ ...row.recipe, name: capital(name) }])
  }

  /** Who searched has nothing more to do. */
  function dismiss() {
    cancel()
    crew.dismiss()
  }

  return {
    instruments,
    tunings,
    rows,
    progress,
    cell,
    expectSearch,
    search,
    cancel,
    best,
    common,
    make,
    dismiss,
  }
}
