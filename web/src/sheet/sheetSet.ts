/** Versions of a tune for all who play it together, and a sheet for each of them. */
import { forLearner, styled, withKey, withPlayed, withSize } from '#core/arrangement/edits'
import { firstRecipe } from '#core/arrangement/first'
import { MOST_NAME, type Arrangement } from '#core/arrangement/recipe'
import type { SeatAsked } from '#core/desk/versions'
import { tableFor } from '#core/grading/fit'
import type { LevelTable } from '#core/grading/demands'
import type { Learner } from '#core/instruments/learner'
import { INSTRUMENTS } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { secondsPerQuarter, type Tempo } from '#core/music/metre'
import type { InstrumentId, Tune } from '#core/music/tune'
import type { SheetStyle } from '#core/styles/sheetRecipe'
import { capital } from '#core/words/places'
import type { DeriveContext } from '#core/arrangement/context'
import type { Told } from '../paper/useExport'
import { drawSheet } from '#drawing/sheet'
import type { Studio } from '#core/instruments/studio'
import { aboutOf, fileName, sheetSource, zipOf } from '../paper/draw'
import { askPart, derivedOf } from '../worker/client'

/** Whom a sheet is for: an instrument at a level (null: the tune as it is), or a learner. */
export type SheetFor =
  | { readonly kind: 'level'; readonly instrument: InstrumentId; readonly level: Level | null }
  | { readonly kind: 'learner'; readonly learner: Learner }

export interface SetChoices {
  /** One key all share, or for each the one that suits best. */
  readonly key: 'common' | 'each'
  /** All as fast as the slowest version, or each at its own tempo. */
  readonly tempo: 'common' | 'each'
  readonly style: SheetStyle
}

export interface SetSources {
  readonly tune: Tune
  readonly context: DeriveContext
  readonly tableOf: (instrument: InstrumentId) => LevelTable
}

/** "Viola, level 2"; "Mira, cello". */
export function nameOfSheet(to: SheetFor): string {
  const name =
    to.kind === 'learner'
      ? `${to.learner.name}, ${INSTRUMENTS[to.learner.instrument].name}`
      : `${capital(INSTRUMENTS[to.instrument].name)}, ${to.level === null ? 'as written' : `level ${to.level}`}`
  return name.slice(0, MOST_NAME)
}

interface Seat extends Omit<SeatAsked, 'level'> {
  readonly level: Level | null
}

function seatOf(to: SheetFor, style: SheetStyle, { tune, tableOf }: SetSources): Seat {
  const name = nameOfSheet(to)
  if (to.kind === 'level') {
    const recipe = styled(firstRecipe(tune, to.instrument, name), style)
    return { recipe, level: to.level, table: tableOf(to.instrument), fastest: null }
  }
  const { learner } = to
  const plain = withSize(firstRecipe(tune, learner.instrument, name), learner.size)
  return {
    recipe: styled(forLearner(plain, learner), style),
    level: learner.level,
    table: tableFor(learner, tableOf(learner.instrument)),
    fastest: learner.fastest,
  }
}

/**
 * An arrangement for each, in the order they were given. `told` hears of each, and stops the work by throwing.
 */
export async function versionsFor(
  list: readonly SheetFor[],
  { key, tempo, style }: SetChoices,
  sources: SetSources,
  told: Told,
): Promise<Arrangement[]> {
  const { tune, context } = sources
  const seats = list.map(to => seatOf(to, style, sources))
  const asked = seats.flatMap(s => (s.level === null ? [] : [{ ...s, level: s.level }]))
  const part = (recipe: Arrangement) => ({ tune, recipe, context })
  const shared =
    key === 'common' && asked.length > 0 ? await askPart('sharedKey', part(seats[0]!.recipe), asked) : null
  const made: Arrangement[] = []
  for (const { recipe, level, table, fastest } of seats) {
    const one =
      level === null
        ? withKey(recipe, shared ?? tune.key, tune.key)
        : await askPart('easier', part(recipe), level, shared ?? 'best', table, fastest)
    made.push({ ...one, name: recipe.name })
    await told(made.length, seats.length)
  }
  return tempo === 'common' ? asSlowAs(made, a => part(a)) : made
}

/** All at the tempo of the slowest. */
async function asSlowAs(
  made: readonly Arrangement[],
  part: (a: Arrangement) => Parameters<typeof derivedOf>[0],
): Promise<Arrangement[]> {
  const tempos = await Promise.all(made.map(async a => (await derivedOf(part(a))).tempo))
  const slowest = tempos.reduce<Tempo | null>(
    (s, t) => (s === null || secondsPerQuarter(t) > secondsPerQuarter(s) ? t : s),
    null,
  )
  return made.map((a, i) => (tempos[i] === slowest ? a : withPlayed(a, { tempo: slowest })))
}

/** A PDF of each in one zip, in their order. */
export const sheetsFor = (
  made: readonly Arrangement[],
  { tune, context }: SetSources,
  studio: Studio,
  told: Told,
): Promise<Blob> =>
  zipOf(
    made.map(recipe => ({
      name: fileName(tune.title || 'tune', recipe.name),
      paper: recipe.shown.sheet.paper,
      about: aboutOf(tune, recipe),
      pages: async () => drawSheet(await sheetSource({ tune, recipe, context }, []), studio).pages,
    })),
    told,
  )
