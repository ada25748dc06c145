import { expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { bowedTune } from './bowedTune'

const { tune } = readAbc('X:1\nM:4/4\nL:1/4\nK:D\nuD E F G|A4|').tunes[0]!
const d = derive(tune, newArrangement('violin', '4/4'), ASSUMED_HANDS)
const bows = (shown: Parameters<typeof bowedTune>[1]) =>
  bowedTune(d, shown).measures.flatMap(m =>
    m.events.map(e => (e.kind === 'note' ? (e.marks ?? []).join('+') : 'rest') || '.'),
  )

it('files carry the bows that the sheet shows', () => {
  expect(bows('all')).toEqual(['upbow', 'downbow', 'upbow', 'downbow', 'upbow'])
  expect(bows('needed')).toEqual(['upbow', '.', '.', '.', '.'])
  expect(bows('none')).toEqual(['.', '.', '.', '.', '.'])
})
