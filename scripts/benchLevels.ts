/**
 * `npm run bench:levels`: what becomes of tunes brought down to a level, on every instrument: whether what
 * comes out asks for no more, what is kept of the tune, and whether the search by melody still finds the tune
 * it came from. Three kinds of tunes: the demo tunes, a book made by the dozen that no rule was set on, and
 * tunes with versions others made, on which the levels were calibrated. `-- --book 200` says how many of the
 * book (20 when not said).
 */
import { readdirSync, readFileSync } from 'node:fs'
import { playedChanges, applyChanges } from '#core/arrangement/changes'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { DeriveMemory } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { easier } from '#core/arranging/easier'
import { enriched } from '#core/arranging/enrich'
import { easierInBestKey, VersionsInKeys } from '#core/arranging/bestKey'
import { WINCE_WORDS, WINCES, wincesOf, type Wince } from '#core/arranging/soundness'
import { isMangled, keptInAll, keptOf } from '#core/arranging/kept'
import { FANCIER, WITHOUT_WORDS, type SpiceKind } from '#core/arranging/spices'
import { readAbc } from '#core/formats/abc/readAbc'
import { gradeOf } from '#core/grading/demands'
import { lowestLevel } from '#core/grading/lowest'
import { sizeOf } from '#core/instruments/instruments'
import { LEVELS, type Level } from '#core/levels/levels'
import { melodyPrint, PrintIndex } from '#core/melody/print'
import { composedAbc } from '#core/music/composed'
import { keyName, sameKey } from '#core/music/key'
import { isNote, placeEvents } from '#core/music/timeline'
import { toNumber } from '#core/music/fraction'
import { INSTRUMENT_IDS, type InstrumentId, type Tune } from '#core/music/tune'
import { midi } from '#core/music/pitch'
import { demoSource } from '#demo/fillShelf'

interface Versions {
  readonly abc: string
  readonly versions: readonly {
    readonly purpose: string
    readonly instrument: string
    readonly level: number
    readonly abc: string
  }[]
}
const versions = JSON.parse(
  readFileSync(new URL('../core/grading/goldens/versions.json', import.meta.url), 'utf8'),
) as Versions[]
const bookAt = process.argv.indexOf('--book')
const BOOK = bookAt < 0 ? 20 : Number(process.argv[bookAt + 1])
const composed = (n: number) => readAbc(composedAbc(n)).tunes[0]!.tune
const demo = readdirSync(new URL('../demo/tunes', import.meta.url)).map(
  f => readAbc(demoSource(f)).tunes[0]!.tune,
)
const book = Array.from({ length: BOOK }, (_, i) => composed(i + 1))

const index = new PrintIndex()
for (let i = 1; i <= 5000; i++) index.set(`book ${i}`, melodyPrint(composed(i)))
demo.forEach((t, i) => index.set(`demo ${i}`, melodyPrint(t)))

interface Made {
  readonly level: Level
  readonly above: boolean
  readonly strong: number
  readonly ends: number
  readonly found: boolean
  readonly unfingered: number
  readonly needless: boolean
  readonly moved: boolean
  /** All four shares of what is kept, together. */
  readonly score: number
  readonly key: string
}

function made(tune: Tune, name: string, instrument: InstrumentId): Made[] {
  const base = newArrangement(instrument, sizeOf(instrument).name)
  const plain = lowestLevel(tune, base, ASSUMED_HANDS, new DeriveMemory())
  const versions = new VersionsInKeys(tune, base, { context: ASSUMED_HANDS })
  return LEVELS.map(level => {
    const own = versions.inKey(tune.key, level)
    // Where its own key stands in the way another one is taken, as the page offers.
    const {
      eased: e,
      kept,
      key,
    } = own.eased.blocked.length > 0 || isMangled(own.kept, own.eased.changes) ? versions.best(level) : own
    const version = applyChanges(tune, playedChanges(e.recipe.played)).tune
    const grade = gradeOf(e.derived, e.recipe)
    return {
      level,
      above: grade.level > level,
      strong: kept.strongBeats,
      ends: kept.phraseEnds,
      found: index.holding(melodyPrint(version), 0)[0]?.id === name,
      unfingered: e.derived.findings.filter(f => f.severity === 'error').length,
      moved: !sameKey(key, tune.key),
      needless:
        plain.level <= level &&
        plain.unplayable === 0 &&
        e.changes.some(c => !['slur', 'lighten'].includes(c.kind)),
      score: keptInAll(kept),
      key: keyName(key),
    }
  })
}

const percent = (n: number, of: number) => `${((100 * n) / Math.max(1, of)).toFixed(1)}%`
function table(title: string, tunes: readonly (readonly [string, Tune])[]) {
  const rows = tunes.flatMap(([name, t]) =>
    INSTRUMENT_IDS.map(i => ({ instrument: i, list: made(t, name, i) })),
  )
  console.log(
    `\n${title} (${tunes.length} tunes on four instruments)\n level  above it  strong beats kept  80 % kept  every end kept  found first  not fingered  needless  in another key`,
  )
  for (const level of LEVELS) {
    const at = rows.map(r => r.list[level - 1]!)
    const n = at.length
    const mean = at.reduce((s, m) => s + m.strong, 0) / n
    const cells = [
      at
        .filter(m => m.above)
        .length.toString()
        .padStart(8),
      `${(100 * mean).toFixed(1)}%`.padStart(18),
      percent(at.filter(m => m.strong >= 0.8).length, n).padStart(10),
      percent(at.filter(m => m.ends === 1).length, n).padStart(15),
      percent(at.filter(m => m.found).length, n).padStart(12),
      String(at.filter(m => m.unfingered > 0).length).padStart(13),
      String(at.filter(m => m.needless).length).padStart(9),
      percent(at.filter(m => m.moved).length, n).padStart(15),
    ]
    console.log(`${String(level).padStart(6)}${cells.join(' ')}`)
  }
  for (const i of INSTRUMENT_IDS) {
    const list = rows.filter(r => r.instrument === i)
    const less = list.filter(r =>
      // In another key it is another version: there the lower level may keep more.
      r.list.some((m, k) => k > 0 && m.key === r.list[k - 1]!.key && m.score < r.list[k - 1]!.score - 0.02),
    ).length
    console.log(`   ${i}: a higher level keeps less in ${less} of ${list.length}`)
  }
}

/** Share of beats on which two versions have the same note, in whichever octave. */
function sameOnBeats(a: Tune, b: Tune): number {
  const line = (t: Tune) =>
    placeEvents(t)
      .filter(isNote)
      .map(p => ({ at: toNumber(p.start), midi: midi(p.event.heads.at(-1)!.pitch) }))
  const [x, y] = [line(a), line(b)]
  const end = Math.max(...x.map(n => n.at))
  const at = (list: typeof x, t: number) => {
    const there = list.findLast(n => n.at <= t + 1e-9)
    return there && there.midi % 12
  }
  const beats = Array.from({ length: Math.ceil(end) }, (_, i) => i)
  return beats.filter(t => at(x, t) === at(y, t)).length / Math.max(1, beats.length)
}

const SPICES: Readonly<Record<string, readonly SpiceKind[]>> = { fancier: FANCIER, lessDull: WITHOUT_WORDS }
/**
 * Every rule a judge of unmarked pairs named, counted in ours (in the key found best) and in theirs; of every
 * third tune apart, which no weight was set on.
 */
function winces() {
  const sums = { tuned: newSums(), held: newSums() }
  versions.forEach((t, nth) => {
    const tune = readAbc(t.abc).tunes[0]!.tune
    const made = new Map<string, VersionsInKeys>()
    for (const v of t.versions.filter(x => x.purpose === 'easier' && x.level <= 3)) {
      const [instrument, level] = [v.instrument as InstrumentId, v.level as Level]
      const base = newArrangement(instrument, sizeOf(instrument).name)
      const inKeys = made.get(instrument) ?? new VersionsInKeys(tune, base, { context: ASSUMED_HANDS })
      made.set(instrument, inKeys)
      const { derived } = inKeys.best(level).eased
      const theirs = readAbc(v.abc).tunes[0]!.tune
      const sum = nth % 3 === 2 ? sums.held : sums.tuned
      sum.versions++
      const tempo = theirs.tempo ?? derived.tempo
      const found = [
        wincesOf(tune, derived.tune, level, instrument, derived.tempo),
        wincesOf(tune, theirs, level, instrument, tempo),
      ]
      found.forEach((w, side) => WINCES.forEach(rule => (sum.of[rule][side]! += w[rule])))
    }
  })
  console.log(
    '\nRules of the judges, broken per version: ours and theirs; on tunes weighed on, and on every third tune, held back',
  )
  const share = (x: number, n: number) => (x / Math.max(1, n)).toFixed(2).padStart(6)
  for (const rule of WINCES) {
    const cells = [sums.tuned, sums.held].map(
      s => `${share(s.of[rule][0]!, s.versions)} ${share(s.of[rule][1]!, s.versions)}`,
    )
    console.log(`   ${rule.padEnd(9)} ${cells.join('   |')}   ${WINCE_WORDS[rule]}`)
  }
}
const newSums = () => ({
  versions: 0,
  of: Object.fromEntries(WINCES.map(w => [w, [0, 0]])) as Record<Wince, number[]>,
})

function versionsOfOthers() {
  console.log(
    '\nVersions others made (levels calibrated on them): same note on the beat as theirs; strong beats kept in theirs and in ours',
  )
  for (const purpose of ['easier', 'fancier', 'lessDull'] as const) {
    const rows = versions.flatMap(t =>
      t.versions
        .filter(v => v.purpose === purpose)
        .map(v => {
          const [tune, theirs] = [t.abc, v.abc].map(abc => readAbc(abc).tunes[0]!.tune) as [Tune, Tune]
          const instrument = v.instrument as InstrumentId
          const base = newArrangement(instrument, sizeOf(instrument).name)
          const o = { level: v.level as Level, context: ASSUMED_HANDS }
          const done =
            purpose === 'easier'
              ? easier(tune, base, o)
              : enriched(tune, base, { ...o, spices: SPICES[purpose]! })
          const own = applyChanges(tune, playedChanges(done.recipe.played)).tune
          const keptIn = (version: Tune) => keptOf(tune, version, done.derived.tempo)
          const ourKey = purpose === 'easier' ? easierInBestKey(tune, base, o).key : tune.key
          return {
            same: sameOnBeats(theirs, own),
            taken: sameKey(ourKey, theirs.key),
            sameKey: theirs.key.step === tune.key.step,
            theirs: keptIn(theirs),
            ours: keptIn(own),
          }
        }),
    )
    const written = rows.filter(r => r.sameKey)
    if (purpose === 'easier')
      console.log(
        `   the key they take is the one found best in ${rows.filter(r => r.taken).length} of ${rows.length}`,
      )
    const mean = (of: (r: (typeof rows)[number]) => number) =>
      percent(
        written.reduce((s, r) => s + of(r), 0),
        written.length,
      )
    console.log(
      `   ${purpose}: ${written.length} in the written key: same on the beat ${mean(r => r.same)}; kept in theirs ${mean(r => r.theirs.strongBeats)}, in ours ${mean(r => r.ours.strongBeats)}; ends ${mean(r => r.theirs.phraseEnds)} and ${mean(r => r.ours.phraseEnds)}; ours keep no less in ${written.filter(r => r.ours.strongBeats >= r.theirs.strongBeats - 1e-9).length}`,
    )
  }
}

if (process.argv.includes('--judges')) {
  winces()
  process.exit(0)
}
table(
  'Demo tunes',
  demo.map((t, i) => [`demo ${i}`, t] as const),
)
table(
  'A book made by the dozen',
  book.map((t, i) => [`book ${i + 1}`, t] as const),
)
winces()
versionsOfOthers()
