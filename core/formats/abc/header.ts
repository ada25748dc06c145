/** What the fields before the music say: names, tempo, the order of the parts. */
import type { Key } from '#core/music/key'
import { alterations, MODES, signature } from '#core/music/key'
import { add, compare, frac, mul, parseFraction, ZERO, type Fraction } from '#core/music/fraction'
import { measureLength, parseMetre } from '#core/music/metre'
import type { Step } from '#core/music/pitch'
import { STEPS } from '#core/music/pitch'
import type { Tune } from '#core/music/tune'
import type { Tonic } from './prepare'
import { decodeAbc } from './text'

export interface Header {
  readonly titles: readonly string[]
  readonly keyText: string | null
  readonly metreText: string | null
  readonly tempoText: string | null
  /** The note that stands for one: L:, or by the metre what the standard takes for it. */
  readonly unit: Fraction
  readonly orderText: string | null
  readonly freeMetre: boolean
  readonly facts: Pick<Tune, 'composer' | 'learnedFrom' | 'kind' | 'notes'>
}

/** The information fields before the music, as text. */
export function readHeader(text: string): Header {
  const fields = new Map<string, string[]>()
  let keyText: string | null = null
  for (const line of text.split('\n')) {
    const m = /^([A-Za-z]):\s*(.*?)\s*(?:(?<!\\)%.*)?$/.exec(line)
    if (!m) continue
    const list = fields.get(m[1]!) ?? []
    // A field that goes on in the next line leaves blanks where it was joined.
    fields.set(m[1]!, [...list, m[2]!.replace(/ {3,}/g, ' ')])
    if (m[1] === 'K') {
      keyText = m[2]!
      break
    }
  }
  const joined = (letter: string, glue = ' ') => decodeAbc((fields.get(letter) ?? []).join(glue))
  const last = (letter: string) => fields.get(letter)?.at(-1) ?? null
  const metreText = last('M')
  return {
    titles: (fields.get('T') ?? []).map(decodeAbc),
    keyText,
    metreText,
    tempoText: last('Q'),
    unit: readUnit(last('L')) ?? unitOf(metreText),
    orderText: last('P'),
    freeMetre: metreText !== null && /^(none|\s*)$/i.test(metreText),
    facts: {
      composer: joined('C'),
      learnedFrom: joined('S'),
      kind: joined('R'),
      notes: joined('N', '\n'),
    },
  }
}

function readUnit(text: string | null): Fraction | null {
  const unit = text === null ? null : parseFraction(text)
  return unit && unit.n > 0 ? unit : null
}

/** A sixteenth in metres shorter than three quarters, else an eighth. */
function unitOf(metre: string | null): Fraction {
  const m = parseMetre(metre ?? '')
  return frac(1, m && compare(measureLength(m), frac(3)) < 0 ? 16 : 8)
}

/**
 * "1/4=92.5", "1/4 3/8=40", by the older sign "C=100" or "C3=40" (`unit`, so often), or "120": quarters. Null
 * when it tells no number.
 */
export function readTempo(said: string, unit: Fraction): Tune['tempo'] | null {
  const text = said.replace(/"[^"]*"/g, ' ').trim()
  const m = /^(?:(.+?)\s*=\s*)?(\d{1,4}(?:\.\d{1,4})?)$/.exec(text)
  const perMinute = Number(m?.[2])
  if (!m || !(perMinute >= 1 && perMinute <= 999)) return null
  if (m[1] === undefined) return { beat: frac(1), perMinute }
  const lengths = m[1].split(/\s+/).map(t => {
    const c = /^C(\d{0,2})$/.exec(t)
    return c ? mul(unit, frac(Number(c[1] || 1))) : parseFraction(t)
  })
  if (lengths.some(l => !l || l.n <= 0)) return null
  return {
    beat: mul(
      lengths.reduce((a, b) => add(a!, b!), ZERO)!,
      frac(4),
    ),
    perMinute,
  }
}

const MOST_PARTS = 100

/**
 * "AABA", "(AB)2C", "A2.B3": letters in the order they are played. Null when it cannot be read, or is longer
 * than a hundred.
 */
export function readOrder(text: string): string[] | null {
  let rest = text.replace(/[\s.]/g, '')
  if (rest === '') return null
  // From the inside out: a group, or a letter, with the number behind it.
  for (let i = 0; rest.includes('('); i++) {
    const before = rest
    rest = rest.replace(/\(([^()]*)\)(\d?)/, (_, group: string, n: string) =>
      spread(group).repeat(Number(n || 1)),
    )
    if (rest === before || i > 20 || rest.length > MOST_PARTS * 2) return null
  }
  const order = spread(rest)
  return /^[A-Za-z]+$/.test(order) && order.length <= MOST_PARTS ? [...order] : null
}
const spread = (text: string) =>
  text.replace(/([A-Za-z])(\d)/g, (_, part: string, n: string) => part.repeat(Number(n)))

const unlike = (k: Key, given: Readonly<Record<Step, number>>) =>
  STEPS.filter(s => alterations(k)[s] !== given[s])

/** The key on a tonic whose signature has just these alterations; null when no mode has. */
export const keyWith = (tonic: Tonic, given: Readonly<Record<Step, number>>): Key | null =>
  MODES.map((mode): Key => ({ ...tonic, mode })).find(k => unlike(k, given).length === 0) ?? null

/**
 * The key on a tonic whose signature differs from these alterations in the fewest letters; of two the one
 * with the right third. Null when all have more than seven signs.
 */
export function keyNear(tonic: Tonic, given: Readonly<Record<Step, number>>): Key | null {
  const third = STEPS[(STEPS.indexOf(tonic.step) + 2) % 7]!
  const far = (k: Key) => unlike(k, given).reduce((n, s) => n + (s === third ? 1.5 : 1), 0)
  const keys = MODES.map((mode): Key => ({ ...tonic, mode })).filter(k => Math.abs(signature(k)) <= 7)
  return keys.toSorted((a, b) => far(a) - far(b))[0] ?? null
}
