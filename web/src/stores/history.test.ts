import fc from 'fast-check'
import { expect, it } from 'vitest'
import { begin, record, redo, undo } from './history'

it('undoes back to the start and redoes to the end, whatever was done', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1 }), { maxLength: 30 }), edits => {
      const done = edits.reduce((h, e, i) => record(h, `${e}:${i}`), begin('start'))
      let h = done
      for (let i = 0; i < edits.length; i++) h = undo(h)
      expect(h.present).toBe('start')
      for (let i = 0; i < edits.length; i++) h = redo(h)
      expect(h.present).toBe(done.present)
    }),
  )
})

it('takes back typing in one go but not the edit before it', () => {
  let h = record(begin('a'), 'b')
  for (const text of ['bc', 'bcd', 'bcde']) h = record(h, text, 'typing')
  expect(undo(h).present).toBe('b')
})

it('forgets what could be redone when something else is done', () => {
  const h = record(undo(record(begin(1), 2)), 3)
  expect(redo(h).present).toBe(3)
})
