/**
 * The least time a hand and a bow arm need: a plain model whose figures a studio may change. A shift lets go,
 * travels at a practised speed and settles; a crossing turns the arm.
 */
import { z } from 'zod'

export const handModelSchema = z
  .strictObject({
    /** Seconds to let go and to settle, and the speed of a practised hand on the way. */
    settleSeconds: z.number().min(0.01).max(1),
    mmPerSecond: z.number().min(50).max(5000),
    /** More when the same finger slides to its new place. */
    sameFingerSeconds: z.number().min(0).max(1),
    /** Seconds the bow needs to go to the neighbouring string, and for each string it skips. */
    crossingSeconds: z.number().min(0.01).max(1),
    skipSeconds: z.number().min(0).max(1),
    /** Seconds a finger needs to jump to the next string at another place. */
    hopSeconds: z.number().min(0.01).max(1),
  })
  .readonly()
export type HandModel = z.infer<typeof handModelSchema>

/** Seconds a move of the hand takes at least. */
export const leastShift = (model: HandModel, mm: number, sameFinger: boolean) =>
  model.settleSeconds + mm / model.mmPerSecond + (sameFinger ? model.sameFingerSeconds : 0)

/** Our assumptions; nobody measured this learner. */
export const HAND_MODEL: HandModel = {
  settleSeconds: 0.07,
  mmPerSecond: 800,
  sameFingerSeconds: 0.06,
  crossingSeconds: 0.075,
  skipSeconds: 0.05,
  hopSeconds: 0.11,
}
