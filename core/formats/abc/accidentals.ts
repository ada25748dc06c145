/** What alters a note: the sign before it, a tie into it, an accidental earlier in its bar, the key. */
import { spelledAt, type Pitch, type Step } from '#core/music/pitch'
import type { AbcPitch } from './parserTypes'
import type { Propagation } from './prepare'

export const ACCIDENTAL: Readonly<Record<string, number>> = {
  sharp: 1,
  flat: -1,
  natural: 0,
  dblsharp: 2,
  dblflat: -2,
}
/** Middle C is pitch 0 for the parser; our letter height counts from C0. */
const MIDDLE_C_HEIGHT = 28
const heightOf = (p: AbcPitch) => p.pitch + MIDDLE_C_HEIGHT

export interface Altered {
  readonly pitch: Pitch
  /** A sign that is none of ours: the note is plain. */
  readonly unread?: string
  /**
   * In another octave of this bar the letter was altered: whether that counts here is the standard's
   * version's word.
   */
  readonly elsewhere?: { readonly letter: Step; readonly counts: boolean }
}

export class Accidentals {
  /** Alterations written in this bar, by letter height; and by letter, in whatever octave. */
  private inBar = new Map<number, number>()
  private inAny = new Map<Step, number>()
  /** Pitches tied into the next note, by letter height. */
  private tiedIn = new Map<number, number>()

  bar() {
    this.inBar = new Map()
    this.inAny = new Map()
  }

  tie(given: readonly AbcPitch[], heads: readonly { readonly pitch: Pitch }[]) {
    this.tiedIn = new Map(
      given.flatMap((p, i) => (p.startTie ? [[heightOf(p), heads[i]!.pitch.alter] as const] : [])),
    )
  }

  /** The written alteration, else a tie's, else the bar's, else the key's. */
  pitch(p: AbcPitch, key: Readonly<Record<Step, number>>, how: Propagation): Altered {
    const height = heightOf(p)
    const { step, octave } = spelledAt(height, 0)
    const written = p.accidental === undefined ? undefined : ACCIDENTAL[p.accidental]
    if (written !== undefined && how !== 'not') {
      this.inBar.set(height, written)
      this.inAny.set(step, written)
    }
    const fromTie = p.endTie ? this.tiedIn.get(height) : undefined
    const near = how === 'pitch' ? this.inAny.get(step) : this.inBar.get(height)
    const alter = written ?? fromTie ?? near ?? key[step]
    const given = written ?? fromTie ?? this.inBar.get(height)
    const other = given === undefined ? this.inAny.get(step) : undefined
    return {
      pitch: { step, alter, octave: Math.max(-1, Math.min(9, octave)) },
      ...(p.accidental !== undefined && written === undefined && { unread: p.accidental }),
      ...(other !== undefined &&
        other !== key[step] && { elsewhere: { letter: step, counts: alter === other } }),
    }
  }
}
