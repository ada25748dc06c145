/** Parts as the page shows them: after a closed repeat, at an opened one, after a double bar, at a label. */
import { compare } from '#core/music/fraction'
import type { PlacedMeasure } from '#core/music/timeline'

/** Stretches between signs; each is a part, or several that nothing marks. */
export function sectionsOf(measures: readonly PlacedMeasure[]): PlacedMeasure[][] {
  const groups: PlacedMeasure[][] = []
  measures.forEach((m, i) => {
    const before = measures[i - 1]?.measure
    const afterEnd = before?.repeatEnd === true && !m.measure.endings
    const leavesEndings = before?.endings !== undefined && !m.measure.endings
    const starts =
      !before || m.measure.repeatStart || afterEnd || leavesEndings || before.barline !== undefined || !!m.measure.label // prettier-ignore
    const previous = groups.at(-1)
    // A bare pickup before the repeat sign belongs to the part it leads into.
    const onlyPickup =
      previous?.length === 1 &&
      compare(previous[0]!.length, previous[0]!.full) < 0 &&
      !previous[0]!.measure.repeatEnd
    if (starts && !(onlyPickup && previous)) groups.push([m])
    else previous!.push(m)
  })
  return groups
}
