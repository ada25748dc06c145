/**
 * Easier versions of a tune: the fewest changes found that bring what it asks down to a level ({@link Easing}), none of which keeps less of it than the version of
 * the level below.
 */
import { arrange, isWrittenFor } from '#core/arrangement/arrange'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { DeriveMemory } from '#core/arrangement/derive'
import { withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { isAbove } from '#core/grading/fit'
import { lowestLevel, type Graded } from '#core/grading/lowest'
import type { Level } from '#core/levels/levels'
import type { Tune } from '#core/music/tune'
import { octaveShift, transposeTune } from '#core/music/transpose'
import { notesOut } from './allowed'
import { Easing, type Eased, type EaseOptions } from './easing'
import { keptInAll, keptOf, type Kept } from './kept'

export const easier = (tune: Tune, base: Arrangement, o: EaseOptions): Eased =>
  new EasierVersions(tune, base, o).at(o.level)

/** The easier versions of one tune from one arrangement, level by level: what one of them worked out is there for the next. */
export class EasierVersions {
  private readonly known = new Map<Level, Eased>()
  private plain: Graded | null = null

  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly o: Omit<EaseOptions, 'level'>,
    private readonly memory = new DeriveMemory(),
  ) {}

  at(level: Level): Eased {
    const found = this.known.get(level) ?? this.made(level)
    this.known.set(level, found)
    return found
  }

  /** The tune unchanged, where its lowest level is no higher: a hand that stays lower than it need not may ask for less. */
  private asItIs(level: Level): Eased | null {
    const { context, table, fastest = null } = this.o
    this.plain ??= lowestLevel(this.tune, withPlayed(this.base, { level: null }), context, this.memory, table)
    const { level: least, unplayable, ...found } = this.plain
    const over = least > level || unplayable > 0 || found.grade.demands.some(d => isAbove(d, level, fastest))
    return over ? null : { ...found, changes: [], blocked: [], off: [], tempo: 1 }
  }

  private made(level: Level): Eased {
    const easing = (octave: number | null = null) =>
      new Easing(this.tune, this.base, { ...this.o, level }, this.memory, octave)
    const made = easing().run()
    let own = made.changes.length === 0 ? made : (this.asItIs(level) ?? made)
    for (const octave of own.changes.length > 0 ? this.otherOctaves(level) : []) {
      const other = easing(octave).run()
      if (this.isBetter(other, own)) own = other
    }
    if (level === 1 || own.changes.length === 0) return own
    // Who may go further must not keep less of the tune: the version of the level below is good enough for this one, in the tempo of this one where that goes.
    const below = this.at((level - 1) as Level)
    const lower = [easing().raised(below, level, own.recipe.played.tempo), easing().raised(below, level)]
      .find(r => leftOver(r) <= leftOver(below)) ?? below // prettier-ignore
    return this.isBetter(lower, own) ? lower : own
  }

  /** Octaves in which fewer notes of the tune lie out of the hand, where it may be chosen. */
  private otherOctaves(level: Level): number[] {
    const { played } = this.base
    if (played.octave !== 'auto') return []
    const { tune, octave } = arrange(this.tune, this.base, this.o.context, this.memory.costs)
    const out = (by: number) => notesOut(transposeTune(tune, octaveShift(by)), this.base, { level, context: this.o.context }) // prettier-ignore
    // Written for the instrument it stays where it is, unless hardly anything of it lies in the hand there.
    const here = out(0) * (isWrittenFor(this.tune, played.instrument) ? FEWER : 1)
    return [-1, 1].filter(by => out(by) < here).map(by => octave + by)
  }

  /** By what is left over, then by what is kept of the tune, then by its line and its tempo, then by how little is changed. */
  private isBetter(a: Eased, b: Eased): boolean {
    const left = leftOver(a) - leftOver(b)
    if (left !== 0) return left < 0
    const [x, y] = [a, b].map(e => this.kept(e)) as [Kept, Kept]
    const more = keptInAll(x) - keptInAll(y)
    if (Math.abs(more) > NOTICED) return more > 0
    const better = x.line + a.tempo - y.line - b.tempo
    return Math.abs(better) > NOTICED ? better > 0 : a.changes.length < b.changes.length
  }

  private kept = ({ recipe, derived }: Eased): Kept =>
    keptOf(this.tune, applyChanges(this.tune, playedChanges(recipe.played)).tune, derived.tempo)
}

const FEWER = 1 / 3
/** Differences smaller than this are none. */
const NOTICED = 0.02
const leftOver = (e: Eased) => e.blocked.length + e.off.length
