/**
 * What may be typed next in ABC: information fields, keys and kinds after them, marks between exclamation
 * marks.
 */
import type { Completion, CompletionContext, CompletionResult } from '@codemirror/autocomplete'

const FIELDS: readonly (readonly [string, string])[] = [
  ['T:', 'title'],
  ['C:', 'composer'],
  ['R:', 'kind of tune'],
  ['S:', 'learned from'],
  ['M:', 'metre'],
  ['L:', 'length of one letter'],
  ['Q:', 'tempo'],
  ['K:', 'key; the music follows'],
  ['N:', 'notes'],
  ['P:', 'part'],
  ['w:', 'words under the line above'],
  ['X:', 'number; begins a tune'],
]
const KEYS = [
  'C',
  'G',
  'D',
  'A',
  'E',
  'F',
  'Bb',
  'Eb',
  'Am',
  'Em',
  'Bm',
  'Dm',
  'Gm',
  'Ador',
  'Edor',
  'Ddor',
  'Amix',
  'Dmix',
  'Gmix',
]
const KINDS = ['reel', 'jig', 'hornpipe', 'polka', 'waltz', 'polska', 'air', 'march', 'slip jig', 'song']
const METRES = ['4/4', '2/2', '2/4', '3/4', '6/8', '9/8', '12/8', '3/8', '5/4']
const MARKS = [
  'trill',
  'turn',
  'mordent',
  'uppermordent',
  'roll',
  'slide',
  'fermata',
  'accent',
  'tenuto',
  'upbow',
  'downbow',
  'open',
  'harmonic',
  'breath',
  'shortphrase',
  'p',
  'mp',
  'mf',
  'f',
  'ff',
  'pp',
  '0',
  '1',
  '2',
  '3',
  '4',
]

const plain = (list: readonly string[]): Completion[] => list.map(label => ({ label, type: 'text' }))

/** Completions at a place of the text; null where none help. */
export function abcCompletions(context: CompletionContext): CompletionResult | null {
  const line = context.state.doc.lineAt(context.pos)
  const before = line.text.slice(0, context.pos - line.from)
  const value = /^([KMRQ]):\s*(\S*)$/.exec(before)
  if (value) {
    const lists: Record<string, readonly string[]> = {
      K: KEYS,
      M: METRES,
      R: KINDS,
      Q: ['1/4=', '1/2=', '3/8='],
    }
    return { from: context.pos - value[2]!.length, options: plain(lists[value[1]!]!) }
  }
  const mark = /!([a-z0-9]*)$/.exec(before)
  if (mark && (before.match(/!/g)?.length ?? 0) % 2 === 1) {
    const options = MARKS.map(m => ({ label: m, apply: `${m}!`, type: 'text' }))
    return { from: context.pos - mark[1]!.length, options }
  }
  // At the start of a line only when asked: letters there are notes as often as fields.
  if (/^[A-Za-z]?$/.test(before) && context.explicit) {
    return { from: line.from, options: FIELDS.map(([label, detail]) => ({ label, detail, type: 'keyword' })) }
  }
  return null
}
