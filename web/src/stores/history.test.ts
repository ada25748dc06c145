import fc from 'fast-check'
import { expect, it } from 'vitest'
import { begin, record, redo, undo, type History } from './history'

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

it('keeps apart what belongs to different goes: another name, no name, or an undo between', () => {
  const typed = (h: History<string>, text: string, group: string | null) => record(h, text, group)
  let h = typed(typed(begin('a'), 'b', 'title'), 'c', 'composer')
  h = typed(h, 'd', 'title')
  expect(undo(h).present).toBe('c')
  h = typed(typed(h, 'e', null), 'f', null)
  expect(undo(h).present).toBe('e')
  h = typed(undo(typed(h, 'g', 'title')), 'h', 'title')
  expect(undo(h).present).toBe('f')
})
