/** Phrase families: a hue and a texture each, so that nothing hangs on colour alone. */
const HUES = [158, 34, 212, 350, 82, 276, 190, 14]

const TEXTURES = [
  'none',
  'repeating-linear-gradient(45deg, transparent 0 5px, var(--weave) 5px 6px)',
  'repeating-linear-gradient(90deg, transparent 0 6px, var(--weave) 6px 7px)',
  'repeating-linear-gradient(-45deg, transparent 0 5px, var(--weave) 5px 6px)',
  'repeating-linear-gradient(0deg, transparent 0 5px, var(--weave) 5px 6px)',
  'radial-gradient(var(--weave) 1px, transparent 1.4px)',
]

export interface FamilyLook {
  readonly hue: number
  readonly style: Readonly<Record<string, string>>
}

/** CSS for a block of a family; `--family` is the strong tone, `--family-soft` the tint. */
export function familyLook(family: number): FamilyLook {
  const hue = HUES[family % HUES.length]!
  const texture = TEXTURES[Math.floor(family / HUES.length + family) % TEXTURES.length]!
  return {
    hue,
    style: {
      '--family-hue': String(hue),
      backgroundImage: texture,
      ...(texture.startsWith('radial') && { backgroundSize: '7px 7px' }),
    },
  }
}
