/** How much of a tune is left in a version of it: measured, each in its share from 0 to 1. */
import { analyseForm } from '#core/form/form'
import type { Tempo } from '#core/music/metre'
import { beatStrength } from '#core/music/metre'
import { midi } from '#core/music/pitch'
import { isNote, placeEvents } from '#core/music/timeline'
import { add, toNumber } from '#core/music/fraction'
import type { Tune } from '#core/music/tune'

export interface Kept {
  /** Strong beats with the same pitch class. */
  readonly strongBeats: number
  /** Phrases that end on the same pitch class, at the same time or while their last note lasts. */
  readonly phraseEnds: number
  /** Ways from strong beat to strong beat that stay up, down or level. */
  readonly contour: number
  /** Notes of the tune whose beginnings are still there. */
  readonly rhythm: number
  /**
   * Notes of the version, among those that begin where one of the tune does, that have its pitch class and
   * went the same octaves as the note before.
   */
  readonly line: number
}

/**
 * So little is left of the tune, or a phrase ends on another note, or so many notes leave the line, that
 * another key is worth trying; an ending lost to a plainer rhythm comes back in none.
 */
export const isMangled = (k: Kept, changes: readonly { readonly kind: string }[]) =>
  k.strongBeats < 0.9 ||
  k.contour < 0.8 ||
  k.line < 0.8 ||
  (k.phraseEnds < 1 && changes.some(c => c.kind === 'replace'))

/** So many of its strong beats are other notes that it is hardly the same tune. */
export const isAnotherTune = (k: Kept) => k.strongBeats < 0.8

/** All of it in one figure, for comparing two versions of one tune. */
export const keptInAll = (k: Kept) => k.strongBeats + k.phraseEnds + k.contour + k.rhythm

interface At {
  readonly at: number
  readonly until: number
  /** The upper one where several sound together; all of them. */
  readonly midi: number
  readonly all: readonly number[]
  readonly strong: boolean
}

const line = (tune: Tune): At[] =>
  placeEvents(tune)
    .filter(isNote)
    .map(p => ({
      at: toNumber(p.start),
      until: toNumber(add(p.start, p.event.duration)),
      midi: midi(p.event.heads.at(-1)!.pitch),
      all: p.event.heads.map(h => midi(h.pitch)),
      strong: beatStrength(p.measure.felt, p.inMeasure) >= 2,
    }))

/** Both in one key: the version as it is written for the tune's own. */
export function keptOf(tune: Tune, version: Tune, tempo: Tempo): Kept {
  const [a, b] = [line(tune), line(version)]
  const sounding = (at: number) => b.findLast(n => n.at <= at + 1e-9)
  /** What sounds there in the version: of notes together the tune's own, where it is one of them. */
  const there = (own: At) => {
    const now = sounding(own.at)
    const kept = now?.all.find(m => m === own.midi) ?? now?.all.find(m => (m - own.midi) % 12 === 0)
    return now && { midi: kept ?? now.midi }
  }
  const pitchClass = (n: { readonly midi: number } | undefined) => (n ? ((n.midi % 12) + 12) % 12 : null)
  const strong = a.filter(n => n.strong)
  const share = (list: readonly boolean[]) =>
    list.length === 0 ? 1 : list.filter(Boolean).length / list.length
  const ends = analyseForm(tune, { tempo }).phrases.flatMap(p => {
    const last = p.notes.filter(isNote).at(-1)
    return last ? [a.find(n => n.at === toNumber(last.start))!] : []
  })
  const ways = strong.slice(1).map((n, i) => {
    const [from, to] = [there(strong[i]!), there(n)]
    return (
      from !== undefined &&
      to !== undefined &&
      Math.sign(n.midi - strong[i]!.midi) === Math.sign(to.midi - from.midi)
    )
  })
  /** An ending that comes a little later, in a plainer rhythm, is there still. */
  const stillEnds = (n: At) =>
    [sounding(n.at), sounding(n.until - 1e-6)].some(m => m?.all.some(x => (x - n.midi) % 12 === 0))
  const own = new Map(a.map(n => [Math.round(n.at * 5040), n.midi]))
  const moved = b.flatMap(n => {
    const from = own.get(Math.round(n.at * 5040))
    return from === undefined
      ? []
      : [Math.min(...n.all.map(m => m - from).map(by => (by % 12 === 0 ? by : Infinity)))]
  })
  const onsets = new Set(b.map(n => Math.round(n.at * 5040)))
  const round = (x: number) => Math.round(x * 1000) / 1000
  return {
    strongBeats: round(share(strong.map(n => pitchClass(there(n)) === pitchClass(n)))),
    phraseEnds: round(share(ends.map(stillEnds))),
    contour: round(share(ways)),
    rhythm: round(share(a.map(n => onsets.has(Math.round(n.at * 5040))))),
    line: round(
      share(
        moved.map(
          (by, i) =>
            Number.isFinite(by) && (i === 0 || by === moved[i - 1] || !Number.isFinite(moved[i - 1]!)),
        ),
      ),
    ),
  }
}

/** Share of the tune's notes that begin in the version at their own height. */
export function unchanged(tune: Tune, version: Tune): number {
  const there = new Set(line(version).flatMap(n => n.all.map(m => `${Math.round(n.at * 5040)} ${m}`)))
  const own = line(tune)
  return own.length === 0
    ? 1
    : own.filter(n => there.has(`${Math.round(n.at * 5040)} ${n.midi}`)).length / own.length
}
