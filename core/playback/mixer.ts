/** How loud each track is, and where it stands. */
import type { Track, TrackId } from './program'

export interface TrackMix {
  /** 0 to 1, as a slider goes: heard volume grows with its square. */
  readonly volume: number
  /** −1 left to 1 right. */
  readonly pan: number
  readonly mute: boolean
  /** Only tracks that are alone are heard, where there are any. */
  readonly solo: boolean
}

export const AS_IT_COMES: TrackMix = { volume: 1, pan: 0, mute: false, solo: false }

/** What was said of tracks; of the others nothing. */
export type Mix = Readonly<Record<TrackId, Partial<TrackMix>>>

export const mixOf = (mix: Mix, id: TrackId): TrackMix => ({ ...AS_IT_COMES, ...mix[id] })

/** By track: its gain, 0 to 1, and its place. */
export function gainsOf(tracks: readonly Track[], mix: Mix): { id: TrackId; gain: number; pan: number }[] {
  const all = tracks.map(({ id }) => ({ id, ...mixOf(mix, id) }))
  const alone = all.some(t => t.solo)
  return all.map(({ id, volume, pan, mute, solo }) => ({
    id,
    gain: mute || (alone && !solo) ? 0 : volume * volume,
    pan,
  }))
}
