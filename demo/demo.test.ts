import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { demoSource } from './fillShelf'
import { DEMO_TUNES } from './shelf'

describe.each(DEMO_TUNES.map(t => [t.file, t] as const))('%s', (file, demo) => {
  const { tunes } = readAbc(demoSource(file))

  it('reads without a single problem', () => {
    expect(tunes).toHaveLength(1)
    expect(tunes[0]!.findings.map(sentence)).toEqual([])
  })

  it('can be fingered and bowed whole by every arrangement that ships', () => {
    for (const recipe of demo.arrangements) {
      const d = derive(tunes[0]!.tune, recipe, ASSUMED_HANDS)
      expect(d.findings.filter(f => f.severity === 'error').map(sentence)).toEqual([])
      const notes = d.tune.measures.flatMap(m => m.events).filter(e => e.kind === 'note')
      const heads = notes.flatMap(n => n.heads)
      expect(new Set(d.fingering.notes.map(n => n.id)).size).toBe(heads.length)
      expect(new Set(d.bowing.strokes.flatMap(s => s.notes)).size).toBe(notes.length)
    }
  })
})
