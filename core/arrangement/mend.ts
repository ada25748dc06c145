/** Mends and pins as edits of a recipe: pure, so that page, API and tests apply them alike. */
import type { Mend } from '#core/findings/finding'
import type { Arrangement, Pins } from './recipe'

/** The pins with one entry of one kind set or (with undefined) taken away. */
export function withPin<K extends keyof Pins>(
  pins: Pins,
  kind: K,
  id: string,
  value: Pins[K][string] | undefined,
): Pins {
  const { [id]: _old, ...rest } = pins[kind] as Record<string, unknown>
  return { ...pins, [kind]: value === undefined ? rest : { ...rest, [id]: value } }
}

/** What a mend changes in a recipe; a mend of the tune itself changes nothing here. */
export function mendRecipe(
  recipe: Arrangement,
  m: Exclude<Mend, { kind: 'moveNote' }>,
): Partial<Arrangement> {
  switch (m.kind) {
    case 'stroke':
      return { pins: withPin(recipe.pins, 'strokes', m.note, m.direction) }
    case 'join':
      return { pins: withPin(recipe.pins, 'joins', m.note, m.slurred) }
    case 'octave':
      return { octave: m.octave }
    case 'key':
      return { key: m.key }
    case 'dropRule':
      return { passages: recipe.passages.filter((_, i) => i !== m.index) }
    case 'unpin':
      return { pins: withPin(recipe.pins, m.what === 'finger' ? 'fingers' : 'strokes', m.note, undefined) }
  }
}
