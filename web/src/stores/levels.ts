/**
 * What the Levels station shows: the level of the arrangement in use, and the search through keys, octaves
 * and tunings.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { withoutVersion, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { isMangled } from '#core/arranging/kept'
import { SPICES, type SpiceKind } from '#core/arranging/spices'
import { skillById } from '#core/grading/catalogue'
import type { Demand } from '#core/grading/demands'
import type { MeasureChoice } from '#core/arranging/easing'
import { fitOf, tableFor } from '#core/grading/fit'
import { TIME_WORDS } from '#core/words/arranging'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { LEVELS, type Level } from '#core/levels/levels'
import { keyName, sameKey, type Key } from '#core/music/key'
import { askPart, derivedOf, latestLane } from '../worker/client'
import { keySearch } from './keySearch'
import type { PartDocuments } from '#core/desk/part'
import type { DerivedView, GradeView, VersionKey } from '#core/desk/views'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { usePlayer } from './player'
import { useStudio } from './studio'
import { capital } from '#core/words/places'

/**
 * Milliseconds left to others before each version that nobody asked for yet; of tunes of more measures
 * nothing is made before it is asked for.
 */
const READY_AFTER = 60
const READY_FOR = 100
const wait = (ms: number) => new Promise<void>(done => setTimeout(done, ms))

/** "Viola in D, level 1": what a version is called until the teacher names it. */
function versionName({ played: { instrument, key, level } }: Arrangement): string {
  return capital(`${INSTRUMENTS[instrument].name}${key ? ` in ${keyName(key)}` : ''}, level ${level}`)
}

export const useLevels = defineStore('levels', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const studio = useStudio()
  const player = usePlayer()
  const graded = shallowRef<GradeView | null>(null)
  const learner = computed(
    () => studio.studio.learners.find(l => l.id === part.recipe?.played.learner) ?? null,
  )
  const grade = computed(() => graded.value?.grade ?? null)
  const kept = computed(() => graded.value?.kept ?? null)
  const parts = computed(() => graded.value?.parts ?? [])
  /** What still asks for more than the level the arrangement is made for. */
  const blocked = computed(() => {
    const level = part.recipe?.played.level ?? null
    if (level === null) return []
    const own = table()
    const levelOf = ({ asked, level: plainly }: Demand) =>
      (asked.kind === 'skill' ? own[asked.skill] : undefined) ?? plainly
    return grade.value?.demands.filter(d => levelOf(d) > level) ?? []
  })
  /** The studio's order of skills; for a learner, with what they know and do not know yet. */
  const table = () => {
    const own = studio.tableOf(part.recipe!.played.instrument)
    return learner.value ? tableFor(learner.value, own) : own
  }
  const problem = ref('')
  /** The demand whose notes are lit. */
  const chosen = shallowRef<Demand | null>(null)

  const lane = latestLane(
    (asked: PartDocuments) => askPart('grade', asked, studio.tableOf(asked.recipe.played.instrument)),
    g => {
      graded.value = g
      chosen.value = null
      problem.value = ''
      expectBetter()
      void expectEasier()
    },
    e => (problem.value = e.message),
  )
  /** The arrangement with none of its changes: what the version is laid beside. */
  const plain = shallowRef<DerivedView | null>(null)
  const plainLane = latestLane(
    derivedOf,
    r => (plain.value = r),
    e => (problem.value = e.message),
  )
  let following = false
  /** Asks anew at every change, as long as the station is open. Stop with the function it returns. */
  function follow() {
    following = true
    const stop = watch(
      [() => part.result, () => studio.studio.levels],
      () => {
        const { asked } = part
        if (!asked) return
        lane.ask(asked)
        if (asked.recipe.played.changes.some(c => c.accepted))
          plainLane.ask({ ...asked, recipe: withoutVersion(asked.recipe) })
        else plain.value = null
      },
      { immediate: true },
    )
    return () => {
      following = false
      stop()
      dismiss()
    }
  }

  /** What the side tells: what is asked, or the version. */
  const side = ref<'asks' | 'version'>('asks')
  const making = ref(false)
  async function attempt(work: () => Promise<void>) {
    if (!part.asked || making.value) return
    making.value = true
    try {
      await work()
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
    } finally {
      making.value = false
    }
  }
  const key = ref<VersionKey>('own')
  const easier = (asked: PartDocuments, level: Level) =>
    askPart('easier', asked, level, key.value, table(), learner.value?.fastest ?? null)
  /**
   * Who looks at the ladder takes a rung of it next: the worker gets them ready meanwhile, from the lowest,
   * one at a time.
   */
  async function expectEasier() {
    const { asked } = part
    if (!asked || asked.tune.measures.length > READY_FOR) return
    const wanted = () => following && asked === part.asked && key.value === 'own' && !making.value
    for (const level of LEVELS) {
      await wait(READY_AFTER)
      if (!wanted() || level >= (grade.value?.level ?? 1)) return
      await easier(asked, level).catch(() => null)
    }
  }
  const makeEasier = (level: Level) =>
    attempt(async () => {
      const made = await easier(part.asked!, level)
      docs.takeArrangements([{ ...made, name: versionName(made) }])
      side.value = 'version'
    })

  /**
   * This version in the key where its level lies best; null where it lies well as it is, or nowhere better.
   */
  const better = shallowRef<Arrangement | null>(null)
  const betterLane = latestLane(
    ({ asked, level }: { asked: PartDocuments; level: Level }) =>
      askPart('easier', asked, level, 'best', table(), learner.value?.fastest ?? null),
    (made, { asked }) => {
      const [here, there] = [asked.recipe, made].map(r => r.played.key ?? asked.tune.key) as [Key, Key]
      better.value = sameKey(here, there) ? null : made
    },
    e => (problem.value = e.message),
  )
  /**
   * A version that asks for too much, or has lost what carries its tune, is tried in other keys by itself.
   */
  function expectBetter() {
    better.value = null
    const { asked } = part
    if (!asked) return
    const { eased, level, changes } = asked.recipe.played
    const lost =
      kept.value !== null &&
      isMangled(
        kept.value,
        changes.filter(c => c.accepted),
      )
    if (eased && level !== null && (lost || blocked.value.length > 0)) betterLane.ask({ asked, level })
  }
  function takeBetter() {
    const made = better.value
    if (!made) return
    part.edit(r => ({ ...made, name: r.name === versionName(r) ? versionName(made) : r.name }))
    choices.value = null
  }

  /** The next best different version in the same key, in the place of this one. */
  const another = () =>
    attempt(async () => {
      const { level, eased } = part.recipe!.played
      if (level === null) return
      const fastest = learner.value?.fastest ?? null
      const made = await askPart(
        'easier',
        part.asked!,
        level,
        'own',
        table(),
        fastest,
        (eased?.another ?? 0) + 1,
      )
      part.edit(r => ({ ...made, name: r.name }))
      choices.value = null
    })
  /**
   * Other ways for one measure of the version, while they are looked at: by the written event they were asked
   * for.
   */
  const choices = shallowRef<{ readonly event: string; readonly list: readonly MeasureChoice[] } | null>(null)
  const otherwise = (event: string) =>
    attempt(async () => {
      const list = await askPart('otherwise', part.asked!, event, table(), learner.value?.fastest ?? null)
      choices.value = { event, list }
    })
  function choose({ recipe }: MeasureChoice) {
    part.edit(r => ({ ...recipe, name: r.name }))
    choices.value = null
  }
  /** The measure as it would be, without taking it. */
  const hearChoice = ({ recipe }: MeasureChoice) =>
    attempt(async () => {
      const { asked } = part
      const event = choices.value?.event
      if (!asked || !event) return
      const measure = asked.tune.measures.find(m => m.events.some(e => e.id === event))
      const own = new Set(measure?.events.map(e => e.id) ?? [])
      const of = await derivedOf({ ...asked, recipe })
      const events = of.events.filter(e => own.has(e) || of.origin[e]?.some(o => own.has(o)))
      player.hear([{ events, name: 'this measure', of }])
    })

  /** Kinds of what is added to the arrangement in use; of none left over that were refused one by one. */
  const spices = computed(() => {
    const kinds = new Set(part.recipe?.played.changes.filter(c => c.accepted).map(c => c.kind))
    return SPICES.filter(s => kinds.has(s))
  })
  /** Kinds asked for in vain: nothing of the tune bears them at this level. */
  const inVain = ref<readonly SpiceKind[]>([])
  const spice = (kinds: readonly SpiceKind[]) =>
    attempt(async () => {
      const level = part.recipe!.played.level ?? grade.value?.level ?? 8
      const made = await askPart('enrich', part.asked!, kinds, level, table())
      part.edit(() => made)
      inVain.value = kinds.filter(k => !made.played.changes.some(c => c.accepted && c.kind === k))
    })

  /** The times through one after another: plain, then with more. */
  const hearTimes = () =>
    attempt(async () => {
      const { asked } = part
      if (!asked) return
      const layers = new Set(
        asked.recipe.played.changes.flatMap(c => (c.accepted && c.layer ? [c.layer] : [])),
      )
      const times = ([1, 2, 3] as const).filter(t => t === 1 || layers.has(t))
      const results = await Promise.all(
        times.map(through => derivedOf({ ...asked, recipe: withPlayed(asked.recipe, { through }) })),
      )
      player.hear(results.map((of, i) => ({ events: of.events, name: TIME_WORDS[times[i]!], of })))
    })

  /** A skill is put on another rung, for every tune of the studio; its own rung again is no word at all. */
  function moveSkill(skill: string, level: Level) {
    const { instrument } = part.recipe!.played
    return studio.edit(({ levels }) => {
      const { [skill]: _old, ...rest } = levels[instrument] ?? {}
      const own = skillById(skill)?.levels[instrument] === level
      return { levels: { ...levels, [instrument]: own ? rest : { ...rest, [skill]: level } } }
    })
  }
  function nameLevel(level: Level, name: string) {
    return studio.edit(({ levelNames }) => ({
      levelNames: Array.from({ length: 8 }, (_, i) =>
        i === level - 1 ? name.trim().slice(0, 40) : (levelNames[i] ?? ''),
      ),
    }))
  }

  const fit = computed(() => learner.value && grade.value && fitOf(grade.value.demands, learner.value))

  const { dismiss, ...keys } = keySearch(docs, part, studio, problem)

  return {
    moveSkill,
    nameLevel,
    side,
    making,
    makeEasier,
    another,
    better,
    takeBetter,
    choices,
    otherwise,
    choose,
    hearChoice,
    key,
    spice,
    spices,
    inVain,
    hearTimes,
    grade,
    kept,
    parts,
    blocked,
    plain,
    learner,
    fit,
    problem,
    chosen,
    follow,
    ...keys,
  }
})
