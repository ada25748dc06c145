/**
 * Where a tune bears more, and what: for each kind of spice the places that offer themselves, as a teacher
 * would write them in. Whether the hand and the level have it is not asked here; {@link enriched} tries what
 * comes out.
 */
import { frac, mul, sub, type Fraction } from '#core/music/fraction'
import type { EventId } from '#core/music/ids'
import { alterations } from '#core/music/key'
import { diatonic, midi, type Pitch } from '#core/music/pitch'
import type { EventBody, Mark } from '#core/music/tune'
import { pitchClass, restful, stepsAway, writtenOpen, type Scene, type Spot } from './scene'
import type { SpiceKind } from './spices'

export interface Offer {
  readonly kind: SpiceKind
  readonly events: readonly EventId[]
  /** As played: in the arrangement's key and octave. */
  readonly by: readonly EventBody[]
  /** Which of the new notes lie in the bow of the one before. */
  readonly slurred: readonly number[]
  /** How much the place asks for it, from 0 to 1. */
  readonly asked?: number
  readonly at: Spot
}

type Find = (scene: Scene) => Offer[]

const each =
  (kind: SpiceKind, find: (s: Spot, scene: Scene) => Omit<Offer, 'kind' | 'at' | 'events'> | null): Find =>
  scene =>
    scene.spots.flatMap(s => {
      const found = s.held || s.string === null ? null : find(s, scene)
      return found ? [{ kind, events: [s.id], at: s, ...found }] : []
    })

/** The note with more heads or marks. */
function body(s: Spot, change: { heads?: readonly Pitch[]; mark?: Mark; grace?: Pitch } = {}): EventBody {
  const { id: _, ...rest } = s.event
  return {
    ...rest,
    ...(change.heads && { heads: sorted(change.heads).map(pitch => ({ pitch })) }),
    ...(change.grace && { grace: [change.grace] }),
    ...(change.mark && { marks: [...(rest.marks ?? []), change.mark] }),
  }
}
const octaveUp = (p: Pitch): Pitch => ({ ...p, octave: p.octave + 1 })
const sorted = (list: readonly Pitch[]) => [...list].sort((a, b) => midi(a) - midi(b))

/** The note parted: its first piece keeps what stands at it, the others are new. */
function parted(s: Spot, pieces: readonly (readonly [Pitch, Fraction])[]): EventBody[] {
  const { id: _, ...rest } = s.event
  return pieces.map(([pitch, duration], i) =>
    i === 0 ? { ...rest, heads: [{ pitch }], duration } : { kind: 'note', duration, heads: [{ pitch }] },
  )
}

const together = (scene: Scene, s: Spot, heads: readonly Pitch[]) =>
  heads.every(h => midi(h) - scene.above >= scene.open.at(-1)!) && {
    by: [body(s, { heads: [s.pitch, ...heads] })],
    slurred: [],
  }
const onBeat = (s: Spot) => s.strength >= 1 && s.placed.measure.number > 0
/** Where a beat has three parts, the long note of a pair has time too. */
const isBeatLong = (s: Spot) =>
  s.length >= 1 && onBeat(s) && (s.strength >= 2 || s.compound || s.length >= 1.5)

/**
 * Half steps that rest well together, the best first: octave, sixths, fifth, thirds, their octaves; the
 * fourth only between tones of one chord.
 */
const RESTFUL: readonly number[] = [12, 9, 8, 7, 4, 3, 16, 15, 19, 5]
const FOURTH = 5
/**
 * Under a note a string of its chord a sixth away rests even where it is neither root nor fifth: G under the
 * E of E minor.
 */
const SIXTHS: readonly number[] = [8, 9]

/**
 * An open neighbour string under or over a note that has time, where the two rest together and the chord has
 * it.
 */
const drones = each('drones', (s, scene) => {
  if (!isBeatLong(s)) return null
  const own = midi(s.pitch) - scene.above
  const wanted = s.chord.length > 0 ? s.chord : restful(scene.key)
  const found = [s.string! - 1, s.string! + 1]
    .flatMap(string => {
      const sounding = scene.open[string]
      if (sounding === undefined || sounding === own) return []
      const gap = Math.abs(sounding - own)
      const rank = RESTFUL.indexOf(gap)
      const chordal = wanted.includes(pitchClass(sounding))
      const fits = rank >= 0 && chordal && (gap !== FOURTH || s.chord.includes(pitchClass(own)))
      const rests =
        restful(scene.key)
          .concat(s.chord[0] ?? [])
          .includes(pitchClass(sounding)) ||
        (sounding < own && SIXTHS.includes(gap) && s.chord.length > 0)
      return fits && rests ? [{ string, rank }] : []
    })
    .sort((a, b) => a.rank - b.rank)[0]
  return (found && together(scene, s, [writtenOpen(scene, found.string)])) || null
})

/** 4 beside the open string it sounds like. */
const unisons = each('unisons', (s, scene) => {
  const own = midi(s.pitch) - scene.above
  const string = scene.open.indexOf(own)
  const fits = isBeatLong(s) && s.length >= 1.5 && string >= 0 && string < scene.open.length - 1
  return fits ? { by: [body(s, { heads: [s.pitch, s.pitch] })], slurred: [] } : null
})

/** A sixth or third under a long note, where no open string rests under it. */
const stops = each('stops', (s, scene) => {
  if (!isBeatLong(s) || s.length < 2 || s.chord.length === 0) return null
  const below = [-5, -2].map(n => stepsAway(scene.key, s.pitch, n)).find(p => s.chord.includes(pitchClass(p)))
  const lower = scene.open[s.string! + 1]
  if (!below || lower === undefined || midi(below) - scene.above < lower) return null
  return together(scene, s, [below]) || null
})

/**
 * A note that comes again on a beat, parted by a flick of the finger; or a longer one the phrase leans on.
 * Where a beat has three parts, the long note of any pair, and the top of a wave that falls on a beat.
 */
const cuts = each('cuts', (s, scene) => {
  const before = scene.next(s, -1)
  if (
    !onBeat(s) ||
    s.seconds < SHORTEST_CUT ||
    s.event.grace ||
    s.finger === 4 ||
    before?.phrase !== s.phrase
  )
    return null
  const again = midi(before.pitch) === midi(s.pitch)
  const leaned = (s.strength >= 2 || s.compound) && s.length >= 1 && !s.closes
  const after = scene.next(s)
  const top =
    s.compound &&
    s.length < 1 &&
    midi(before.pitch) < midi(s.pitch) &&
    after !== undefined &&
    midi(after.pitch) < midi(s.pitch)
  const asked = again ? 1 : leaned ? 0.75 : top ? 0.1 : 0
  return asked > 0 ? { by: [body(s, { mark: 'cut' })], slurred: [], asked } : null
})

/** Seconds a note needs for a flick before it. */
const SHORTEST_CUT = 0.16

/** A stopped note of three eighths and more, in a dance that goes. */
const rolls = each('rolls', s =>
  s.length >= 1.5 &&
  s.length <= 2 &&
  s.seconds >= 0.35 &&
  s.seconds <= 1.3 &&
  onBeat(s) &&
  s.finger !== 0 &&
  s.finger !== 4 &&
  !s.closes
    ? { by: [body(s, { mark: 'roll' })], slurred: [] }
    : null,
)

/** Into a stopped note a phrase leans on. */
const slides = each('slides', (s, scene) => {
  const before = scene.next(s, -1)
  const leaned = s.strength >= 2 && s.length >= 1 && s.seconds >= 0.4
  const rises = before !== undefined && midi(before.pitch) < midi(s.pitch)
  return leaned && s.finger !== 0 && s.finger !== 4 && (s.opens || rises)
    ? { by: [body(s, { mark: 'slide' })], slurred: [] }
    : null
})

/**
 * From the open string of its own string into a low finger on a beat: the string is struck open, the finger
 * falls on it in the same bow.
 */
const hammers = each('hammers', (s, scene) => {
  const before = scene.next(s, -1)
  const open = scene.open[s.string!]!
  const gap = midi(s.pitch) - scene.above - open
  const near = (s.finger === 1 && gap <= 2) || (s.finger === 2 && gap <= 4)
  const long = onBeat(s) && s.strength >= 2 && s.length >= 1 && s.seconds >= 0.4 && !s.event.grace
  const fresh = before === undefined || midi(before.pitch) - scene.above !== open
  const from = writtenOpen(scene, s.string!)
  // Only where the key has that open string as it sounds.
  const inKey = alterations(scene.key)[from.step] === from.alter
  return near && long && fresh && inKey ? { by: [body(s, { grace: from })], slurred: [] } : null
})

/**
 * A long note in eighths with the open string under it, when it was heard plain before and the chord has that
 * string.
 */
const rocking = each('rocking', (s, scene) => {
  const open = scene.open[s.string! + 1]
  if (s.compound || s.length < 2 || s.length > 4 || s.length % 1 !== 0 || s.closes || s.heard === 0)
    return null
  const gap = open === undefined ? 0 : midi(s.pitch) - scene.above - open
  if (open === undefined || gap < 3 || gap > 12 || !s.chord.includes(pitchClass(open))) return null
  const [eighth, low] = [frac(1, 2), writtenOpen(scene, s.string! + 1)]
  return {
    by: parted(
      s,
      Array.from({ length: s.length * 2 }, (_, i) => [i % 2 === 0 ? s.pitch : low, eighth] as const),
    ),
    slurred: [],
  }
})

/**
 * A third filled by the note between: a quarter parted in two, or two eighths made a triplet; not the first
 * time the measure is heard, unless it comes but once.
 */
const runs: Find = scene =>
  scene.spots.flatMap((s): Offer[] => {
    const after = scene.next(s)
    if (s.held || !after || after.phrase !== s.phrase || !varied(s, scene)) return []
    const steps = diatonic(after.pitch) - diatonic(s.pitch)
    if (Math.abs(steps) !== 2) return []
    const between = stepsAway(scene.key, s.pitch, steps / 2)
    if (s.length === 1 && (s.compound || s.strength >= 1)) {
      const half = mul(s.event.duration, frac(1, 2))
      return [
        {
          kind: 'runs' as const,
          at: s,
          events: [s.id],
          by: parted(s, [
            [s.pitch, half],
            [between, half],
          ]),
          slurred: [],
        },
      ]
    }
    const pair =
      s.length === 0.5 &&
      after.length === 0.5 &&
      !after.held &&
      s.strength >= 1 &&
      s.strength < 3 &&
      after.placed.measure === s.placed.measure
    if (!pair || s.compound || s.seconds * 2 < 0.3) return []
    const tuplet = { group: `t${s.id}`, actual: 3, normal: 2 }
    const third = frac(1, 3)
    const [first, second] = parted(s, [
      [s.pitch, third],
      [between, third],
    ]) as [EventBody, EventBody]
    const [last] = parted(after, [[after.pitch, third]]) as [EventBody]
    const by = [first, second, last].map(b => ({ ...b, tuplet }))
    return [{ kind: 'runs' as const, at: s, events: [s.id, after.id], by, slurred: [1, 2] }]
  })

const varied = (s: Spot, scene: Scene) =>
  s.heard > 0 || !scene.spots.some(o => o.heard > 0 && sameBar(o, s, scene))
function sameBar(a: Spot, b: Spot, scene: Scene): boolean {
  const bar = (x: Spot) =>
    scene.spots
      .filter(s => s.placed.measure === x.placed.measure)
      .map(s => `${midi(s.pitch)}:${s.length}`)
      .join(' ')
  return a.placed.measure !== b.placed.measure && bar(a) === bar(b)
}

/** A long note broken over its chord in eighths, when it was heard plain before. */
const broken = each('broken', (s, scene) => {
  if (s.compound || s.length < 2 || s.length > 4 || s.closes || s.chord.length < 3 || s.heard === 0)
    return null
  const steps = [2, 4].map(n => stepsAway(scene.key, s.pitch, n))
  const down = [-2, -4].map(n => stepsAway(scene.key, s.pitch, n))
  const fit = (list: readonly Pitch[]) => list.every(p => s.chord.includes(pitchClass(p)))
  const tones = fit(steps) ? steps : fit(down) ? down : null
  if (!tones || !s.chord.includes(pitchClass(s.pitch))) return null
  const round = [s.pitch, tones[0]!, tones[1]!, tones[0]!]
  const count = s.length * 2
  const eighth = frac(1, 2)
  return {
    by: parted(
      s,
      Array.from({ length: count }, (_, i) => [round[i % 4]!, eighth] as const),
    ),
    slurred: [],
  }
})

/** A phrase that came before, an octave up: measure by measure. */
const octaves: Find = scene => {
  const { phrases } = scene.derived.form
  return phrases.flatMap((p, i) => {
    const again = p.kin.some(k => k.relation === 'same' || k.relation === 'ending differs')
    if (!again || i < phrases.length / 2) return []
    const own = scene.spots.filter(s => s.phrase === i)
    if (own.some(s => midi(s.pitch) - scene.above + 12 > scene.open[0]! + 17)) return []
    // One phrase of two or three: the next one comes down again.
    if (phrases.slice(0, i).filter(q => q.family === p.family).length % 2 === 0) return []
    const measures = [...new Set(own.map(s => s.placed.measure))]
    return measures.flatMap(m => {
      const here = own.filter(s => s.placed.measure === m)
      const whole = m.measure.events.length === here.length
      if (!whole) return []
      const up = here.map((s): EventBody => {
        const { id: _, finger: _f, string: _s, ...rest } = s.event
        return {
          ...rest,
          heads: rest.heads.map(h => ({ ...h, pitch: octaveUp(h.pitch) })),
          ...(rest.grace && { grace: rest.grace.map(octaveUp) }),
        }
      })
      return [{ kind: 'octaves' as const, at: here[0]!, events: here.map(s => s.id), by: up, slurred: [] }]
    })
  })
}

/** The last note: its own half, then its octave with whatever rings below. */
const ending: Find = scene => {
  const s = scene.spots.at(-1)
  if (!s || s.held || s.length < 1.5 || pitchClass(s.pitch) !== restful(scene.key)[0]) return []
  const up = octaveUp(s.pitch)
  if (midi(up) - scene.above > scene.open[0]! + 7) return []
  const beat = s.compound ? frac(3, 2) : frac(1)
  const rest = sub(s.event.duration, beat)
  if (rest.n <= 0) return []
  return [
    {
      kind: 'ending',
      at: s,
      events: [s.id],
      by: parted(s, [
        [s.pitch, beat],
        [up, rest],
      ]),
      slurred: [],
    },
  ]
}

/**
 * Notes that words had asked for: of three eighths alike the first two are one; a longer note said again
 * turns over its neighbour.
 */
const repeats: Find = scene =>
  scene.spots.flatMap((s): Offer[] => {
    const after = scene.next(s)
    if (s.held || !after || after.held || s.compound || midi(after.pitch) !== midi(s.pitch)) return []
    const same = after.placed.measure === s.placed.measure && after.length === s.length
    if (!same || s.strength === 0) return []
    if (s.length === 0.5)
      return [
        {
          kind: 'repeats',
          at: s,
          events: [s.id, after.id],
          by: parted(s, [[s.pitch, frac(1)]]),
          slurred: [],
        },
      ]
    if (s.length === 1 && after.strength < s.strength && scene.next(after))
      return [{ kind: 'repeats', at: after, events: [after.id], by: turned(after, scene), slurred: [1] }]
    return []
  })

/** A long note that goes on to another: the last beat of it leads there. */
const turns = each('turns', (s, scene) => {
  if (s.compound || s.length < 2 || s.length % 1 !== 0 || s.seconds < 1 || !scene.next(s)) return null
  const lead = turned(s, scene)
  return { by: lead, slurred: [lead.length - 1] }
})

/**
 * Its last quarter in two eighths that lead to what follows: towards it where it lies a fourth or more away,
 * round the neighbour where it is near.
 */
function turned(s: Spot, scene: Scene): EventBody[] {
  const after = scene.next(s)!
  const steps = diatonic(after.pitch) - diatonic(s.pitch)
  const way = Math.sign(steps)
  const at = (n: number) => stepsAway(scene.key, s.pitch, n)
  const pair =
    Math.abs(steps) >= 3 ? [at(way), at(2 * way)] : steps === 1 ? [at(-1), s.pitch] : [at(1), s.pitch]
  const eighth = frac(1, 2)
  const kept = sub(s.event.duration, frac(1))
  const led = [
    [pair[0]!, eighth],
    [pair[1]!, eighth],
  ] as const
  return kept.n > 0 ? parted(s, [[s.pitch, kept], ...led]) : parted(s, led)
}

export const OFFERS: Readonly<Record<SpiceKind, Find>> = {
  ending,
  octaves,
  repeats,
  turns,
  runs,
  broken,
  rocking,
  unisons,
  drones,
  stops,
  rolls,
  slides,
  hammers,
  cuts,
}
