/**
 * `npm run bench`: medians of the budgets, each with its ratio to reading the same tune from ABC in the same
 * run.
 */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive, DeriveMemory } from '#core/arrangement/derive'
import { pinned, withBow, withShown } from '#core/arrangement/edits'
import { bowTune } from '#core/bowing/bowing'
import { MAY_ALL, MAY_NOTHING } from '#core/bowing/schools'
import { newArrangement } from '#core/arrangement/recipe'
import { fingeringProblem, solveFingering } from '#core/fingering/fingering'
import { readAbc } from '#core/formats/abc/readAbc'
import { analyseForm } from '#core/form/form'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { HAND_MODEL } from '#core/instruments/handModel'
import { homeTuning } from '#core/instruments/tunings'
import { defaultTempo } from '#core/music/metre'
import { octaveShift, transposeTune } from '#core/music/transpose'
import { INSTRUMENT_IDS } from '#core/music/tune'
import { writtenFor } from '#core/instruments/instruments'
import { keyQuestions, keysOfMode } from '#core/grading/keyRows'
import { tryKey } from '#core/grading/keySearch'
import { demoSource } from '#demo/fillShelf'

/** Median milliseconds of `runs` calls after a short warm-up. */
function median(run: () => unknown, runs = 25): number {
  for (let i = 0; i < 5; i++) run()
  const times = Array.from({ length: runs }, () => {
    const start = performance.now()
    run()
    return performance.now() - start
  }).sort((a, b) => a - b)
  return times[Math.floor(runs / 2)]!
}

const reelSource = demoSource('brindlewick-bridge.abc')
const reel = readAbc(reelSource).tunes[0]!.tune
/** Two 16-measure demo tunes end to end: 32 written measures, and the same again and again for 500 notes. */
const music = reelSource.slice(reelSource.indexOf('E2|:'))
const plain = (times: number) =>
  `X:1\nT:Long\nM:4/4\nL:1/8\nK:A\n${Array.from({ length: times }, () =>
    music
      .replace(/[:|]*\|1[^:]*:\|2/g, '|')
      .replace(/[|:]*:\|?|\|\]/g, '|')
      .replace(/\|+/g, '|'),
  ).join('')}`
const longSource = plain(4)
const long = readAbc(longSource).tunes[0]!.tune
const notes = long.measures.flatMap(m => m.events).filter(e => e.kind === 'note').length
const shortSource = plain(2)
const short = readAbc(shortSource).tunes[0]!.tune

const rows: [string, number, number, number?][] = []
const readLong = median(() => readAbc(longSource))
const readShort = median(() => readAbc(shortSource))

for (const instrument of INSTRUMENT_IDS) {
  const own = writtenFor(long) === instrument
  const down = { violin: 0, viola: -1, cello: -2, bass: -1 }[instrument]
  const tune = own ? long : transposeTune(long, octaveShift(down))
  const options = {
    instrument,
    length: sizeOf(instrument).string,
    tuning: homeTuning(instrument),
    open: 'cost' as const,
    tempo: defaultTempo(tune.metre),
    model: HAND_MODEL,
  }
  rows.push([
    `fingering, ${notes} notes, ${INSTRUMENTS[instrument].name}, cold`,
    median(() => solveFingering(fingeringProblem(tune, options)), 15),
    readLong,
    30,
  ])
  const problem = fingeringProblem(tune, options)
  const solved = solveFingering(problem)
  const id = problem.tones[Math.floor(problem.tones.length / 2)]!.id
  rows.push([
    `  after one pin`,
    median(() => solveFingering(problem, { [id]: { finger: 1 } }, solved)),
    readLong,
    2,
  ])
}
const violin = newArrangement('violin', 'full')
/** Strokes of a long line: nothing allowed, and everything. */
for (const [name, may] of [
  ['as written', MAY_NOTHING],
  ['everything allowed', MAY_ALL],
] as const) {
  const d = derive(long, withBow(violin, { may }), ASSUMED_HANDS)
  const { options } = d.bowing.problem
  const solved = bowTune(long, options)
  let place = 0
  /** The bow turned round at one stroke, each time elsewhere. */
  const turned = () => {
    const at = solved.strokes[(place += 61) % solved.strokes.length]!
    const other = at.direction === 'down' ? ('up' as const) : ('down' as const)
    return { ...options, pins: { [at.notes[0]!]: { direction: other } } }
  }
  rows.push([
    `bowing, ${solved.strokes.length} strokes, ${name}, cold`,
    median(() => bowTune(long, options), 15),
    readLong,
    30,
  ])
  rows.push([
    `  after one pin, each time elsewhere`,
    median(() => bowTune(long, turned(), solved), 75),
    readLong,
    3,
  ])
}
rows.push([
  `derive everything, ${short.measures.length} measures, cold`,
  median(() => derive(short, violin, ASSUMED_HANDS)),
  readShort,
  25,
])
const memory = new DeriveMemory()
derive(short, violin, ASSUMED_HANDS, memory)
const pinnedNotes = short.measures.flatMap(m => m.events.filter(e => e.kind === 'note').map(e => e.id))
let turn = 0
rows.push([
  '  after a pin, each time on another note',
  median(() =>
    derive(
      short,
      pinned(violin, 'fingers', pinnedNotes[(turn += 7) % pinnedNotes.length]!, { finger: 1 }),
      ASSUMED_HANDS,
      memory,
    ),
  ),
  readShort,
])
rows.push([
  '  after a choice of what is shown',
  median(() =>
    derive(short, withShown(violin, { tabLines: turn++ % 2 ? 'lowest' : 'highest' }), ASSUMED_HANDS, memory),
  ),
  readShort,
])
rows.push([`form of ${short.measures.length} measures`, median(() => analyseForm(short)), readShort])
const book = {
  ...long,
  measures: Array.from({ length: 8 }, (_, k) =>
    long.measures.map(m => ({
      ...m,
      id: `${m.id}.${k}`,
      events: m.events.map(e => ({ ...e, id: `${e.id}.${k}` })),
    })),
  )
    .flat()
    .slice(0, 500),
}
rows.push([`form of ${book.measures.length} measures`, median(() => analyseForm(book), 15), readShort, 50])
rows.push([
  `derive the reel for cello, octave found`,
  median(() => derive(reel, newArrangement('cello', 'full'), ASSUMED_HANDS), 9),
  median(() => readAbc(reelSource)),
])
rows.push([`read ABC, ${short.measures.length} measures`, readShort, readShort])

/**
 * Once, as a teacher asks it: in every key and tuning, on all instruments, what is found at home telling what
 * need not be looked at.
 */
const everyKey = () => {
  const search = { instruments: INSTRUMENT_IDS, keys: keysOfMode(fourParts.key), tunings: 'all' as const }
  const memory = new DeriveMemory()
  for (const q of keyQuestions(fourParts, search)) tryKey(fourParts, q, search, ASSUMED_HANDS, memory)
}
const fourParts = readAbc(demoSource('four-corners-of-ostrey.abc')).tunes[0]!.tune
const asked = performance.now()
everyKey()
rows.push([
  `every key and tuning on four instruments, ${fourParts.measures.length} measures, one worker of the two or more`,
  performance.now() - asked,
  readShort,
])

console.log('median ms   × reading   budget ms')
for (const [name, ms, base, budget] of rows) {
  console.log(
    `${ms.toFixed(2).padStart(9)}   ${(ms / base).toFixed(2).padStart(9)}   ${String(budget ?? '–').padStart(9)}   ${name}`,
  )
}
