/**
 * The demo shelf: tunes composed for it and the arrangements a small village school would keep. Everybody and
 * every place is made up.
 */
import { withPlayed, withSchools, withShown } from '#core/arrangement/edits'
import { newArrangement, type Arrangement, type Played } from '#core/arrangement/recipe'
import { parseTuning } from '#core/instruments/tunings'
import { sizeOf } from '#core/instruments/instruments'
import type { InstrumentId } from '#core/music/tune'

export interface DemoTune {
  /** File in demo/tunes. */
  readonly file: string
  readonly arrangements: readonly Arrangement[]
}

const plain = (instrument: InstrumentId, name: string, played: Partial<Played> = {}): Arrangement =>
  withPlayed(newArrangement(instrument, sizeOf(instrument).name, name), played)

const crossTuned = parseTuning('violin', 'A3 E4 A4 E5')

export const DEMO_TUNES: readonly DemoTune[] = [
  {
    file: 'brindlewick-bridge.abc',
    arrangements: [plain('violin', 'Tuesday class'), plain('cello', 'For the cellos')],
  },
  {
    file: 'heron-on-saltmarsh-lane.abc',
    arrangements: [plain('violin', 'As written'), plain('viola', 'For the violas')],
  },
  {
    file: 'evening-on-quillen-water.abc',
    arrangements: [plain('violin', 'As sung'), plain('cello', 'Low and warm')],
  },
  { file: 'tannery-band-steps-out.abc', arrangements: [plain('violin', 'March past')] },
  { file: 'four-corners-of-ostrey.abc', arrangements: [plain('violin', 'First years', { level: 3 })] },
  { file: 'crooked-stile.abc', arrangements: [plain('violin', 'As written')] },
  {
    file: 'ninepin-ring.abc',
    arrangements: [
      plain('violin', 'Cross-tuned A E A E', { tuning: 'tuning' in crossTuned ? crossTuned.tuning : null }),
    ],
  },
  { file: 'half-step-study.abc', arrangements: [plain('viola', 'Study', { size: '15"' })] },
  {
    file: 'little-bell-round.abc',
    arrangements: (['violin', 'viola', 'cello', 'bass'] as const).map(i => plain(i, `Mixed class: ${i}`)),
  },
  { file: 'kiln-yard-polska.abc', arrangements: [plain('cello', 'As written')] },
  {
    file: 'skylark-over-hethering.abc',
    arrangements: [withShown(plain('violin', 'As written'), { ossia: 'noFourth' })],
  },
  {
    file: 'two-kettles-on-the-hob.abc',
    arrangements: [
      plain('violin', 'As written'),
      plain('violin', 'Second part covered', {
        // From the first note of the part to its last.
        passages: [{ from: 'n22', to: 'n42', rule: { kind: 'sound', sound: 'covered' } }],
      }),
    ],
  },
  {
    file: 'lighthouse-stair.abc',
    arrangements: [
      plain('cello', 'As written'),
      withSchools(plain('cello', 'Rather shifting'), { reach: 'shift' }),
    ],
  },
  { file: 'goose-gate-jog.abc', arrangements: [plain('violin', 'As written')] },
  {
    file: 'low-barn-stomp.abc',
    arrangements: [
      plain('bass', 'As written'),
      withSchools(plain('bass', 'Fourth preferred'), { open: 'fourth' }),
      withSchools(plain('bass', 'A finger a semitone'), { bassHand: '1-2-3-4' }),
    ],
  },
]
