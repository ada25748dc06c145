/**
 * The part of the parser's output that we read. Its own types are loose; these say what it was seen to give.
 */
export interface AbcTune {
  lines: { staff?: AbcStaff[] }[]
  metaText?: { tempo?: { duration?: number[]; bpm?: number } }
  warnings?: string[]
}

export interface AbcStaff {
  voices: AbcElement[][]
  title?: (string | undefined)[]
  /** `clefPos`: the line or space the clef names, counted in steps from below the staff. */
  clef?: { type: string; clefPos?: number }
  key?: AbcKey
  meter?: AbcMeter
}

export interface AbcKey {
  root: string
  acc: string
  mode: string
  accidentals?: { acc: string; note: string }[]
}

export interface AbcMeter {
  type: string
  value?: { num: string; den?: string }[]
}

export interface AbcPitch {
  pitch: number
  accidental?: string
  startTie?: object
  endTie?: boolean
  startSlur?: { label: number }[]
  endSlur?: number[]
}

export interface AbcElement extends Partial<AbcKey> {
  el_type: string
  startChar: number
  endChar: number
  // note
  pitches?: AbcPitch[]
  rest?: { type: string; text?: number }
  duration?: number | number[]
  startTriplet?: number
  tripletMultiplier?: number
  tripletR?: number
  endTriplet?: boolean
  gracenotes?: AbcPitch[]
  chord?: { name: string; position?: string }[]
  decoration?: string[]
  startSlur?: { label: number }[]
  endSlur?: number[]
  // bar, metre, part
  type?: string
  startEnding?: string
  endEnding?: boolean
  value?: { num: string; den?: string }[]
  title?: string
}
