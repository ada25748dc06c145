import type { Clef, InstrumentId, Tune } from '#core/music/tune'

/** Clefs an instrument reads as its own: a tune in one of them stays where it is. */
const OWN_CLEFS: Readonly<Record<InstrumentId, readonly Clef[]>> = {
  violin: ['treble'],
  viola: ['alto'],
  cello: ['bass', 'tenor'],
  bass: ['bass', 'tenor'],
}

/** The tune says so, or its clef is one the instrument reads as its own. */
export const isWrittenFor = (tune: Tune, id: InstrumentId) =>
  tune.instrument ? tune.instrument === id : OWN_CLEFS[id].includes(tune.clef)
