/** What the Levels station shows: the level of the arrangement in use, and the search through keys, octaves and tunings. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Demand, Grade } from '#core/grading/demands'
import { candidates, commonKeys, keysOfMode, paretoBest, type KeyRow } from '#core/grading/keyRows'
import { INSTRUMENTS } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { keyName } from '#core/music/key'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { callCore, latestLane } from '../worker/client'
import { unpack, type Asked, type EasedView } from '../worker/contract'
import { useBench } from './bench'
import { useStudio } from './studio'

export const useLevels = defineStore('levels', () => {
  const bench = useBench()
  const studio = useStudio()
  const grade = shallowRef<Grade | null>(null)
  const problem = ref('')
  /** The demand whose notes are lit. */
  const chosen = shallowRef<Demand | null>(null)

  const lane = latestLane(
    (asked: Asked) => callCore(core => core.grade(asked)).then(unpack),
    g => {
      grade.value = g
      chosen.value = null
      problem.value = ''
    },
    e => (problem.value = e.message),
  )
  /** Asks anew at every change, as long as the station is open. Stop with the function it returns. */
  function follow() {
    const stop = watch(() => bench.result, () => bench.asked && lane.ask(bench.asked), { immediate: true })
    return () => {
      stop()
      cancel()
    }
  } // prettier-ignore

  /** What became of the tune in the version made last. */
  const made = shallowRef<{
    level: Level
    kept: EasedView['kept']
    blocked: EasedView['blocked']
    id: string
  } | null>(null)
  const easing = ref<Level | null>(null)
  async function makeEasier(level: Level) {
    if (!bench.asked || easing.value !== null) return
    easing.value = level
    try {
      const { recipe, kept, blocked } = unpack(await callCore(core => core.easier(bench.asked!, level)))
      const name = `${INSTRUMENTS[recipe.played.instrument].name}, level ${level}`
      bench.takeArrangement({ ...recipe, name: name.charAt(0).toUpperCase() + name.slice(1) })
      made.value = { level, kept, blocked, id: bench.arrangementId }
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    } finally {
      easing.value = null
    }
  }
  const instruments = ref<InstrumentId[]>([...INSTRUMENT_IDS])
  const tunings = ref(false)
  const rows = shallowRef<readonly KeyRow[]>([])
  const progress = ref<{ done: number; of: number } | null>(null)
  const cell = shallowRef<KeyRow | null>(null)
  let run = 0

  /** One key after another, so that the worker can answer others in between and a cancel is felt at once. */
  async function search() {
    const tune = bench.documents?.tune
    if (!tune) return
    const mine = ++run
    rows.value = []
    cell.value = null
    problem.value = ''
    const list = candidates(tune, {
      instruments: instruments.value,
      keys: keysOfMode(tune.key),
      tunings: tunings.value ? 'all' : 'home',
    })
    progress.value = { done: 0, of: list.length }
    try {
      for (const [i, c] of list.entries()) {
        const row = unpack(await callCore(core => core.tryKey(tune, c, studio.context)))
        if (mine !== run) return
        if (row) rows.value = [...rows.value, row]
        progress.value = { done: i + 1, of: list.length }
      }
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    }
    if (mine === run) progress.value = null
  }
  function cancel() {
    run++
    progress.value = null
  }
  // Another tune, other notes: what was found is for the one before.
  watch(() => bench.documents?.tune, () => {
    cancel()
    rows.value = []
    cell.value = null
  }) // prettier-ignore

  const best = computed(() => new Set(paretoBest(rows.value)))
  const common = computed(() =>
    instruments.value.length > 1 && !progress.value
      ? commonKeys(rows.value, instruments.value).slice(0, 3)
      : [],
  )
  function make(row: KeyRow) {
    const name = `${INSTRUMENTS[row.instrument].name} in ${keyName(row.key)}, level ${row.level}`
    bench.takeArrangement({ ...row.recipe, name: name.charAt(0).toUpperCase() + name.slice(1) })
  }

  return { made, easing, makeEasier, grade, problem, chosen, follow, instruments, tunings, rows, progress, cell, search, cancel, best, common, make } // prettier-ignore
})
