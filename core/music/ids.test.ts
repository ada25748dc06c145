import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FreshIds } from './edit/edited'
import { changeOf, eventOf, headOf, madeId, noteId, onEvent } from './ids'

describe('ids', () => {
  it('a note leads back to its event and its place in it', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z][0-9]{1,6}$/), fc.nat(63), (event, i) => {
        const note = noteId(event, i)
        expect([eventOf(note), headOf(note)]).toEqual([event, i])
        expect(onEvent(note, 'n9')).toBe(noteId('n9', i))
      }),
    )
  })

  it('what a change makes is never what an edit makes', () => {
    const fresh = new FreshIds(0)
    const edits = Array.from({ length: 500 }, () => fresh.next('n'))
    const made = edits.flatMap(c => [0, 1, 2].map(i => madeId(c, i)))
    expect(made.filter(id => edits.includes(id))).toEqual([])
    expect(new Set(made).size).toBe(made.length)
    expect(made.map(changeOf)).toEqual(edits.flatMap(c => [c, c, c]))
    expect(edits.map(changeOf)).toEqual(edits.map(() => null))
  })
})
