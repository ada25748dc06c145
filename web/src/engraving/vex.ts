/** The engraving library with the one music face we draw: of those it ships, a light one with all the signs we need. */
import Vex from 'vexflow/leland'

export const V = Vex.Flow
