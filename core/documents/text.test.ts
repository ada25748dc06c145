import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyTune, tuneSchema } from '#core/music/tune'
import { newArrangement, arrangementSchema } from '#core/arrangement/recipe'
import { cleanText } from './text'

describe('text at the edge', () => {
  it('loses half of a pair and control signs, and nothing else', () => {
    expect(cleanText('a\u0000b\ud83dc\ude00 \ud83d\ude00\n\tü')).toBe('abc \ud83d\ude00\n\tü')
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), s => {
        const clean = cleanText(s)
        expect(() => encodeURIComponent(clean)).not.toThrow()
        expect(cleanText(clean)).toBe(clean)
      }),
    )
  })
  it('of a tune and of a recipe is fit to be stored, whatever was typed', () => {
    const title = `${'x'.repeat(399)}\ud83d`
    const tune = tuneSchema.parse({ ...emptyTune(title), notes: 'a\u0000b', tags: ['\udc00t'] })
    expect([tune.title.length, tune.notes, tune.tags]).toEqual([399, 'ab', ['t']])
    const recipe = arrangementSchema.parse({ ...newArrangement('violin', '4/4'), name: '\ud83dClass' })
    expect(recipe.name).toBe('Class')
  })
})
