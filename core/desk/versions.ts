/** Easier versions of a part, other ways for a measure of one, and fancier ones. */
import { leavesPart, type Change } from '#core/arrangement/change'
import { withoutChanges, withoutVersion, withPlayed } from '#core/arrangement/edits'
import type { Arrangement } from '#core/arrangement/recipe'
import { keyTogether, VersionsInKeys } from '#core/arranging/bestKey'
import { EasierVersions } from '#core/arranging/easier'
import type { MeasureChoice } from '#core/arranging/easing'
import { enriched } from '#core/arranging/enrich'
import { partsPlayed, withLeaving } from '#core/arranging/parts'
import { SPICES, type SpiceKind } from '#core/arranging/spices'
import { slurId } from '#core/arranging/versionSlurs'
import type { LevelTable } from '#core/grading/demands'
import type { Memory } from '#core/arrangement/memory'
import type { Level } from '#core/levels/levels'
import type { Key } from '#core/music/key'
import { withoutFacts, type Tune } from '#core/music/tune'
import type { Memories } from './memories'
import type { PartDocuments } from './part'
import type { VersionKey } from './views'

/** So many other ways are offered for a measure. */
const OTHERWISE = 3

/** What versions are made of, the same for the same parts. */
function partsOf(memories: Memories, tune: Tune, recipe: Arrangement) {
  const parts = partsPlayed(tune, recipe)
  return { ...parts, tune: memories.versions.same('parts', parts.tune, () => withoutFacts(parts.tune)) }
}

/**
 * The part brought down to a level; `fastest`: notes a second the learner it is for manages, null for what
 * the level bears.
 */
export function easier(
  memories: Memories,
  { tune, recipe, context }: PartDocuments,
  level: Level,
  key: VersionKey,
  table: LevelTable,
  fastest: number | null,
  another = 0,
): Arrangement {
  const refused = refusalsOf(recipe, c => !leavesPart(c))
  const whole = withPlayed(withoutVersion(recipe), { level: null })
  const { tune: own, base, leaving } = partsOf(memories, tune, whole)
  const wanted = recipe.played.eased?.wanted ?? {}
  const o = { context, table, fastest, refused: refused.ids, another, wanted }
  const values = { base, context, table, fastest, refused: [...refused.ids], another, wanted }
  const { versions, together } = memories
  const inKeys = (memory: Memory) =>
    memory.stage('best', [own], values, () => new VersionsInKeys(own, base, o))
  const made =
    key === 'own'
      ? versions.stage('easier', [own], values, () => new EasierVersions(own, base, o)).at(level)
      : key === 'best'
        ? inKeys(versions).best(level).eased
        : inKeys(together).inKey(key, level).eased
  return withRefusals(withLeaving(made.recipe, leaving), refused.changes)
}

/** One of several who play a tune together, with the arrangement theirs is made from. */
export interface SeatAsked {
  readonly recipe: Arrangement
  readonly level: Level
  readonly table: LevelTable
  readonly fastest: number | null
}

/** The key in which all of them have it easiest together; each of them is then asked for in it by {@link easier}. */
export function sharedKey(
  memories: Memories,
  { tune, context }: PartDocuments,
  seats: readonly SeatAsked[],
): Key {
  const list = seats.map(({ recipe, level, table, fastest }) => {
    const whole = withPlayed(withoutVersion(recipe), { level: null })
    const { tune: own, base } = partsOf(memories, tune, whole)
    const o = { context, table, fastest, refused: new Set<string>(), another: 0, wanted: {} }
    const values = { base, context, table, fastest, refused: [], another: 0, wanted: {} }
    const make = () => new VersionsInKeys(own, base, o)
    return { own, level, versions: memories.together.stage('best', [own], values, make) }
  })
  return list[0] ? keyTogether(list[0].own, list) : tune.key
}

/** Three other ways for the measure of a written event, in a version. */
export function otherwise(
  memories: Memories,
  { tune, recipe, context }: PartDocuments,
  event: string,
  table: LevelTable,
  fastest: number | null,
): readonly MeasureChoice[] {
  const { level, eased } = recipe.played
  if (level === null || !eased) return []
  const refused = refusalsOf(recipe, c => !leavesPart(c))
  const whole = withPlayed(withoutVersion(recipe), { octave: recipe.played.octave })
  const { tune: own, base, leaving } = partsOf(memories, tune, whole)
  const o = {
    context,
    table,
    fastest,
    refused: refused.ids,
    wanted: eased.wanted ?? {},
    another: eased.another ?? 0,
  }
  const choices = new EasierVersions(own, base, o).otherwise(level, event, OTHERWISE)
  return choices.map(c => ({
    ...c,
    recipe: withRefusals(withLeaving(c.recipe, leaving), refused.changes),
  }))
}

/** The part with these spices and no others, as far as a level has them. */
export function enrich(
  memories: Memories,
  { tune, recipe, context }: PartDocuments,
  spices: readonly SpiceKind[],
  level: Level,
  table: LevelTable,
): Arrangement {
  const isSpice = (c: Change) => (SPICES as readonly string[]).includes(c.kind)
  const refused = refusalsOf(recipe, isSpice)
  const whole = withoutChanges(recipe, isSpice)
  if (spices.length === 0) return withRefusals(whole, refused.changes)
  const { tune: own, base, leaving } = partsOf(memories, tune, whole)
  const made = enriched(own, base, { spices, level, context, table, refused: refused.ids })
  return withRefusals(withLeaving(made.recipe, leaving), refused.changes)
}

/** What the teacher refused stays refused, and in the list, when a version is made anew. */
function refusalsOf({ played }: Arrangement, of: (c: Change) => boolean) {
  const changes = played.changes.filter(c => !c.accepted && of(c))
  const slurs = (played.eased?.slurred ?? []).filter(id => !played.pins.joins[id])
  return { changes, ids: new Set([...changes.map(c => c.id), ...slurs.map(id => slurId('slur', id))]) }
}
const withRefusals = (r: Arrangement, changes: readonly Change[]) =>
  withPlayed(r, { changes: [...r.played.changes, ...changes] })
