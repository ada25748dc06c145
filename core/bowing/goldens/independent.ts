/** Bow marks others wrote, without sight of this code: weighed on in cross-validation only. */
import { z } from 'zod'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { BOW_SCHOOLS } from '../schools'
import raw from './independent.json'
import { strokesNamed } from './marks'

const strokes = z.string().transform(strokesNamed)
const schema = z.array(
  z.strictObject({
    name: z.string(),
    instrument: z.enum(INSTRUMENT_IDS),
    school: z.enum(BOW_SCHOOLS),
    pattern: z.string().optional(),
    abc: z.string(),
    want: strokes,
    also: z.array(strokes),
    why: z.string(),
    rule: z.string(),
  }),
)

export const INDEPENDENT_BOWINGS = schema.parse(raw)
export type IndependentBowing = (typeof INDEPENDENT_BOWINGS)[number]
