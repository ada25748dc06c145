/**
 * Passages fingered twice by others, neither answer in sight of the other nor of this code. Where both agree
 * there is one answer, where they differ both are right. Weights are fitted on them in cross-validation only:
 * a figure for a passage comes from weights that never saw it.
 */
import { z } from 'zod'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import raw from './independent.json'

export interface Independent {
  readonly name: string
  readonly instrument: InstrumentId
  readonly abc: string
  /** Options of the command `finger`, beside the instrument, by name. */
  readonly options: Readonly<Record<string, string>>
  /** For every sounding note in order the answers that are right ("D3"). */
  readonly want: readonly (readonly string[])[]
  readonly first: readonly string[]
  readonly second: readonly string[]
  readonly rule: string
  readonly why: string
}

const words = z.string().transform(s => s.trim().split(/\s+/))
const schema = z.array(
  z.strictObject({
    name: z.string(),
    instrument: z.enum(INSTRUMENT_IDS),
    abc: z.string(),
    options: z.array(z.string()),
    want: words,
    first: words,
    second: words,
    rule: z.string(),
    why: z.string(),
  }),
)

export const INDEPENDENT: readonly Independent[] = schema.parse(raw).map(({ options, want, ...p }) => ({
  ...p,
  options: Object.fromEntries(
    options.flatMap((o, i) => (o.startsWith('--') ? [[o.slice(2), options[i + 1] ?? '']] : [])),
  ),
  want: want.map(w => w.split('|')),
}))
