/** The engraving library with the one music face we draw. */
import Vex from 'vexflow/bravura'

export const V = Vex.Flow
