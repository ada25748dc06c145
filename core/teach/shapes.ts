/**
 * The shape of the hand in a phrase: where the fingers stand on each string, which of them touch, and every
 * change of it.
 */
import type { Finger, MarkKind } from '#core/instruments/hands'
import type { Fingering } from '#core/fingering/fingering'
import { eventOf } from '#core/music/ids'

export interface StringShape {
  /** 0 is the highest. */
  readonly string: number
  /** From the nut down. */
  readonly fingers: readonly { readonly finger: Finger; readonly mark: MarkKind; readonly offset: number }[]
  /** Neighbouring fingers a half step apart: they touch. */
  readonly touching: readonly (readonly [Finger, Finger])[]
}

export interface HandShape {
  readonly anchor: number
  readonly strings: readonly StringShape[]
}

/** A finger that stands elsewhere than it last did, while the hand stays. */
export interface ShapeChange {
  readonly note: string
  readonly measure: number
  readonly string: number
  readonly finger: Finger
  /** Semitones it moves: positive away from the nut. */
  readonly by: number
}

/** The shapes of the hand over some events, one for each place it takes, in order of appearance. */
export function handShapes(f: Fingering, events: ReadonlySet<string>): HandShape[] {
  const byAnchor = new Map<
    number,
    Map<string, { string: number; finger: Finger; mark: MarkKind; offset: number }>
  >()
  for (const n of f.notes) {
    if (n.finger === 0 || !events.has(eventOf(n.id))) continue
    const places = byAnchor.get(n.anchor) ?? new Map<string, never>()
    byAnchor.set(n.anchor, places)
    places.set(`${n.string}:${n.finger}:${n.offset}`, n)
  }
  return [...byAnchor].map(([anchor, places]) => {
    const all = [...places.values()]
    const strings = [...new Set(all.map(p => p.string))].sort((a, b) => a - b)
    return {
      anchor,
      strings: strings.map(s =>
        stringShape(
          s,
          all.filter(p => p.string === s),
        ),
      ),
    }
  })
}

function stringShape(
  string: number,
  places: readonly { finger: Finger; mark: MarkKind; offset: number }[],
): StringShape {
  const fingers = places
    .map(({ finger, mark, offset }) => ({ finger, mark, offset }))
    .sort((a, b) => a.offset - b.offset)
  const touching = fingers.slice(1).flatMap((b, i) => {
    const a = fingers[i]!
    return meet(a, b) ? [[a.finger, b.finger] as const] : []
  })
  return { string, fingers, touching }
}

/**
 * Where two fingers of one hand touch, each place once: the string, and semitones above it of the lower one.
 */
export function touchingPlaces(f: Fingering): { readonly string: number; readonly offset: number }[] {
  const shapes = handShapes(f, new Set(f.notes.map(n => eventOf(n.id))))
  const all = shapes.flatMap(h =>
    h.strings.flatMap(({ string, fingers }) =>
      fingers.flatMap((a, i) => (meet(a, fingers[i + 1]) ? [{ string, offset: a.offset }] : [])),
    ),
  )
  return [...new Map(all.map(p => [`${p.string}:${p.offset}`, p])).values()]
}

type Stands = StringShape['fingers'][number]
const meet = (a: Stands, b: Stands | undefined): b is Stands =>
  b !== undefined && b.offset - a.offset === 1 && a.finger !== b.finger

/** Every change of the shape, through the tune. */
export function shapeChanges(f: Fingering): ShapeChange[] {
  const last = new Map<string, number>()
  const out: ShapeChange[] = []
  let anchor = -1
  for (const n of f.notes) {
    if (n.finger === 0 || n.tiedFrom !== undefined) continue
    // In a new place the hand forms anew.
    if (n.anchor !== anchor) last.clear()
    anchor = n.anchor
    const key = `${n.string}:${n.finger}`
    const before = last.get(key)
    if (before !== undefined && before !== n.offset)
      out.push({ note: n.id, measure: n.measure, string: n.string, finger: n.finger, by: n.offset - before })
    last.set(key, n.offset)
  }
  return out
}
