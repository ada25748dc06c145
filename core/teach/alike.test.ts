import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { fingersPinned } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { alikeNotes } from './handReport'

const violin = newArrangement('violin', 'full')
const tuneOf = (music: string) =>
  readAbc(`X:1\nT:Try\nM:2/4\nL:1/8\nQ:1/4=96\nK:D\n${music}\n`).tunes[0]!.tune

describe('the notes that repeat a note', () => {
  it('are also those of its bar moved to another string, when the hand does the same there', () => {
    const d = derive(tuneOf('EFGF|A4|BcdB|A4|EFGF|f4|'), violin, ASSUMED_HANDS)
    const bar = (n: number) => d.fingering.notes.filter(x => x.measure === n).map(x => x.id)
    const alike = alikeNotes(d, bar(1)[1]!)
    expect(alike).toContain(bar(5)[1]!)
    // The same shape on another string is another sound: only the same strings count.
    expect(alike).not.toContain(bar(3)[1]!)
  })
})

it('a pin with its place goes up with a note that lies higher on the string', () => {
  const pinned = fingersPinned(
    violin,
    [
      { id: 'a', up: 0 },
      { id: 'b', up: 2 },
    ],
    { finger: 1, anchor: 5 },
  )
  expect(pinned.played.pins.fingers).toEqual({ a: { finger: 1, anchor: 5 }, b: { finger: 1, anchor: 7 } })
  const off = fingersPinned(pinned, [{ id: 'a', up: 0 }], undefined)
  expect(off.played.pins.fingers).toEqual({ b: { finger: 1, anchor: 7 } })
})
