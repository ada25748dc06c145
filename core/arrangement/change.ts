import { z } from 'zod'
import { eventBodySchema, eventId } from '#core/music/tune'

/** Times through a tune that have changes of their own, on top of those before. */
export const LAYERS = [2, 3] as const
export type Layer = (typeof LAYERS)[number]

/** Why a version changes a place: what was asked there, and what the notes that took the place are to it. */
export const ASKED = ['rhythm', 'reach', 'tried', 'crossings', 'running', 'alike'] as const
export const KEEPS = ['beats', 'leads', 'step', 'chord', 'octave'] as const
export type Asked = (typeof ASKED)[number]
export type Keeps = (typeof KEEPS)[number]

/**
 * One change an arrangement makes to the notes of its tune, as data. It speaks of the tune as it is written,
 * so that it stays true in another key, octave or on another instrument. A refused one stays in the list: the
 * teacher's no is kept like the yes.
 */
export const changeSchema = z
  .strictObject({
    /** Stays the same as long as the change is the same; its notes are named after it. */
    id: z.string().regex(/^[a-zA-Z0-9-]{1,24}$/),
    /** What it does, by name ("merge", "thin"): its words and its like are found by it. */
    kind: z.string().min(1).max(40),
    accepted: z.boolean(),
    /** The time through from which it is played; left out, from the first. */
    layer: z.literal(LAYERS).optional(),
    because: z
      .strictObject({ asked: z.enum(ASKED), keeps: z.enum(KEEPS).optional() })
      .readonly()
      .optional(),
    edit: z.discriminatedUnion('do', [
      /** Consecutive events of one measure give way to others that last as long together. */
      z.strictObject({
        do: z.literal('replace'),
        events: z.array(eventId).min(1).max(200).readonly(),
        by: z.array(eventBodySchema).min(1).max(200).readonly(),
        /**
         * They last longer than what they replace: the measure, short by an upbeat that is left out, becomes
         * whole.
         */
        fills: z.literal(true).optional(),
      }),
      /** Measures are left out, a part as a rule. */
      z.strictObject({
        do: z.literal('leave'),
        measures: z.array(z.string().min(1).max(60)).min(1).max(10_000).readonly(),
      }),
    ]),
  })
  .readonly()
export type Change = z.infer<typeof changeSchema>
export type Because = NonNullable<Change['because']>
type Edit = Change['edit']
export type Replacing = Change & { readonly edit: Extract<Edit, { do: 'replace' }> }
export type Leaving = Change & { readonly edit: Extract<Edit, { do: 'leave' }> }

export const isReplacing = (c: Change): c is Replacing => c.edit.do === 'replace'
export const isLeaving = (c: Change): c is Leaving => c.edit.do === 'leave'
/** A part that the teacher leaves out; a version leaves out an upbeat by itself. */
export const leavesPart = (c: Change): c is Leaving => isLeaving(c) && c.kind !== 'pickup'
