/**
 * Fits the weights of the hand to passages: coordinate search from the weights as they stand, held near them
 * by a penalty. What is made small is the number of wrong notes and, where a teacher's fingering is not the
 * cheapest, by how much it is not (the structured hinge; Taskar, Guestrin and Koller 2003).
 */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { fingeringProblem } from '#core/fingering/fingering'
import { SETS } from '#core/fingering/goldens/all'
import type { Independent } from '#core/fingering/goldens/independent'
import type { PlaceSchool } from '#core/fingering/places'
import type { FingeringOptions } from '#core/fingering/problem'
import { fingeringOf, placesOf } from '#core/fingering/testing'
import { WEIGHTS } from '#core/fingering/weights'
import { readAbc } from '#core/formats/abc/readAbc'
import { ANCHOR_COSTS, framesOf, HOME_ANCHOR } from '#core/instruments/hands'
import { lettersOf } from '#core/instruments/instruments'
import type { InstrumentId, Tune } from '#core/music/tune'
import handSetValues from './handSet.json'
import { solveLattice } from '#core/solver/lattice'

/** A passage with everything that does not hang on the weights. */
export interface Prepared {
  readonly name: string
  readonly instrument: InstrumentId
  readonly tune: Tune
  readonly options: FingeringOptions
  readonly want: readonly (readonly string[])[]
}

export interface Judged {
  readonly right: number
  readonly notes: number
  /** What the wanted fingering costs more than the cheapest. */
  readonly regret: number
  readonly got: readonly string[]
}

export function prepareIndependent(p: Independent): Prepared {
  const tune = readAbc(p.abc).tunes[0]!.tune
  const base = newArrangement(p.instrument, 'full')
  const hand = p.options['bass-hand'] as '1-2-4' | '1-2-3-4' | undefined
  const places = p.options.places as PlaceSchool | undefined
  const recipe = withPlayed(base, {
    ...(p.options.octave !== undefined && { octave: Number(p.options.octave) }),
    schools: { ...base.played.schools, ...(hand && { bassHand: hand }), ...(places && { position: places }) },
  })
  const d = derive(tune, recipe, ASSUMED_HANDS)
  return {
    name: p.name,
    instrument: p.instrument,
    tune: d.tune,
    options: d.fingering.problem.options,
    want: p.want,
  }
}

export const prepareOwn = (held: boolean): Prepared[] =>
  SETS.filter(s => s.held === held).flatMap(s =>
    s.passages
      .filter(p => !p.options.pins && !p.options.rules)
      .map(p => {
        const { options } = fingeringOf(p.abc, p.options).problem
        return {
          name: p.name,
          instrument: p.options.instrument,
          tune: tuneIn(p.abc, p.options.unit),
          options,
          want: placesOf(p.fingers).map(w => [w.replace(/[‹›x]/g, '')]),
        }
      }),
  )
const tuneIn = (abc: string, unit = '1/8') =>
  readAbc(`X:1\nT:test\nM:none\nL:${unit}\n${abc}\n`).tunes[0]!.tune

/**
 * @param margin what each wrong note of another fingering must cost at least, for the wanted one to have no
 * regret
 */
export function judge({ instrument, tune, options, want }: Prepared, margin = 0): Judged {
  const problem = fingeringProblem(tune, options)
  const letters = lettersOf(instrument, options.tuning)
  const name = (p: { string: number; finger: unknown }) => `${letters[p.string]}${String(p.finger)}`
  const tables = solveLattice(problem.lattice)
  let at = 0
  const first = problem.tones.map(t => {
    const from = at
    at += t.heads.length
    return from
  })
  const got = problem.tones.flatMap((_, i) =>
    [...problem.states[i]![tables.path[i]!]!.places].sort((a, b) => a.head - b.head).map(name),
  )
  const right = want.filter((w, i) => w.includes(got[i]!)).length
  const done = right === want.length && margin === 0
  if (done || at !== want.length) return { right, notes: want.length, regret: 0, got }
  const allowed = problem.tones.map((_, i) =>
    Uint8Array.from(problem.states[i]!, s =>
      s.places.every(p => want[first[i]! + p.head]!.includes(name(p))) ? 1 : 0,
    ),
  )
  if (!allowed.every(a => a.some(Boolean))) return { right, notes: want.length, regret: 3, got }
  const unary = problem.lattice.unary.map((u, i) => u.map((c, k) => (allowed[i]![k] ? c : c - margin)))
  const cheapest = margin > 0 ? solveLattice({ ...problem.lattice, unary }).total : tables.total
  return { right, notes: want.length, regret: solveLattice(problem.lattice, allowed).total - cheapest, got }
}

/** A number that may be fitted: by name, read and written where it stands. */
interface Dial {
  readonly name: string
  get(): number
  set(value: number): void
}
const dialOf = <K extends string | number>(name: string, at: Record<K, number>, key: K): Dial => ({
  name,
  get: () => at[key],
  set: v => void (at[key] = v),
})

const W = WEIGHTS as unknown as Record<string, number>
/**
 * Schools, and rules the passages hold too few examples of to weigh: these stay as they were set by the
 * example of a teacher.
 */
const SCHOOLS =
  /^open(First|Fourth|FourthAlone|FourthShared|HandShift|HandExtend|InPhrase)$|^other|^sound|^sustainedStopped|^harmonic(Fetched|Below|Marked)|^heldMoved|^torn|^octaveFrame|^slideRun|^(close|open)InRun|^run(Hand|Beat)|^thumbBass|^openAway|^crossing(Leap|Pivot|Held)|^needless|^half(Quick|Shift)$/
const anchors = (Object.keys(ANCHOR_COSTS) as InstrumentId[]).flatMap(id => {
  const costs = ANCHOR_COSTS[id] as { between: number; landmarks: Record<number, number> }
  const own = Object.keys(costs.landmarks)
    .map(Number)
    .filter(h => h !== HOME_ANCHOR)
  return [
    dialOf(`${id} between`, costs, 'between' as never),
    ...own.map(h => dialOf(`${id} at ${h}`, costs.landmarks, h)),
  ]
})
/** What the fourth finger costs at home, by the nut and further up. */
const fourths = framesOf('violin').flatMap((f, k) =>
  f.reaches
    .filter(r => r.finger === 4 && r.mark === 'home')
    .map(r => dialOf(`fourth ${k}`, r as { cost: number }, 'cost')),
)
export const DIALS: readonly Dial[] = [
  ...Object.keys(W)
    .filter(k => !SCHOOLS.test(k))
    .map(k => dialOf(k, W, k)),
  ...anchors,
  ...fourths,
]

export interface FitOptions {
  readonly sweeps: number
  readonly log?: (line: string) => void
}

/** How strongly the weights are held near where they stand. */
const NEAR = 0.3

/** What a wrong note must cost at least: a fingering that wins by a hair wins by chance. */
const MARGIN = 0.08

function badness(p: Prepared): number {
  const { right, notes, regret } = judge(p, MARGIN)
  return (notes - right) * 0.25 + Math.min(2, regret)
}

/** Leaves the fitted weights in place; gives what they were, to go back to. */
export function fit(list: readonly Prepared[], { sweeps, log }: FitOptions): number[] {
  const from = DIALS.map(d => d.get())
  const held = () =>
    DIALS.reduce((sum, d, i) => sum + NEAR * ((d.get() - from[i]!) / (0.2 + Math.abs(from[i]!))) ** 2, 0)
  const loss = () => list.reduce((sum, p) => sum + badness(p), held())
  let best = loss()
  const step = from.map(w => 0.05 + 0.25 * Math.abs(w))
  for (let s = 0; s < sweeps; s++) {
    DIALS.forEach((d, i) => {
      const own = d.get()
      let won = false
      for (const way of [1, -1]) {
        const next = own + way * step[i]!
        // A nuisance never becomes a gain, nor a gain a nuisance.
        if (next * from[i]! < 0) continue
        d.set(next)
        const l = loss()
        if (l < best - 1e-6) {
          best = l
          won = true
          break
        }
        d.set(own)
      }
      step[i]! *= won ? 1.3 : 0.5
    })
    log?.(`sweep ${s + 1}: ${best.toFixed(2)}`)
  }
  return from
}

export const setDials = (values: readonly number[]) => DIALS.forEach((d, i) => d.set(values[i]!))

export const FOLDS = 10

/** The weights as they were set by hand, before any was fitted: every fold begins from them. */
export function handSet(): void {
  const values = handSetValues as Readonly<Record<string, number>>
  for (const d of DIALS) d.set(values[d.name] ?? d.get())
}

/**
 * Tenfold cross-validation: every passage is judged by weights fitted on the others, from {@link handSet}.
 */
export function crossValidate(
  list: readonly Prepared[],
  others: readonly Prepared[],
  o: FitOptions & { readonly folds?: readonly number[] },
): Judged[] {
  const now = DIALS.map(d => d.get())
  const out: Judged[] = new Array(list.length)
  for (const fold of o.folds ?? Array.from({ length: FOLDS }, (_, i) => i)) {
    handSet()
    fit([...list.filter((_, i) => i % FOLDS !== fold), ...others], o)
    list.forEach((p, i) => {
      if (i % FOLDS === fold) out[i] = judge(p)
    })
    o.log?.(`fold ${fold + 1} of ${FOLDS}`)
  }
  setDials(now)
  return out
}
