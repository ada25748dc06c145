/**
 * The states of a line's tones. The same notes have the same states wherever they return, so they are made
 * once and shared; that also lets the costs between two groups of notes be computed once.
 */
import { finding, type Finding } from '#core/findings/finding'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { HOME_ANCHOR } from '#core/instruments/hands'
import { formatPitch, pitchOfMidi } from '#core/music/pitch'
import { candidates, lowestAnchor, openAnchors, type Hand, type HandState } from './candidates'
import { QUICKEST } from '#core/line/time'
import { contextKey } from './costKeys'
import { newFingeringCache, type FingeringCache, type StateSet } from './cache'
import { excess, isTooBig, outOfBounds, type OutOfBounds } from './limits'
import { stateCost } from './costs'
import type { CostContext, FingeringOptions } from './problem'
import type { Tone } from '#core/line/tones'

/**
 * States kept for a tone; the cheapest of every string and finger is always among them, so that any pin finds
 * its place.
 */
const STATES_KEPT = 20

export interface Playable {
  readonly tones: readonly Tone[]
  readonly sets: readonly StateSet[]
  readonly findings: readonly Finding[]
}

/** Its notes, and whether they are written as harmonics: all that its places hang on. */
const keyOf = (t: Tone) =>
  `${t.heads.map(h => `${formatPitch(h.pitch)}${h.sounding}`).join(' ')}${t.harmonic ? ' harmonic' : ''}`

/** What is kept under a key, made when it is not there. */
function kept<T>(map: Map<string, T>, key: string, make: (key: string) => T): T {
  const found = map.get(key)
  if (found !== undefined) return found
  const made = make(key)
  map.set(key, made)
  return made
}
const groupOf = <T>(groups: Map<string, Map<string, T>>, about: unknown) =>
  kept(groups, JSON.stringify(about), () => new Map<string, T>())

/**
 * Where a tone lies: off the instrument, on it but beyond level and reach, or within them. Of notes that no
 * hand holds together the top one counts.
 */
function whereIs(tone: Tone, hand: Hand, options: FingeringOptions): 'off' | 'beyond' | 'within' {
  const all = candidates(tone, hand, [HOME_ANCHOR])
  if (all.length > 0) return withinLimits(all, options).missing ? 'beyond' : 'within'
  return tone.heads.length > 1 ? whereIs({ ...tone, heads: tone.heads.slice(-1) }, hand, options) : 'off'
}
const handOf = ({ instrument, tuning, hand }: FingeringOptions): Hand => ({
  instrument,
  tuning,
  options: hand ?? {},
})

/** How many tones have no place on the instrument at all, and how many none within level and reach. */
export function outOfReach(
  tones: readonly Tone[],
  options: FingeringOptions,
): { readonly off: number; readonly beyond: number } {
  const hand = handOf(options)
  const known = new Map<string, ReturnType<typeof whereIs>>()
  const found = tones.map(t => kept(known, keyOf(t), () => whereIs(t, hand, options)))
  return { off: found.filter(f => f === 'off').length, beyond: found.filter(f => f === 'beyond').length }
}

/**
 * Every tone has a place on the instrument, within level and reach; looks no further than the first that has
 * none.
 */
export function allInReach(tones: readonly Tone[], options: FingeringOptions): boolean {
  const hand = handOf(options)
  return tones.every(t => whereIs(t, hand, options) === 'within')
}

/**
 * Finds the states of every tone; drops tones that are off the instrument and takes the top note of chords no
 * hand can hold. Both are told.
 */
export function playable(
  all: readonly Tone[],
  options: FingeringOptions,
  context: CostContext,
  cache: FingeringCache = newFingeringCache(),
): Playable {
  const hand = handOf(options)
  const lowest = groupOf(cache.lowest, hand)
  const lowestOf = (t: Tone) => kept(lowest, String(t.heads.at(-1)!.sounding), () => lowestAnchor(t, hand))
  const anchors = openAnchors(all, hand, lowestOf)
  const { length, level, span } = options
  const places = groupOf(cache.places, [hand, anchors])
  const known = groupOf(cache.sets, [hand, anchors, length, level, span, contextKey(context)])
  const setOf = (tone: Tone): StateSet =>
    kept(known, keyOf(tone), key => {
      const all = kept(places, key, () => candidates(tone, hand, anchors))
      const { states, missing } = withinLimits(all, options)
      const open = states.some(s => s.places.every(p => p.finger === 0))
      return { index: cache.count++, states: prune(states, tone, context), open, missing }
    })
  const tones: Tone[] = []
  const sets: StateSet[] = []
  const findings: Finding[] = []
  for (const given of all) {
    const [tone, set] = holdable(given, setOf, options, findings)
    if (set.states.length === 0) findings.push(offFinding(tone, options))
    else {
      if (set.missing) findings.push(limitFinding(tone, set.missing, options))
      tones.push(tone)
      sets.push(set)
    }
  }
  return { tones, sets, findings }
}

function holdable(
  tone: Tone,
  setOf: (t: Tone) => StateSet,
  options: FingeringOptions,
  findings: Finding[],
): [Tone, StateSet] {
  const set = setOf(tone)
  if (set.states.length > 0 || tone.heads.length === 1) return [tone, set]
  const pitches = tone.heads
    .slice(0, 6)
    .map(h => formatPitch(h.pitch))
    .join(' ')
  const values = { pitches, instrument: INSTRUMENTS[options.instrument].name }
  findings.push(finding('finger.noDoubleStop', 'warning', { measure: tone.measure, note: tone.id }, values))
  const top = { ...tone, heads: tone.heads.slice(-1) }
  return [top, setOf(top)]
}

function offFinding(t: Tone, { instrument, tuning }: FingeringOptions): Finding {
  const head = t.heads.at(-1)!
  const { name, highest, writtenAbove } = INSTRUMENTS[instrument]
  const where = { measure: t.measure, note: t.id }
  const values = { pitch: formatPitch(head.pitch), instrument: name }
  const lowest = Math.min(...tuning)
  const written = (m: number) => formatPitch(pitchOfMidi(m + writtenAbove))
  return head.sounding < lowest
    ? finding('finger.tooLow', 'error', where, { ...values, lowest: written(lowest) })
    : finding('finger.tooHigh', 'error', where, {
        ...values,
        highest: written(Math.max(...tuning) + highest),
      })
}

const limitFinding = (tone: Tone, { by, why }: OutOfBounds, { level, span }: FingeringOptions) => {
  const where = { measure: tone.measure, note: tone.id }
  const pitch = formatPitch(tone.heads.at(-1)!.pitch)
  return by === 'span'
    ? finding('finger.spanReach', 'warning', where, { pitch, span: span! })
    : finding('finger.levelReach', 'warning', where, { pitch, level: level!, why })
}

/**
 * Level and span are hard limits; where they leave nothing, the notes keep the places that ask for least
 * beyond them, and the reason is told.
 */
function withinLimits(
  list: readonly HandState[],
  options: FingeringOptions,
): { states: readonly HandState[]; missing: OutOfBounds | null } {
  if ((options.level === undefined && !options.span) || list.length === 0)
    return { states: list, missing: null }
  const allowed = list.filter(s => outOfBounds(s, options) === null)
  if (isTooBig(options)) {
    // Another position would only hide that the instrument is too big: the hand stays at home, with what it
    // reaches there if that is enough.
    const atHome = (states: readonly HandState[]) => states.filter(s => s.anchor === HOME_ANCHOR)
    const states = [atHome(allowed), atHome(list), allowed].find(s => s.length > 0)
    if (states) return { states, missing: null }
  }
  if (allowed.length > 0) return { states: allowed, missing: null }
  const least = Math.min(...list.map(s => excess(s, options)))
  const states = list.filter(s => excess(s, options) <= least + 1e-9)
  return { states, missing: outOfBounds(states[0]!, options) }
}

/** Seconds of the quickest note, and of one that neither hurries nor lasts. */
const PACES = [QUICKEST, 0.5] as const
/**
 * Every school's open string is kept, and every place the phrase may ask for: the ranking leaves its
 * surroundings out.
 */
const ALONE = { first: 0, cost: 0, fourth: 0, lies: null, manner: 'home', bound: false } as const

/** For the note however long it lasts, by the pace it costs least at: the same states serve wherever it comes. */
function prune(list: readonly HandState[], { harmonic }: Tone, context: CostContext): HandState[] {
  const tones = PACES.map(seconds => ({ seconds, run: false, harmonic }))
  const ranked = list
    .map(s => ({ s, cost: Math.min(...tones.map(t => stateCost(context, t, ALONE, s))) }))
    .sort((a, b) => a.cost - b.cost)
  const seen = new Set<string>()
  return ranked
    .filter(({ s }, rank) => {
      const key = s.places.map(p => `${p.string}:${p.finger}`).join()
      const fresh = !seen.has(key)
      seen.add(key)
      return rank < STATES_KEPT || fresh
    })
    .map(r => r.s)
}
