/** Sound as a WAV file: 16-bit PCM, the open format every player reads. */

/**
 * Samples of one or two channels, each -1 to 1, interleaved into a RIFF file. Channels must be of one length.
 */
export function writeWav(channels: readonly Float32Array[], sampleRate: number): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const block = channels.length * 2
  const bytes = new Uint8Array(44 + frames * block)
  const view = new DataView(bytes.buffer)
  const word = (at: number, text: string) =>
    [...text].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)))
  word(0, 'RIFF')
  view.setUint32(4, 36 + frames * block, true)
  word(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, channels.length, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * block, true)
  view.setUint16(32, block, true)
  view.setUint16(34, 16, true)
  word(36, 'data')
  view.setUint32(40, frames * block, true)
  for (let i = 0; i < frames; i++)
    channels.forEach((c, k) => {
      const x = Math.max(-1, Math.min(1, c[i]!))
      view.setInt16(44 + i * block + k * 2, Math.round(x < 0 ? x * 0x8000 : x * 0x7fff), true)
    })
  return bytes
}
