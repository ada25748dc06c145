/** The name of the place a hand stands at for one of its notes. */
import { INSTRUMENTS } from '#core/instruments/instruments'
import { positionName } from '#core/instruments/positions'
import type { Pitch } from '#core/music/pitch'
import type { HandState, HeadPlace } from './candidates'
import type { FingeringOptions } from './problem'

/** A written pitch as it sounds on the instrument. */
export const soundingPitch = (instrument: FingeringOptions['instrument'], written: Pitch): Pitch => ({
  ...written,
  octave: written.octave - INSTRUMENTS[instrument].writtenAbove / 12,
})

export const positionAt = (
  { instrument, tuning }: Pick<FingeringOptions, 'instrument' | 'tuning'>,
  { anchor, shape }: HandState,
  { finger, string }: HeadPlace,
  written: Pitch,
): string =>
  positionName({
    instrument,
    anchor,
    shape,
    finger,
    pitch: soundingPitch(instrument, written),
    open: tuning[string]!,
  })
