/** What the signs of a sheet mean: only those that stand on it. */
import type { Derived } from '#core/arrangement/derive'
import type { Arrangement } from '#core/arrangement/recipe'
import { touchingPlaces } from '#core/teach/shapes'
import type { SheetRecipe } from '#core/styles/sheetRecipe'
import { LEAST_NEED } from '#core/tablature/fingerNeed'
import { tabModel, type TabEvent } from '#core/tablature/tabModel'

/**
 * Which notes have their fingers somewhere on the sheet: in the tab and on the fingerboard all, over the
 * staff those it marks.
 */
function digitsShown({ music, kinds, fingers }: SheetRecipe): (e: TabEvent) => boolean {
  const least = LEAST_NEED[fingers]
  if (music !== 'staff' || kinds.includes('board')) return () => true
  return e => least !== null && (e.need ?? 0) >= least
}

export function legendOf(d: Derived, recipe: Arrangement): string[] {
  const events = tabModel(d, recipe).measures.flatMap(m => m.events)
  const { sheet, bowMarks } = recipe.shown
  const shown = digitsShown(sheet)
  const digits = events.flatMap(e => (shown(e) ? [...e.digits, ...(e.ossia ?? [])] : [])).map(x => x.text)
  const any = (test: RegExp) => digits.some(t => test.test(t))
  const bows = bowMarks !== 'none' && events.some(e => e.bow)
  const hand = (test: (h: NonNullable<(typeof events)[number]['hand']>) => boolean) =>
    sheet.show.hand && events.some(e => e.hand && test(e.hand))
  const rows: readonly (readonly [boolean, string])[] = [
    [any(/^0$/), '0 open string'],
    [any(/‹/), '‹ towards the nut'],
    [any(/›/), '› towards the bridge'],
    [any(/^x/), 'x reached out of the closed hand'],
    [any(/°/), '° touched, not pressed'],
    [any(/^T/), 'T thumb'],
    [events.some(e => e.ossia !== undefined), '( ) another way'],
    [
      sheet.music !== 'staff' && events.some(e => e.shift),
      'small arrow: the hand moves, rising towards the bridge, falling towards the nut',
    ],
    [bows, 'open box: down bow, wedge: up bow'],
    [bowMarks !== 'none' && events.some(e => e.hook), 'dash: a hooked bow'],
    [bowMarks !== 'none' && events.some(e => e.lift), 'small comma: retake'],
    [
      sheet.kinds.includes('board') && touchingPlaces(d.fingering).length > 0,
      'joined on the fingerboard: fingers that touch',
    ],
    [hand(h => h.hold !== undefined), 'line over the notes: the finger stays down'],
    [hand(h => h.block !== undefined), 'bracket over the notes: one finger over two strings'],
  ]
  return rows.flatMap(([there, words]) => (there ? [words] : []))
}
