import { expect, it } from 'vitest'
import { writeWav } from './wav'

it('a WAV file says how long it is and holds the samples in turn', () => {
  const bytes = writeWav([Float32Array.of(0, 1, -1), Float32Array.of(0.5, 0, 2)], 44100)
  const view = new DataView(bytes.buffer)
  expect(
    new TextDecoder().decode(bytes.subarray(0, 4)) + new TextDecoder().decode(bytes.subarray(8, 12)),
  ).toBe('RIFFWAVE')
  expect([
    view.getUint32(4, true),
    view.getUint16(22, true),
    view.getUint32(24, true),
    view.getUint32(40, true),
  ]).toEqual([48, 2, 44100, 12])
  expect([0, 1, 2, 3, 4, 5].map(i => view.getInt16(44 + 2 * i, true))).toEqual([
    0, 16384, 32767, 0, -32768, 32767,
  ])
})
