/** Where a tuner's sound comes from: the microphone, or the simulated string that ships with the app. */
import { hear, WINDOW, type Heard } from '#core/tuner/detect'
import { rest, samplesOf, type SimulatedString } from '#core/tuner/simulated'

export interface Listening {
  /** What sounds now; null when nothing plain does. */
  now(): Heard | null
  stop(): void
}

/** Throws what the browser throws when there is no microphone, or nobody allows it. */
export async function microphone(): Promise<Listening> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  })
  const context = new AudioContext()
  const analyser = new AnalyserNode(context, { fftSize: WINDOW })
  context.createMediaStreamSource(stream).connect(analyser)
  const samples = new Float32Array(WINDOW)
  return {
    now() {
      analyser.getFloatTimeDomainData(samples)
      return hear(samples, context.sampleRate)
    },
    stop() {
      stream.getTracks().forEach(t => t.stop())
      void context.close()
    },
  }
}

const RATE = 44_100

/**
 * The simulated string, heard through the same ear; `string` gives it as it stands, `changed` takes it after
 * time has passed.
 */
export function simulation(string: () => SimulatedString, changed: (s: SimulatedString) => void): Listening {
  let last = performance.now()
  return {
    now() {
      const at = performance.now()
      changed(rest(string(), (at - last) / 1000))
      last = at
      return hear(samplesOf(string(), WINDOW, RATE, (at / 1000) % 1), RATE)
    },
    stop() {},
  }
}
