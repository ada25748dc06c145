/**
 * A version as one shortest path over the line: a layer for each group of notes, a state for each filling of
 * it (rhythm and pitches together, in its octave), and between them what the melody pays for the way from one
 * to the next. Viterbi 1967, by `core/solver`; measures with the same notes then take the filling that is
 * best for all of them together (their min-marginals added up), measures of one rhythm are drawn to the
 * rhythm most of them have. Different versions by the diverse M-best of Batra, Yadollahpour, Guzman-Rivera
 * and Shakhnarovich (2012): what was chosen before costs more.
 */
import { differentAt } from '#core/solver/alternatives'
import { solveLattice } from '#core/solver/lattice'
import type { Filter, Lattice, Tables } from '#core/solver/tables'
import { fillingsOf, transitionCost, type Filling, type FillingOptions, type Slot } from './fillings'
import type { Level } from '#core/levels/levels'
import type { Source, Span } from './source'
import { VERSION_WEIGHTS as W } from './versionWeights'

export interface SearchOptions extends FillingOptions {
  /** Octaves the phrases may go, by index of phrase. */
  readonly folds: (phrase: number) => readonly number[]
  /** Fillings of a group in an octave, where they were worked out before. */
  readonly known?: Map<string, readonly Filling[]> | undefined
  /** Filling names the teacher wants (true) or has had before (a cost), by id of group. */
  readonly wanted?: ReadonlyMap<string, string> | undefined
  readonly had?: ReadonlyMap<string, ReadonlyMap<string, number>> | undefined
}

export interface Version {
  readonly fillings: readonly Filling[]
  readonly total: number
  /**
   * Other fillings for the groups from one index to another, each with what the whole line costs more; the
   * best first.
   */
  readonly otherwise: (from: number, to: number, count: number) => readonly Otherwise[]
}

export interface Otherwise {
  readonly fillings: readonly Filling[]
  readonly extra: number
}

/** Linear in the groups; null where the tune has no notes, or none of them has a place. */
export function searchVersion(source: Source, o: SearchOptions): Version | null {
  if (source.spans.length === 0 || source.notes.length === 0) return null
  const layers = layersOf(source, o)
  if (layers.some(l => l.length === 0)) return null
  const lattice = latticeOf(source, layers, o)
  const first = solveLattice(lattice)
  if (!Number.isFinite(first.total)) return null
  const drawn = drawnToKin(source, layers, lattice, first)
  const second = solveLattice(drawn)
  const alike = filterOfLike(source, layers, drawn, second)
  const last = solveLattice(drawn, alike)
  const fillings = last.path.map((state, i) => layers[i]![state]!)
  return {
    fillings,
    total: last.total,
    otherwise: (from, to, count) => otherwise(layers, drawn, alike, last, from, to, count),
  }
}

function layersOf(source: Source, o: SearchOptions): Filling[][] {
  const layers: Filling[][] = []
  source.spans.forEach((span, i) => {
    const wanted = o.wanted?.get(span.group.id)
    const had = o.had?.get(span.group.id)
    const all = o.folds(span.phrase).flatMap(fold => knownFillings(source, span, fold, o))
    const held = heldOver(source.spans[i - 1], span, layers[i - 1] ?? [], o.level)
    const list = [...all, ...held].map(f =>
      had?.has(f.name) ? { ...f, cost: f.cost + had.get(f.name)! } : f,
    )
    const only = wanted === undefined ? [] : list.filter(f => f.name === wanted)
    layers.push(only.length > 0 ? only : list)
  })
  return layers
}

/** By group and octave, so that who learned of one group need not work out the others again. */
export const fillingsKey = (group: string, fold: number) => `${group} ${fold}`

function knownFillings(source: Source, span: Span, fold: number, o: SearchOptions): readonly Filling[] {
  const key = fillingsKey(span.group.id, fold)
  const found = o.known?.get(key) ?? fillingsOf(source, span, fold, o)
  o.known?.set(key, found)
  return found
}

/**
 * The note before may go on over a group, where both stand on beats of one measure; in the first years a half
 * cadence is held so, if it is its own note.
 */
function heldOver(before: Span | undefined, span: Span, layer: readonly Filling[], level: Level): Filling[] {
  if (!before || before.group.measure !== span.group.measure || span.phrase !== before.phrase) return []
  if (span.group.length.d > 2 || span.notes.length === 0) return []
  const heights = new Map<string, Filling>()
  for (const f of layer) {
    const last = f.slots.at(-1)
    if (!last?.pitch || last.quarters < 1) continue
    const name = `held ${last.midi}`
    const lost = span.notes.reduce(
      (sum, n) =>
        sum +
        (n.tiedOn ? 0 : n.strength > 0 ? W.lostBeat : W.lostOffbeat) +
        (n.peak ? W.peakLost : 0) +
        (n.goal ? W.goalReplaced : 0),
      0,
    )
    const breathes = level <= 2 && span.notes.some(n => n.goal && (n.midi - last.midi) % 12 === 0)
    const rhythm = { slots: [], own: false }
    heights.set(name, {
      slots: [],
      rhythm,
      fold: f.fold,
      cost: breathes ? W.breath + (lost - W.goalReplaced) / 2 : W.held + lost,
      held: last.midi,
      name: `${f.fold} ${name}`,
    })
  }
  return [...heights.values()]
}

/** What comes last in a filling: where a note is held, that note as it stands over the group. */
function lastSlot(span: Span, f: Filling): Slot | null {
  if (f.held === null) return f.slots.at(-1) ?? null
  const source = span.notes.at(-1)!
  return {
    at: span.start,
    length: span.group.length,
    quarters: span.end - span.start,
    strength: 0,
    short: false,
    threes: false,
    source,
    pitch: source.pitch,
    midi: f.held,
    own: f.held === source.midi + 12 * f.fold,
    string: 0,
  }
}

function latticeOf(source: Source, layers: readonly (readonly Filling[])[], o: SearchOptions): Lattice {
  const unary = layers.map(layer => Float64Array.from(layer, f => f.cost))
  const edges = layers
    .slice(1)
    .map((to, i) => edgesBetween(source, source.spans[i]!, source.spans[i + 1]!, layers[i]!, to, o))
  return { unary, edges }
}

/**
 * Many fillings end on the same note, many begin with the same one: each way between two notes is weighed
 * once.
 */
function edgesBetween(
  source: Source,
  before: Span,
  span: Span,
  from: readonly Filling[],
  to: readonly Filling[],
  o: SearchOptions,
): Float64Array {
  const lasts = distinct(from.map(f => lastSlot(before, f)))
  const firsts = distinct(to.map(f => f.slots[0] ?? null))
  const ways = lasts.slots.map(a => firsts.slots.map(b => (a && b ? transitionCost(source, a, b, o) : 0)))
  const row = new Float64Array(from.length * to.length)
  const phraseGoesOn = before.phrase === span.phrase
  for (let x = 0, k = 0; x < from.length; x++) {
    const [a, last] = [from[x]!, lasts.slots[lasts.of[x]!]!]
    for (let y = 0; y < to.length; y++, k++) {
      const b = to[y]!
      const away = Math.abs(a.fold - b.fold)
      if (away > 0 && phraseGoesOn) row[k] = Infinity
      else if (b.held === null) row[k] = ways[lasts.of[x]!]![firsts.of[y]!]! + away * W.folded
      else
        row[k] = last?.pitch && last.midi === b.held && (a.held !== null || last.quarters >= 1) ? 0 : Infinity
    }
  }
  return row
}

/** The different ones of a list of slots, and which of them each is. */
function distinct(list: readonly (Slot | null)[]): { slots: (Slot | null)[]; of: number[] } {
  const slots: (Slot | null)[] = []
  const known = new Map<string, number>()
  const of = list.map(s => {
    const name =
      s === null
        ? ''
        : `${s.at} ${s.quarters} ${s.pitch ? s.midi : 'z'} ${s.source?.index ?? ''} ${s.own ? 1 : 0}`
    const found = known.get(name) ?? slots.push(s) - 1
    known.set(name, found)
    return found
  })
  return { slots, of }
}

/** Measures of one rhythm are drawn to the rhythm that most of them have in the first solution. */
function drawnToKin(
  source: Source,
  layers: readonly (readonly Filling[])[],
  lattice: Lattice,
  { path }: Tables,
): Lattice {
  const rhythmOf = (f: Filling) =>
    f.held === null ? f.slots.map(s => `${s.length.n}/${s.length.d}`).join(' ') : 'held'
  const counts = new Map<string, Map<string, number>>()
  source.spans.forEach((span, i) => {
    const rhythm = rhythmOf(layers[i]![path[i]!]!)
    const own = counts.get(span.likeRhythm) ?? new Map<string, number>()
    own.set(rhythm, (own.get(rhythm) ?? 0) + 1)
    counts.set(span.likeRhythm, own)
  })
  const unary = lattice.unary.map((costs, i) => {
    const own = counts.get(source.spans[i]!.likeRhythm)!
    const [most] = [...own].sort((a, b) => b[1] - a[1])
    const all = [...own.values()].reduce((a, b) => a + b, 0)
    if (all < 2 || most![1] * 2 <= all) return costs
    return costs.map((c, k) => c + (rhythmOf(layers[i]![k]!) === most![0] ? 0 : W.unlikeKin))
  })
  return { ...lattice, unary }
}

/**
 * Where measures have the same notes, the run of fillings that costs least for all of them together, as a
 * filter on the states.
 */
function filterOfLike(
  source: Source,
  layers: readonly (readonly Filling[])[],
  lattice: Lattice,
  tables: Tables,
): Filter {
  const filter: (Uint8Array | undefined)[] = []
  for (const runs of measuresAlike(source.spans)) {
    const tried = new Map<string, number>()
    for (const run of runs) {
      const names = run.map(i => layers[i]![tables.path[i]!]!.name)
      const name = names.join(' | ')
      if (tried.has(name)) continue
      const costs = runs.map(other => costThrough(lattice, tables, other, stateRun(layers, other, names)))
      tried.set(
        name,
        costs.reduce((a, b) => a + b, 0),
      )
    }
    const [best] = [...tried].sort((a, b) => a[1] - b[1])
    if (!best || !Number.isFinite(best[1])) continue
    const names = best[0].split(' | ')
    for (const run of runs)
      run.forEach((i, k) => (filter[i] = Uint8Array.from(layers[i]!, f => (f.name === names[k] ? 1 : 0))))
  }
  return feasible(lattice, filter) ? filter : []
}

const feasible = (lattice: Lattice, filter: Filter) => Number.isFinite(solveLattice(lattice, filter).total)

/** The groups of measures with the same notes, where there are several such measures. */
function measuresAlike(spans: readonly Span[]): number[][][] {
  const runs = new Map<number, number[]>()
  spans.forEach((s, i) => {
    const { index } = s.group.measure
    runs.set(index, [...(runs.get(index) ?? []), i])
  })
  const byName = new Map<string, number[][]>()
  for (const run of runs.values()) {
    const name = run.map(i => spans[i]!.like).join(' ')
    byName.set(name, [...(byName.get(name) ?? []), run])
  }
  return [...byName.values()].filter(list => list.length > 1)
}

/** The states of a run with these names; null where one of them is missing. */
function stateRun(
  layers: readonly (readonly Filling[])[],
  run: readonly number[],
  names: readonly string[],
): number[] | null {
  const states = run.map((i, k) => layers[i]!.findIndex(f => f.name === names[k]))
  return states.every(s => s >= 0) ? states : null
}

/** Cost of the best path through a run of states. */
function costThrough(
  lattice: Lattice,
  { forward, backward }: Tables,
  run: readonly number[],
  states: readonly number[] | null,
): number {
  if (!states) return Infinity
  const [first, last] = [run[0]!, run.at(-1)!]
  let cost = lattice.unary[first]![states[0]!]!
  if (first > 0) {
    const [rows, width] = [lattice.edges[first - 1]!, lattice.unary[first]!.length]
    cost += forward[first - 1]!.reduce(
      (best, f, a) => Math.min(best, f + rows[a * width + states[0]!]!),
      Infinity,
    )
  }
  run.slice(1).forEach((i, k) => {
    cost +=
      lattice.edges[i - 1]![states[k]! * lattice.unary[i]!.length + states[k + 1]!]! +
      lattice.unary[i]![states[k + 1]!]!
  })
  return cost + backward[last]![states.at(-1)!]!
}

/**
 * Different fillings of a stretch: through every other state of each of its layers the best path, named by
 * what stands in the stretch.
 */
function otherwise(
  layers: readonly (readonly Filling[])[],
  lattice: Lattice,
  filter: Filter,
  solved: Tables,
  from: number,
  to: number,
  count: number,
): Otherwise[] {
  // Within the stretch every filling is free again.
  const free = filter.map((mask, i) => (i >= from && i < to ? undefined : mask))
  const tables = solveLattice(lattice, free)
  const found = new Map<string, Otherwise>()
  const own = solved.path
    .slice(from, to)
    .map((s, k) => layers[from + k]![s]!.name)
    .join(' | ')
  const note = (path: readonly number[], extra: number) => {
    const fillings = path.slice(from, to).map((s, k) => layers[from + k]![s]!)
    const name = fillings.map(f => f.name).join(' | ')
    if (name !== own && extra < (found.get(name)?.extra ?? Infinity)) found.set(name, { fillings, extra })
  }
  note(tables.path, tables.total - solved.total)
  for (let i = from; i < to; i++)
    for (const d of differentAt(lattice, tables, i, s => layers[i]![s]!.name, 3 * count))
      note(d.path, tables.total + d.extra - solved.total)
  return [...found.values()].sort((a, b) => a.extra - b.extra).slice(0, count)
}
