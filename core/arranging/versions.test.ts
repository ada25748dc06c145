/** What a teacher would hand out: each rule with the example it comes from. */
import { describe, expect, it } from 'vitest'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { addedSlurs, withBow, withoutVersion } from '#core/arrangement/edits'
import { newArrangement } from '#core/arrangement/recipe'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import type { Level } from '#core/levels/levels'
import { keyName } from '#core/music/key'
import { formatPitch, midi } from '#core/music/pitch'
import { placeEvents } from '#core/music/timeline'
import type { InstrumentId, Tune } from '#core/music/tune'
import { easierInBestKey } from './bestKey'
import { EasierVersions, easier } from './easier'
import type { EaseOptions } from './easing'
import { wincesOf } from './soundness'

const tuneOf = (head: string, music: string) => readAbc(`X:1\nT:t\n${head}\n${music}\n`).tunes[0]!.tune
const base = (i: InstrumentId) => newArrangement(i, sizeOf(i).name)
const made = (tune: Tune, level: Level, i: InstrumentId = 'violin', more: Partial<EaseOptions> = {}) =>
  easier(tune, base(i), { level, context: ASSUMED_HANDS, ...more })
/** "F#:1 A:1/2 | …": letters with their lengths in quarters. */
const line = (t: Tune) =>
  t.measures
    .map(m =>
      m.events
        .map(e => {
          const name = e.kind === 'note' ? formatPitch(e.heads.at(-1)!.pitch).replace(/\d/, '') : 'z'
          return `${name}${e.duration.d === 1 ? e.duration.n : `${e.duration.n}/${e.duration.d}`}`
        })
        .join(' '),
    )
    .join(' | ')
const easedLine = (tune: Tune, level: Level, i?: InstrumentId) => line(made(tune, level, i).derived.tune)

describe('rhythm', () => {
  it('a reel of the third level stands on quarters where its arpeggios cross strings, and keeps its short notes after them', () => {
    const reel = tuneOf('M:4/4\nL:1/8\nQ:1/4=176\nK:D', 'F2 AF DFAF | G2 BG EGBG | F2 AF DFAF | G2 FE D4 |')
    const bars = easedLine(reel, 3).split(' | ')
    expect(bars[0]).toBe('F#1 A1/2 F#1/2 D1 A1/2 F#1/2')
    expect(bars[2]).toBe(bars[0])
  })
  it('of four quick notes that become two the second is the one that leads on, not the first one again', () => {
    const polska = tuneOf('M:3/4\nL:1/16\nQ:1/4=100\nK:Em', 'B4 BABG F2A2 | G4 F2E2 E4 |')
    const [first] = easedLine(polska, 3).split(' | ')
    expect(first).not.toMatch(/B1 B1\/2 B1\/2/)
  })
  it('a dominant whose leading note is out of reach keeps a note of its own: no neighbour takes its beat', () => {
    const jig = tuneOf(
      'M:6/8\nL:1/8\nQ:3/8=104\nK:Gm',
      'd|"Gm"g2f ded|"F"cBA F2c|"Eb"BAB "Cm"cde|"D"d3 d2d|"Gm"g2f ded|"F"cBA F2c|"Gm"BAG "D"^FGA|"Gm"G3 G2|',
    )
    for (const instrument of ['viola', 'cello'] as const) {
      const bars = easedLine(jig, 2, instrument).split(' | ')
      expect(bars.at(-2)).toMatch(/ (A|D|F#)\S*( \S+)?$/)
      expect(bars.at(-2)).not.toMatch(/ G1 A1\/2$/)
    }
  })
  it('a half cadence breathes in the first years: the note it comes to rest on is held, and later it runs on', () => {
    const reel = tuneOf(
      'M:4/4\nL:1/8\nQ:1/4=80\nK:D',
      'D2FG A2B2|A2F2 D2F2|E2GF E2A2|BAGB A2GA|D2FG A2B2|A2F2 D2F2|E2GF E2C2|EFEC D4|',
    )
    expect(easedLine(reel, 1).split(' | ')[3]).toBe('B1 G1 A2')
    expect(easedLine(reel, 2).split(' | ')[3]).toBe('B1/2 A1/2 G1/2 B1/2 A2')
    expect(easedLine(reel, 4).split(' | ')[3]).toBe('B1/2 A1/2 G1/2 B1/2 A1 G1/2 A1/2')
  })
  it('a long note with a dot becomes two even ones, and the short note comes on its beat', () => {
    expect(easedLine(tuneOf('M:3/4\nL:1/8\nQ:1/4=100\nK:G', 'G3 A B2 | d3 B G2 |'), 2)).toBe(
      'G1 A1 B1 | D1 B1 G1',
    )
  })
  it('dots stay from the level that has them: they are the dance', () => {
    const air = tuneOf('M:3/4\nL:1/8\nQ:1/4=60\nK:D', 'D3 E F>A | B3 A F2 |')
    expect(easedLine(air, 3)).toBe('D3/2 E1/2 F#3/4 A1/4 | B3/2 A1/2 F#1')
  })
  it('a pushed note comes on its beat, and what was tied on is held', () => {
    const pushed = tuneOf('M:4/4\nL:1/8\nQ:1/4=90\nK:D', 'D2 F A- A2 B2 | A2 F D- D4 |')
    expect(easedLine(pushed, 1)).toBe('D1 F#1 A1 B1 | A1 F#1 D2')
  })
  it('two and two and three stay what they are in the first months, each beat one note', () => {
    const seven = tuneOf('M:7/8\nL:1/8\nQ:1/8=240\nK:Am', 'A2 c2 e2d | c2 B2 A3 | B2 d2 g2e | A2 E2 A3 |')
    const e = made(seven, 1, 'viola')
    expect(e.blocked).toEqual([])
    expect(line(e.derived.tune).split(' | ')[0]).toBe('A1 C1 E3/2')
    expect(e.recipe.played.tempo!.perMinute).toBeLessThan(160)
  })
  it('syllables on one string are kept and only slowed', () => {
    const song = tuneOf('M:4/4\nL:1/8\nQ:1/4=96\nK:D', 'DDDE F2F2 | FFFG A4 |')
    expect(easedLine(song, 2)).toBe('D1/2 D1/2 D1/2 E1/2 F#1 F#1 | F#1/2 F#1/2 F#1/2 G1/2 A2')
  })
})

describe('pitch', () => {
  it('a peak out of reach is held, not hammered', () => {
    const air = tuneOf('M:3/4\nL:1/8\nQ:1/4=60\nK:D', 'f2 e2 d2 | a3 b af | f2 e2 d2 | D6 |')
    expect(easedLine(air, 1).split(' | ')[1]).toBe('A2 F#1')
  })
  it('no single note goes an octave away: another of the chord or a step takes its place', () => {
    const low = tuneOf('M:4/4\nL:1/8\nQ:1/4=80\nK:D', 'D2 F2 A2 F2 | G2 E2 C2 E2 | D2 F2 A2 d2 | D8 |')
    const e = made(low, 1)
    const heights = e.derived.tune.measures.flatMap(m =>
      m.events.flatMap(n => (n.kind === 'note' ? [midi(n.heads[0]!.pitch)] : [])),
    )
    heights.slice(1).forEach((m, i) => expect(Math.abs(m - heights[i]!)).toBeLessThanOrEqual(12))
    expect(e.blocked).toEqual([])
  })
  it('a leading note out of reach gives way to a note of the dominant, never to the natural seventh', () => {
    const minor = tuneOf('M:4/4\nL:1/8\nQ:1/4=80\nK:Em', 'E2 G2 B2 G2 | A2 G2 F2 E2 | G2 B2 A2 ^D2 | E8 |')
    const third = easedLine(minor, 1).split(' | ')[2]!
    expect(third).not.toContain('D')
    expect(third).toMatch(/(F#|B)\d+$/)
  })
  it('the last tonic is not sounded early', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=100\nK:D', 'F2 A2 d2 A2 | G2 E2 FE C2 | D8 |')
    expect(easedLine(tune, 1).split(' | ')[1]).not.toMatch(/D1$/)
  })
})

describe('tempo, slurs and bow', () => {
  const waltz = tuneOf('M:3/4\nL:1/8\nQ:1/4=120\nK:G', 'G2 A2 B2 | d2 B2 G2 | c2 B2 A2 | G6 |')
  it('the tempo is that of the level, never faster than the tune', () => {
    const at = (level: Level) => made(waltz, level).derived.tempo.perMinute
    expect([at(2), at(3), at(5)]).toEqual([92, 108, 120])
    const slow = tuneOf('M:3/4\nL:1/8\nQ:1/4=56\nK:G', 'G2 A2 B2 | d2 B2 G2 | c2 B2 A2 | G6 |')
    expect(made(slow, 2).derived.tempo.perMinute).toBe(56)
  })
  it('from the second level neighbours on one string are slurred in twos, none across strings, none in the first months', () => {
    const { derived, changes } = made(waltz, 2)
    const string = new Map(derived.fingering.notes.map(n => [n.id as string, n.string]))
    expect(derived.tune.slurs.length).toBeGreaterThanOrEqual(2)
    for (const s of derived.tune.slurs) expect(string.get(s.from)).toBe(string.get(s.to))
    expect(changes.filter(c => c.kind === 'slur').length).toBe(derived.tune.slurs.length)
    expect(
      made(tuneOf('M:3/4\nL:1/8\nQ:1/4=80\nK:D', 'D2 E2 F2 | A2 F2 D2 | D6 |'), 1).derived.tune.slurs,
    ).toEqual([])
  })
  it('a slur the teacher refuses is not made again; a version taken back leaves none', () => {
    const all = made(waltz, 2)
    const slur = all.changes.find(c => c.kind === 'slur')!
    const without = made(waltz, 2, 'violin', { refused: new Set([slur.id]) })
    expect(without.derived.tune.slurs.length).toBe(all.derived.tune.slurs.length - 1)
    const { slurred } = all.recipe.played.eased!
    expect(without.recipe.played.eased!.slurred!.toSorted()).toEqual(slurred!.toSorted())
    const plain = addedSlurs(all.recipe, slurred!, false)
    expect(derive(waltz, addedSlurs(plain, slurred!, true), ASSUMED_HANDS).tune.slurs).toEqual(
      all.derived.tune.slurs,
    )
    expect(derive(waltz, plain, ASSUMED_HANDS).tune.slurs).toEqual([])
    expect(plain.played.changes).toEqual(all.recipe.played.changes)
    expect(derive(waltz, withoutVersion(all.recipe), ASSUMED_HANDS).tune.slurs).toEqual([])
  })
  it('what may be added to the bow stays as far as the level has it, and comes back with the tune', () => {
    const may = { slur: true, lift: true, hook: true, part: false }
    const bowed = withBow(base('violin'), { may })
    const at = (level: Level) => easier(waltz, bowed, { level, context: ASSUMED_HANDS })
    expect(at(1).recipe.played.bow.may).toEqual({ ...may, slur: false, hook: false })
    expect(at(2).recipe.played.bow.may).toEqual({ ...may, hook: false })
    expect(at(1).blocked).toEqual([])
    expect(withoutVersion(at(1).recipe).played.bow.may).toEqual(may)
  })
  it('the words of notes that go are sung on those that stay: of an upbeat, of eighths that become one note', () => {
    const song = tuneOf(
      'M:4/4\nL:1/8\nQ:1/4=80\nK:D',
      'A2 | D2 EF G2 A2 | A2 F2 D4 | E2 FG A2 F2 | D6 |\nw: O come a-way to sea with me to-day and fly a-gain my',
    )
    const { derived, recipe } = made(song, 1)
    const words = derived.tune.measures.flatMap(m =>
      m.events.flatMap(e => (e.kind === 'note' ? (e.syllables?.[0] ?? []) : [])),
    )
    const text = words.map(w => w.text + (w.hyphen ? '' : ' ')).join('')
    expect(text.replaceAll('  ', ' ').trim()).toBe('O come away to sea with me today and fly again my')
    expect(derive(song, withoutVersion(recipe), ASSUMED_HANDS).tune).toEqual(
      derive(song, newArrangement('violin', '4/4'), ASSUMED_HANDS).tune,
    )
  })
  it('a word of an upbeat that goes waits for the first note, where the measure begins with a rest', () => {
    const song = tuneOf(
      'M:4/4\nL:1/8\nQ:1/4=80\nK:D',
      'A2 | z2 D2 E2 F2 | A2 F2 D4 | E2 F2 A2 F2 | D6 |\nw: O come with me to sea and stay a-while by me',
    )
    const { tune } = made(song, 1).derived
    const first = tune.measures.flatMap(m =>
      m.events.flatMap(e => (e.kind === 'note' ? (e.syllables?.[0] ?? []) : [])),
    )[0]!
    expect(first.text).toBe('O come')
  })
  it('chords stand where they stood, whatever notes carry them', () => {
    const tune = tuneOf(
      'M:4/4\nL:1/8\nQ:1/4=120\nK:D',
      '"D"FAdA "G"GBdB | "A7"ceAc "D"dAFA | "D"FAdA "G"GBdB | "A7"ce "D"d6 |',
    )
    const chords = (t: typeof tune) =>
      placeEvents(t).flatMap(p =>
        p.event.chord === undefined ? [] : [`${p.event.chord} ${p.start.n / p.start.d}`],
      )
    expect(chords(made(tune, 1).derived.tune)).toEqual(chords(tune))
  })
  it('a clef the level does not read gives way to the instrument’s own', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=80\nK:G clef=tenor', 'G,2 A,2 B,2 D2 | D2 B,2 G,4 |')
    const { derived, blocked, recipe } = made(tune, 2, 'cello')
    expect([derived.tune.clef, blocked]).toEqual(['bass', []])
    expect(derive(tune, withoutVersion(recipe), ASSUMED_HANDS).tune.clef).toBe('tenor')
  })
  it('a hornpipe whose dotted pairs are evened out says how it goes: swing it, once', () => {
    const hornpipe = tuneOf(
      'M:4/4\nL:1/8\nQ:1/4=120\nR:hornpipe\nK:D',
      'D>E F>G A>F D2 | E>F G>A B>G E2 | A>G F>E D>E F>G | A2 F2 D4 |',
    )
    const { derived } = made(hornpipe, 2)
    const remarks = derived.tune.measures.flatMap(m => m.events.flatMap(e => e.remarks ?? []))
    expect(remarks).toEqual(['swing it'])
    const dotted = made(hornpipe, 4).derived.tune
    expect(dotted.measures.flatMap(m => m.events.flatMap(e => e.remarks ?? []))).toEqual([])
  })
  it('each change says why it was made, and what the new notes are', () => {
    const reel = tuneOf(
      'M:4/4\nL:1/16\nQ:1/4=80\nK:D',
      'D2E2F2G2 A4F4 | A2c2 B2A2 G4E4 | DEFG A4 F4D4 | E4F4D8 |',
    )
    const { recipe } = made(reel, 1)
    const of = (kind: string) => recipe.played.changes.filter(c => c.kind === kind).map(c => c.because)
    expect(of('thin')).toContainEqual({ asked: 'rhythm', keeps: 'beats' })
    for (const c of recipe.played.changes) expect(c.because?.asked).toBeDefined()
  })
  it('the bow is set anew where first beats would come up', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=80\nK:D', 'D2 E2 F2 z2 | A2 F2 E2 z2 | G2 F2 E2 z2 | D8 |')
    const strokes = made(tune, 1).derived.bowing.written.filter(s => s.strength === 3)
    expect(strokes.every(s => s.direction === 'down')).toBe(true)
  })
})

describe('key', () => {
  it('is one in which the peak and the low dominant are both in the hand', () => {
    const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=90\nK:G', 'D2 G2 B2 d2 | e2 d2 g4 | e2 d2 B2 A2 | G2 D2 G4 |')
    const best = easierInBestKey(tune, base('violin'), { level: 1, context: ASSUMED_HANDS })
    expect(best.kept.strongBeats).toBe(1)
    expect(best.kept.contour).toBe(1)
  })
  it('of a lullaby for the cello lies on the upper strings and rings', () => {
    const tune = tuneOf(
      'M:3/4\nL:1/8\nQ:1/4=80\nK:F',
      'A4 G2 | F4 C2 | F2 G2 A2 | G6 | A4 c2 | B2 A2 G2 | A2 F2 G2 | F6 | c4 c2 | d4 A2 | B2 B2 A2 | G6 | A4 c2 | B2 A2 G2 | A2 G2 E2 | F6 |',
    )
    const { key } = easierInBestKey(tune, base('cello'), { level: 2, context: ASSUMED_HANDS })
    expect(['C major', 'D major', 'G major']).toContain(keyName(key))
  })
})

describe('another one', () => {
  const reel = tuneOf('M:4/4\nL:1/8\nQ:1/4=176\nK:D', 'F2 AF DFAF | G2 BG EGBG | cABc d2 AG | G2 FE D4 |')
  it('is the next best version that differs, within the level too', () => {
    const [first, second, third] = [0, 1, 2].map(another => made(reel, 1, 'violin', { another }))
    const texts = [first, second, third].map(e => line(e!.derived.tune))
    expect(new Set(texts).size).toBe(3)
    for (const e of [first, second, third]) expect(e!.blocked).toEqual([])
    expect(made(reel, 1, 'violin', { another: 1 }).changes).toEqual(second!.changes)
  })
  it('for one measure: three other ways that differ there, in the measures alike too, and nowhere else', () => {
    const own = tuneOf('M:4/4\nL:1/8\nQ:1/4=120\nK:D', 'F2 AF DFAF | G2 BG E4 | F2 AF DFAF | G2 FE D4 |')
    const versions = new EasierVersions(own, base('violin'), { context: ASSUMED_HANDS })
    const now = line(versions.at(1).derived.tune).split(' | ')
    const ways = versions.otherwise(1, own.measures[0]!.events[0]!.id, 3)
    expect(ways.length).toBe(3)
    for (const w of ways) {
      const there = line(derive(own, w.recipe, ASSUMED_HANDS).tune).split(' | ')
      expect(there[0]).not.toBe(now[0])
      expect(there[2]).toBe(there[0])
      expect(there[1]).toBe(now[1])
      expect(w.blocked).toBe(0)
      // What was chosen is asked for again when the version is made anew.
      const again = made(own, 1, 'violin', { wanted: w.recipe.played.eased!.wanted! })
      expect(line(again.derived.tune).split(' | ')[0]).toBe(there[0])
    }
  })
})

describe('the counters of what a judge winces at', () => {
  const tune = tuneOf('M:4/4\nL:1/8\nQ:1/4=120\nK:D', 'A2 | D2 F2 A2 F2 | G2 B2 A2 F2 | G2 E2 FE C2 | D6 |')
  const of = (music: string, head = 'M:4/4\nL:1/8\nQ:1/4=80\nK:D') => {
    const version = tuneOf(head, music)
    return wincesOf(tune, version, 2, 'violin', version.tempo!)
  }
  const sound = 'A2 | D2 F2 A2 F2 | G2 B2 A2 F2 | (G2 E2) F2 E2 | D6 |'
  it.each([
    ['nothing', sound, {}],
    [
      'a tonic that comes early',
      'A2 | D2 F2 A2 F2 | G2 B2 A2 F2 | (G2 E2) F2 D2 | D6 |',
      { cadence: 1, stuck: 0.2 },
    ],
    ['a rest nobody wrote', 'z2 | D2 F2 A2 F2 | G2 B2 A2 F2 | (G2 E2) F2 E2 | D6 |', { rest: 1 }],
    [
      'a note stuck where the tune moved',
      'A2 | D2 F2 A2 A2 | G2 B2 A2 F2 | (G2 E2) F2 E2 | D6 |',
      { stuck: 0.2 },
    ],
    ['a peak that is lost', 'A2 | D2 F2 A2 F2 | G2 G2 E2 F2 | (G2 E2) F2 E2 | D6 |', { peak: 1, stuck: 0.2 }],
  ] as const)('count %s', (_, music, expected) => {
    const found = Object.fromEntries(Object.entries(of(music)).filter(([, n]) => n > 0))
    expect(found).toEqual(expected)
  })
  it('count a tempo above the level, and no slur at all', () => {
    expect(of(sound, 'M:4/4\nL:1/8\nQ:1/4=120\nK:D').tempo).toBe(1)
    expect(of('A2 | D2 F2 E2 D2 | G2 A2 B2 A2 | G2 A2 G2 F2 | E2 F2 E2 C2 | D6 |').slurs).toBe(1)
  })
})
