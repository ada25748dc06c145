import { CompletionContext } from '@codemirror/autocomplete'
import { EditorState } from '@codemirror/state'
import { expect, it } from 'vitest'
import { abcCompletions } from './abcCompletions'

const at = (text: string, explicit = false) => {
  const result = abcCompletions(
    new CompletionContext(EditorState.create({ doc: text }), text.length, explicit),
  )
  return result && { from: result.from, labels: result.options.map(o => o.label) }
}

it('helps with keys, kinds and metres after their field, from where the value begins', () => {
  expect(at('X:1\nK:D')).toEqual({ from: 6, labels: expect.arrayContaining(['D', 'Ddor', 'Dmix']) })
  expect(at('R: sl')!.labels).toContain('slip jig')
  expect(at('M:')!.labels).toContain('6/8')
})

it('closes a mark, but offers none after one that is closed', () => {
  expect(at('DEF !tr')!.labels).toContain('trill')
  expect(at('DEF !trill!')).toBeNull()
})

it('keeps quiet between notes; at the start of a line it answers when asked', () => {
  expect(at('DEF G')).toBeNull()
  expect(at('K')).toBeNull()
  expect(at('K', true)!.labels).toContain('K:')
})
