/**
 * What the Hand station shows beside the fingers: the worker's report, another solution laid over the lane,
 * ringing notes.
 */
import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Arrangement } from '#core/arrangement/recipe'
import type { HandComparison } from '#core/teach/compareHands'
import type { HandReport, Solution, SolutionNote } from '#core/teach/handReport'
import { homeTuning } from '#core/instruments/tunings'
import type { PassageRule } from '#core/fingering/passageRule'
import { askPart, latestLane } from '../worker/client'
import type { HandQuestion } from '#core/desk/views'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { useStudio } from './studio'

export const useHand = defineStore('hand', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const studio = useStudio()
  const report = shallowRef<HandReport | null>(null)
  const problem = ref('')
  /** The solution laid over the one in use. */
  const compared = ref<string | null>(null)
  const showRinging = useStorage('nokta.ringing', false)
  /** Open string (0 the highest) that sounds as a drone under the intonation map; null for none. */
  const droneString = ref<number | null>(null)
  /** Pins and choices go to every phrase that repeats the note. */
  const alsoInKin = ref(false)

  const tuning = computed(
    () => part.recipe?.played.tuning ?? homeTuning(part.recipe?.played.instrument ?? 'violin'),
  )
  const lane = latestLane(
    (ask: HandQuestion) => askPart('hand', part.asked!, ask),
    r => {
      report.value = r
      problem.value = ''
    },
    e => (problem.value = e.message),
  )

  /** Asks anew at every change, as long as the station is open. Stop with the function it returns. */
  function follow() {
    void studio.load()
    return watch(
      () => [part.result, part.focus, droneString.value] as const,
      () => {
        if (!part.result || !part.asked) return
        const drone = droneString.value === null ? null : (tuning.value[droneString.value] ?? null)
        lane.ask({ phrase: part.focus, drone })
      },
      { immediate: true },
    )
  }

  const solution = computed<Solution | null>(
    () => report.value?.solutions.find(s => s.id === compared.value) ?? null,
  )
  const ghost = computed<readonly SolutionNote[]>(
    () => solution.value?.changed ?? comparison.value?.changed ?? [],
  )

  /** The other arrangements for this instrument, and the one laid beside this one. */
  const others = computed(() =>
    docs.arrangements.filter(
      a => a.id !== docs.arrangementId && a.arrangement.played.instrument === part.recipe?.played.instrument,
    ),
  )
  const otherId = ref<string | null>(null)
  const other = computed(() => others.value.find(a => a.id === otherId.value) ?? null)
  const comparison = shallowRef<HandComparison | null>(null)
  const comparing = latestLane(
    (with_: Arrangement) => askPart('compareHands', part.asked!, with_),
    c => (comparison.value = other.value ? c : null),
    e => (problem.value = e.message),
  )
  watch([other, () => part.result], () => {
    if (other.value && part.result && part.asked) comparing.ask(other.value.arrangement)
    else comparison.value = null
  })

  const phraseEvents = computed(
    () => part.phrases.find(p => p.id === part.focus)?.events ?? part.result?.events ?? [],
  )
  const endsOf = (events: readonly string[]) =>
    events.length === 0 ? null : { from: events[0]!, to: events.at(-1)! }
  /** The first and last event a rule is for: the notes chosen, else the phrase in view, else all of it. */
  const stretch = computed(() => endsOf(part.selection.length > 1 ? part.selection : phraseEvents.value))

  function addRule(rule: PassageRule['rule'], at = stretch.value) {
    if (at && part.recipe) part.editPlayed({ passages: [...part.recipe.played.passages, { ...at, rule }] })
  }
  const dropRule = (index: number) =>
    part.editPlayed({ passages: part.recipe!.played.passages.filter((_, i) => i !== index) })

  function pinAll(notes: readonly SolutionNote[]) {
    const { pins } = part.recipe!.played
    const pin = ({ string, finger, anchor }: SolutionNote) => ({
      string,
      finger,
      ...(finger !== 0 && { anchor }),
    })
    const own = Object.fromEntries(notes.map(n => [n.id, pin(n)]))
    part.editPlayed({ pins: { ...pins, fingers: { ...pins.fingers, ...own } } })
  }

  /** Takes a solution over: by its rule where it has one, else note by note. */
  function use(s: Solution) {
    if (s.rule) addRule(s.rule, endsOf(phraseEvents.value))
    else pinAll(s.changed)
    compared.value = null
  }

  return {
    report,
    problem,
    compared,
    ghost,
    others,
    otherId,
    comparison,
    pinAll,
    showRinging,
    droneString,
    alsoInKin,
    tuning,
    stretch,
    follow,
    addRule,
    dropRule,
    use,
  }
})
