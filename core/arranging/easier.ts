/**
 * Easier versions of a tune from one arrangement, level by level, in the octave that costs the line least.
 */
import { isWrittenFor } from '#core/instruments/writtenFor'
import { DeriveMemory } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import { analyseForm } from '#core/form/form'
import type { Level } from '#core/levels/levels'
import type { EventId } from '#core/music/ids'
import { keyCode } from '#core/music/key'
import { defaultTempo } from '#core/music/metre'
import { OCTAVES, type Pitch } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import { allowedPitches } from './allowed'
import { Easing, type Allowed, type Draft, type Eased, type EaseOptions, type MeasureChoice } from './easing'
import { registerCost } from './register'
import { sourceOf, type Source } from './source'

export const easier = (tune: Tune, base: Arrangement, o: EaseOptions): Eased =>
  new EasierVersions(tune, base, o).at(o.level)

export interface BestDraft {
  readonly easing: Easing
  readonly draft: Draft
  readonly octave: number
  /** What the line costs there, and where on the instrument it lies. */
  readonly cost: number
}

/**
 * The easier versions of one tune from one arrangement: what one of them worked out is there for the next.
 */
export class EasierVersions {
  private readonly known = new Map<Level, Eased>()
  private readonly drafts = new Map<Level, BestDraft>()
  private readonly octaves = new Map<Level, readonly { readonly octave: number; readonly easing: Easing }[]>()
  private readonly pitches = new Map<string, readonly Pitch[]>()

  constructor(
    private readonly tune: Tune,
    private readonly base: Arrangement,
    private readonly o: Omit<EaseOptions, 'level'>,
    private readonly memory = new DeriveMemory(),
    private readonly source = writtenSource(tune, base),
  ) {}

  at(level: Level): Eased {
    const found = this.known.get(level) ?? this.draft(level).easing.run()
    this.known.set(level, found)
    return found
  }

  /** Other ways for the measure of an event, in a version made at this level. */
  otherwise(level: Level, event: EventId, count: number): MeasureChoice[] {
    return this.draft(level).easing.otherwise(event, count)
  }

  /** The line in the octave in which it costs least, before the hand has tried it. */
  draft(level: Level): BestDraft {
    const found = this.drafts.get(level) ?? this.bestDraft(level)
    this.drafts.set(level, found)
    return found
  }

  /** The fewest notes out of the level's reach in any octave. */
  outOfReach(level: Level): number {
    return Math.min(...this.easings(level).map(e => e.easing.outOfReach))
  }

  private easings(level: Level) {
    const { played } = this.base
    const fixed = isWrittenFor(this.tune, played.instrument)
    const octaves = played.octave !== 'auto' ? [played.octave] : fixed ? [0, -1, 1] : [-3, -2, -1, 0, 1]
    const found =
      this.octaves.get(level) ??
      octaves.map(octave => ({
        octave,
        easing: new Easing(
          this.tune,
          this.base,
          { ...this.o, level },
          this.memory,
          octave,
          this.source,
          this.allowed,
        ),
      }))
    this.octaves.set(level, found)
    return found
  }

  private bestDraft(level: Level): BestDraft {
    const fixed = isWrittenFor(this.tune, this.base.played.instrument)
    const easings = this.easings(level)
    const least = Math.min(...easings.map(e => e.easing.outOfReach))
    const near = easings.filter(e => e.easing.outOfReach <= least + CLOSE * e.easing.notes)
    const drafts = near.map(({ octave, easing }) => {
      const draft = easing.draft()
      // Written for the instrument it stays where it is, unless hardly anything of it lies in the hand there.
      const away = fixed && octave !== 0 ? AWAY * draft.source.notes.length : 0
      return { easing, draft, octave, cost: draft.cost + registerCost(draft, this.base) + away }
    })
    return drafts.reduce((best, d) => (d.cost < best.cost ? d : best))
  }

  /** Tried once for all octaves. */
  private readonly allowed: Allowed = (level, key, outside) => {
    const named = new Map(outside.map(p => [`${p.step}${p.alter}`, p]))
    const classes = [...named.keys()].sort()
    const name = `${level} ${keyCode(key)} ${classes.join(' ')}`
    const also = classes
      .map(c => named.get(c)!)
      .flatMap(p => OCTAVES.map((octave): Pitch => ({ ...p, octave })))
    const found =
      this.pitches.get(name) ??
      allowedPitches(key, this.base, level, this.o.context, this.memory, this.o.table, also)
    this.pitches.set(name, found)
    return found
  }
}

/** Octaves in which so large a share more of the notes lie out of reach are not looked at. */
const CLOSE = 0.15
/** The tune laid out as it is written, with the phrases that are heard in it. */
export const writtenSource = (tune: Tune, { played, taught }: Arrangement): Source =>
  sourceOf(
    tune,
    analyseForm(tune, {
      tempo: played.tempo ?? tune.tempo ?? defaultTempo(tune.metre),
      boundaries: taught.boundaries,
      kin: taught.kin,
    }),
  )

/** For each note of a tune that would leave the octave it is written in. */
const AWAY = 0.25
