/**
 * The drawn systems of a score: broken by measured width, redrawn only where something changed.
 */
import { computed, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { notate } from '#core/page/notation'
import { ALL_MARKS, type MarkOptions } from '#core/page/marks'
import { aligned, systemsOf, type PagePart, type System } from '#core/page/systems'
import { pageMeasurer, PX, UNITS } from '#drawing/measurer'
import { drawSystem, OUTSIDE, rowsOf } from '#drawing/system'
import { bracketOf, leftOf, type DrawnSystem } from '#drawing/systemParts'
import { whenFaceLoads } from './face'
import type { ScorePart } from './scorePart'

/** On screen a staff space is ten pixels. */
const SPACE = UNITS / PX
/** Narrower than this nothing is drawn: the page is not laid out yet. */
const NARROWEST = 200
/**
 * Systems drawn before the page is shown for the first time; the others follow while it can be used already.
 */
const AT_ONCE = 2

export interface ShownScore {
  readonly parts: readonly ScorePart[]
  readonly showTab: boolean
  readonly marks: Partial<MarkOptions>
}

/** All that a drawn system depends on, as text: the same text, the same drawing. */
function keyOf({ notated, tab, label, marks }: PagePart, system: System, o: object): string {
  const music = system.measures.map(m => notated.tune.measures[m.index]!)
  const own = new Set(music.flatMap(m => m.events.map(e => e.id)))
  const slurs = notated.tune.slurs.filter(s => own.has(s.from) || own.has(s.to))
  const measures = system.measures.map(m => tab.measures[m.index])
  return JSON.stringify([
    o,
    system,
    measures,
    music,
    slurs,
    notated.measures[system.measures[0]!.index]!.placed.key,
    notated.tune.clef,
    tab.lineLabels,
    label,
    marks,
  ])
}

/** What holds the parts of a line together, drawn over all of them. */
function bracketOver(parts: readonly DrawnSystem[], left: number): string {
  const above = parts.slice(0, -1).reduce((t, s) => t + s.height, 0)
  return bracketOf(left, parts[0]!.staffTop, above + parts.at(-1)!.staffBottom).outerHTML
}

/** @param width of the score, in pixels */
export function useSystems(width: Ref<number>, shown: ShownScore) {
  /** Part by part within each line: as many to a line as there are parts. */
  const systems = shallowRef<readonly DrawnSystem[]>([])
  /** By line, where the parts have names. */
  const brackets = shallowRef<readonly string[]>([])
  const failure = ref('')
  const cache = new Map<string, DrawnSystem>()
  /** What can't stand under the first: that is said, not left out in silence. */
  const placed = computed(() => aligned(shown.parts))
  const lineUp = computed<readonly PagePart[]>(() =>
    placed.value.together.map(({ tune, tab, label, marks }) => ({
      notated: notate(tune),
      tab,
      ...(label !== undefined && { label }),
      ...(marks && { marks }),
    })),
  )
  const named = computed(() => lineUp.value.some(p => p.label !== undefined))
  let rest: ReturnType<typeof setTimeout> | undefined

  function draw() {
    const full = Math.floor(width.value)
    if (full < NARROWEST) return
    clearTimeout(rest)
    const began = performance.now()
    const marks = { ...ALL_MARKS, ...shown.marks }
    const rows = rowsOf(shown.showTab, marks)
    const o = { width: full, space: SPACE, tab: shown.showTab, marks }
    const used = new Map<string, DrawnSystem>()
    const line = (system: System) =>
      lineUp.value.map((p, i) => {
        // Two parts that look the same are drawn each by itself: a picture stands in one place.
        const key = `${i} ${keyOf(p, system, o)}`
        const drawn = cache.get(key) ?? drawSystem(p, system, o)
        used.set(key, drawn)
        return drawn
      })
    const show = (list: readonly System[]) => {
      const lines = list.map(line)
      systems.value = lines.flat()
      brackets.value = named.value ? lines.map((l, i) => bracketOver(l, leftOf(list[i]!, o))) : []
    }
    guarded(() => {
      const options = { width: (full - OUTSIDE) / PX, space: SPACE, measurer: pageMeasurer, rows }
      const list = systemsOf(lineUp.value, options)
      const first = systems.value.length === 0 ? AT_ONCE : list.length
      show(list.slice(0, first))
      const spent = performance.now() - began
      if (list.length <= first) return done(used, spent)
      // What is drawn already is taken as it is.
      used.forEach((v, k) => cache.set(k, v))
      rest = setTimeout(() => {
        const again = performance.now()
        guarded(() => show(list))
        done(used, spent + performance.now() - again)
      })
    })
  }

  function guarded(work: () => void) {
    try {
      work()
      failure.value = ''
    } catch (e) {
      failure.value = e instanceof Error ? e.message : String(e)
    }
  }

  function done(used: ReadonlyMap<string, DrawnSystem>, spent: number) {
    cache.clear()
    used.forEach((v, k) => cache.set(k, v))
    // Read by the bench: the time drawing took.
    performance.measure('nokta:draw', { start: performance.now() - spent, duration: spent })
  }

  // The marks by what they say: a parent that is drawn anew hands over a new object each time.
  watch([lineUp, width, () => shown.showTab, () => JSON.stringify(shown.marks)], draw, { immediate: true })
  let gone = false
  onScopeDispose(() => {
    gone = true
    clearTimeout(rest)
  })
  whenFaceLoads(() => {
    if (!gone) draw()
  })

  return { systems, brackets, lineUp, placed, failure }
}
