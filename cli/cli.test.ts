import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { run } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'nokta-cli-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

function file(name: string, text: string) {
  const path = join(folder, name)
  writeFileSync(path, text)
  return path
}
const abc = (music: string, key = 'D', name = 'try.abc') =>
  file(name, `X:1\nT:Try\nM:4/4\nL:1/4\nQ:1/4=88\nK:${key}\n${music}\n`)

interface Fingered {
  notes: {
    id: string
    string: string
    finger: number | 'T'
    mark: string
    position: string
    pitch: string
    sounding: string
    why: string
    cost: Record<string, number>
  }[]
  findings: { code: string; sentence: string }[]
  shifts: { mm: number; ceiling: string }[]
  octave: number
}
async function json<T>(...args: string[]): Promise<T> {
  const result = await run(args)
  expect(result.err).toBe('')
  expect(result.code).toBe(0)
  return JSON.parse(result.out) as T
}
/** "D 0 1 2 3": the string where it changes, then the fingers. */
function spoken({ notes }: Fingered) {
  let string = ''
  return notes
    .flatMap(n => {
      const digit = n.mark === 'low' ? `<${n.finger}` : n.mark === 'high' ? `${n.finger}>` : String(n.finger)
      const change = n.string !== string
      string = n.string
      return change ? [n.string, digit] : [digit]
    })
    .join(' ')
}

describe('help', () => {
  const out = async (...args: string[]) => {
    const r = await run(args)
    expect([r.code, r.err]).toEqual([0, ''])
    return r.out
  }
  it('lists every verb, and tells the options of each', async () => {
    const all = await out('--help')
    expect(await out('-h')).toBe(all)
    for (const verb of ['show', 'form', 'finger', 'bow', 'tab', 'convert', 'tapes', 'retune']) {
      expect(all).toContain(`nokta ${verb}`)
      expect(await out(verb, '--help')).toBe(await out(verb, '-h'))
    }
    expect(await out('finger', '--help')).toMatch(/--alternatives 0\.\.20/)
    expect(await out('tapes', '--help')).toMatch(/--unit mm\|in/)
  })
  it('tells the version', async () => expect(await out('--version')).toMatch(/^\d+\.\d+\.\d+\n$/))
})

describe('several files', () => {
  const [one, two] = [abc('DEFG|', 'D', 'one.abc'), abc('GABc|', 'G', 'two.abc')]
  it('give one document each, a line each', async () => {
    const { code, out, err } = await run(['show', one, two])
    expect([code, err]).toEqual([0, ''])
    const docs = out
      .trimEnd()
      .split('\n')
      .map(l => JSON.parse(l) as { key: string })
    expect(docs.map(d => d.key)).toEqual(['D major', 'G major'])
  })
  it('one that can’t be read is told on a line of its own; the others are printed all the same', async () => {
    const { code, out, err } = await run(['show', one, join(folder, 'none.abc'), two])
    expect(code).toBe(2)
    expect(out.trimEnd().split('\n')).toHaveLength(2)
    expect(err).toMatch(/^nokta: .*none\.abc: the file can't be read: there is no such file\n$/)
  })
})

describe('finger: the reference fingerings through the contract', () => {
  it.each([
    ['violin', 'D', 'DEFG|ABcd|', [], 'D 0 1 2 3 A 0 1 2 3'],
    ['violin', 'G', 'G,A,B,C|DEFG|ABcd|efg2|', [], 'G 0 1 2 3 D 0 1 2 3 A 0 1 <2 3 E 0 1 <2'],
    ['violin', 'Bb', 'B,CDE|FGAB|', [], 'G <2 3 D 0 <1 <2 3 A 0 <1'],
    ['violin', 'F', 'FGAB|cdef|', [], 'D <2 3 A 0 <1 <2 3 E 0 <1'],
    ['viola', 'C clef=alto', 'C,D,E,F,|G,A,B,C|', [], 'C 0 1 2 3 G 0 1 2 3'],
    [
      'cello',
      'C clef=bass',
      'C,,D,,E,,F,,|G,,A,,B,,C,|D,E,F,G,|A,B,C2|',
      [],
      'C 0 1 3 4 G 0 1 3 4 D 0 1 2 4 A 0 1 2',
    ],
    ['cello', 'D clef=bass', 'D,E,F,G,|A,B,CD|', [], 'D 0 1 3 4 A 0 1 3 4'],
    ['bass', 'G clef=bass', 'G,,A,,B,,C,|D,E,F,G,|', [], 'E 2 A 0 1 2 D 0 1 4 G 0'],
    [
      'bass',
      'D clef=bass',
      'D,E,F,G,|F,E,D,2|',
      ['--open', 'fourth', '--tempo', '1/4=160'],
      'D 0 1 2 4 2 1 0',
    ],
    ['cello', 'C clef=bass', '(G,,^G,,A,,^A,,B,,C,^C,D,)|', [], 'G 0 1 2 3 1 2 3 4'],
  ] as const)('%s in %s', async (instrument, key, music, more, expected) => {
    expect(spoken(await json<Fingered>('finger', abc(music, key), '--instrument', instrument, ...more))).toBe(
      expected,
    )
  })

  it('tells the reason and the cost of every note, shifts with their tempo, and written beside sounding pitch', async () => {
    const r = await json<Fingered>(
      'finger',
      abc('D,E,F,G,|', 'D clef=bass'),
      '--instrument',
      'bass',
      '--open',
      'fourth',
    )
    expect(r.notes[0]).toMatchObject({ pitch: 'D3', sounding: 'D2', position: 'first' })
    expect(r.notes.every(n => n.why.length > 10 && Number.isFinite(n.cost.total))).toBe(true)
    expect(r.shifts[0]!.ceiling).toMatch(/^1\/4=\d+$/)
  })
  it('moves a fiddle tune to where a cello plays it', async () => {
    expect((await json<Fingered>('finger', abc('DEFG|ABcd|'), '--instrument', 'cello')).octave).toBeLessThan(
      0,
    )
    expect(
      (await json<Fingered>('finger', abc('DEFG|ABcd|'), '--instrument', 'cello', '--octave', '-1')).notes[0]!
        .pitch,
    ).toBe('D3')
  })
  it('keeps a pin and lists alternatives', async () => {
    const path = abc('GAGF|')
    const id = (await json<Fingered>('finger', path)).notes[1]!.id
    expect(spoken(await json<Fingered>('finger', path, '--pin', `${id}=A:0`))).toBe('D 3 A 0 D 3 2')
    const r = await json<{ alternatives: { name: string }[]; notes: { alternatives: unknown[] }[] }>(
      'finger',
      path,
      '--alternatives',
      '3',
    )
    expect(r.alternatives.length).toBeGreaterThan(0)
    expect(r.notes[1]!.alternatives.length).toBeGreaterThan(0)
  })
  it('speaks of a note off the instrument and never gives it a finger', async () => {
    const r = await json<Fingered>('finger', abc('E,DEF|'), '--octave', '0')
    expect(r.findings.map(f => f.code)).toEqual(['finger.tooLow'])
    expect(r.notes).toHaveLength(3)
  })
})

describe('the other verbs', () => {
  it('show: exact times and what is tied', async () => {
    const r = await json<{ key: string; notes: object[]; problems: object[] }>('show', abc('D2 (3EFG E-|E4|'))
    expect(r).toMatchObject({
      title: 'Try',
      key: 'D major',
      meter: '4/4',
      measures: 2,
      problems: [{ code: 'tune.barLong' }],
    })
    expect(r.notes[1]).toMatchObject({ pitch: 'E4', midi: 64, start: '2', duration: '2/3', measure: 1 })
    expect(r.notes.at(-1)).toMatchObject({ tiedFrom: expect.any(String) as string })
  })
  it('form: parts, phrases, kin, order', async () => {
    const r = await json<{
      parts: { phrases: { label: string; kin: object[] }[] }[]
      learningOrder: string[]
    }>('form', abc('DEFG|AFDF|GBAG|F2D2|DEFG|AFDF|GBAG|F2D2|'))
    expect(r.parts[0]!.phrases.map(p => p.label)).toEqual(['A1', 'A2'])
    expect(r.parts[0]!.phrases[1]!.kin).toEqual([
      { phrase: 'A1', relation: 'same', differences: [], told: 'The same as A1.' },
    ])
    expect(r.learningOrder).toEqual(['A1'])
  })
  it('levels: each instrument, with the notes that ask; every key, best first', async () => {
    type Row = {
      instrument: string
      key: string
      level: number
      why: { measure: number; skill: string; sentence: string }[]
      best?: true
    }
    const [row] = await json<Row[]>('levels', abc('D2E2=F2G2|A8|'))
    expect(row).toMatchObject({ instrument: 'violin', key: 'D major' })
    expect(row!.why.map(w => w.skill)).toContain('accidental')
    const rows = await json<Row[]>('levels', abc('D2E2F2G2|'), '--keys', 'all', '--instrument', 'all')
    expect(new Set(rows.map(r => r.instrument)).size).toBe(4)
    expect(rows.map(r => r.level)).toEqual(rows.map(r => r.level).toSorted())
    const own = join(folder, 'own.json')
    writeFileSync(own, JSON.stringify({ low2: 7 }))
    expect((await json<Row[]>('levels', abc('D2E2=F2G2|'), '--level-file', own))[0]!.level).toBe(7)
    writeFileSync(own, JSON.stringify({ nobody: 7 }))
    expect((await run(['levels', abc('D2|'), '--level-file', own])).err).toMatch(/no skill “nobody”/)
  })
  it('levels: of several instruments ranks the keys a class shares', async () => {
    type Row = { instrument: string; key: string; joint?: number }
    const rows = await json<Row[]>(
      'levels',
      abc('D2E2F2G2|A2F2D4|'),
      '--keys',
      'all',
      '--instrument',
      'violin,cello',
    )
    const first = rows.filter(r => r.joint === 1)
    expect(first.map(r => r.instrument).sort()).toEqual(['cello', 'violin'])
    expect(new Set(first.map(r => r.key)).size).toBe(1)
    expect(rows.every(r => ['cello', 'violin'].includes(r.instrument))).toBe(true)
  })
  it('arrange: brings a tune down to a level, which levels finds again in what it wrote; refuses what it is told', async () => {
    type Made = {
      level: number
      key: string
      changes: { id: string; kind: string; measure: number; sentence: string }[]
      kept: Record<string, number>
      blocked: object[]
    }
    const out = join(folder, 'easier.abc')
    const made = await json<Made>('arrange', abc('DEFG A>Bc2|d4 c4|'), '--level', '1', '-o', out)
    expect(made).toMatchObject({ level: 1, blocked: [], kept: { strongBeats: 1 } })
    expect(made.changes.map(c => c.sentence)).toContain('A4 B4 thinned to A4')
    expect((await json<{ level: number }[]>('levels', out))[0]!.level).toBe(1)
    const again = await json<Made>(
      'arrange',
      abc('DEFG A>Bc2|d4 c4|'),
      '--level',
      '1',
      '--refuse',
      made.changes[0]!.id,
    )
    expect(again.changes.map(c => c.id)).not.toContain(made.changes[0]!.id)
    const other = await json<Made>('arrange', abc('DEFG A>Bc2|d4 c4|'), '--level', '1', '--another', '1')
    expect(other.changes).not.toEqual(made.changes)
    expect(other.blocked).toEqual([])
    expect((await run(['arrange', abc('D2|'), '--level', '1', '--another', 'x'])).err).toMatch(
      /--another x: a whole number/,
    )
    expect((await run(['arrange', abc('D2|'), '--level', '1', '--bow', 'x'])).err).toMatch(
      /--bow x: proposed or alternate/,
    )
    expect((await run(['arrange', abc('D2|')])).err).toMatch(/say the level/)
    expect((await run(['arrange', abc('D2|'), '--level', '2', '-o', 'x.pdf'])).err).toMatch(
      /a file that ends with/,
    )
    expect((await run(['arrange', abc('z8|'), '--level', '2'])).err).toMatch(/no notes/)
    expect((await json<Made>('arrange', abc('D2E2F2G2|', 'Ab'), '--level', '1', '--key', 'best')).level).toBe(
      1,
    )
  })
  it('arrange: a tune whose tonic a first-year hand has not names the key where it lies better; one that lies well names none', async () => {
    type Made = {
      kept: { strongBeats: number }
      better?: { key: string; sentence: string; kept: { strongBeats: number } }
    }
    const waltz = abc('B,2D2|F2D2|C2E2|D4|E2G2|F2D2|C2A,2|B,4|', 'Bb')
    const { kept, better } = await json<Made>('arrange', waltz, '--instrument', 'viola', '--level', '1')
    expect(kept.strongBeats).toBeLessThan(0.8)
    expect(better?.kept.strongBeats).toBeGreaterThan(kept.strongBeats + 0.1)
    expect(better?.sentence).toBe(`At level 1 it lies better in ${better?.key}: --key best`)
    expect((await json<Made>('arrange', abc('D2E2F2G2|A8|'), '--level', '1')).better).toBeUndefined()
  })
  it('finger: in the school of places that is asked for, and says which', async () => {
    type Fingered = {
      places: { school: string; sentence: string }[]
      notes: { string: string; finger: number }[]
    }
    const tune = abc('(d2ef) g2z2|(agfe) d4|')
    const at = async (places: string) =>
      await json<Fingered>('finger', tune, '--places', places, '--tempo', '1/4=60')
    expect((await at('home')).places.map(p => p.school)).toEqual(['home'])
    expect((await at('position')).places.map(p => p.school)).toEqual(['position'])
    expect((await at('position')).places[0]!.sentence).toMatch(/^kept in one position/)
    expect((await run(['finger', tune, '--places', 'x'])).code).toBe(2)
  })
  it('why: a note as the search saw it, and a plain word where there is no such note', async () => {
    interface Why {
      chosen: { places: string[] }
      costs: Record<string, number>
      states: { places: string[] }[]
      beaten: { places: string[]; extra: number; difference: Record<string, number> }[]
    }
    const tune = abc('DEFG ABcd|')
    const first = (await json<{ notes: { id: string }[] }>('finger', tune)).notes[4]!.id
    const { chosen, states, beaten, costs } = await json<Why>('why', tune, '--note', first)
    expect(states.map(s => s.places)).toContainEqual(chosen.places)
    expect(states.length).toBeGreaterThan(beaten.length)
    expect(beaten.length).toBeGreaterThan(0)
    for (const b of beaten) {
      expect(b.places).not.toEqual(chosen.places)
      const sum = Object.values(b.difference).reduce((x, y) => x + y, 0)
      expect(sum).toBeCloseTo(b.extra, 1)
    }
    expect(Object.values(costs).every(Number.isFinite)).toBe(true)
    const wrong = await run(['why', tune, '--note', 'x9'])
    expect([wrong.code, wrong.err]).toEqual([2, expect.stringContaining('no note of this tune')])
  })
  it('tab: as text and as a model', async () => {
    expect((await run(['tab', abc('DEFG|'), '--text'])).out).toContain('D |0-1-2-3-|')
    expect(
      (await json<{ lineLabels: string[] }>('tab', abc('DEFG|'), '--instrument', 'viola')).lineLabels,
    ).toEqual(['A', 'D', 'G', 'C'])
  })
  it.each(['musicxml', 'mxl', 'txt', 'nokta.json', 'mid'])(
    'convert: to .%s and back, the notes the same',
    async ending => {
      const [there, back] = [join(folder, `there.${ending}`), join(folder, 'back.abc')]
      await json('convert', abc('DEFG|ABcd|'), there)
      await json('convert', there, back)
      const notes = async (path: string) =>
        (await json<{ notes: { pitch: string; start: string }[] }>('show', path)).notes.map(
          n => n.pitch + n.start,
        )
      expect(await notes(back)).toEqual(await notes(abc('DEFG|ABcd|')))
    },
  )

  it('convert: out to our own document and back to ABC', async () => {
    const [a, b] = [join(folder, 'x.nokta.json'), join(folder, 'y.abc')]
    await json('convert', abc('DEFG|ABcd|'), a)
    await json('convert', a, b)
    expect(readFileSync(b, 'utf8')).toContain('D2 E2 F2 G2 | A2 B2 c2 d2 |')
  })
  it('finger: says how each shift is taught, what to prepare, and what rules a hand has', async () => {
    const r = await json<{ shifts: { landmark: string; string: string }[] }>(
      'finger',
      abc('A,B,CD EFG2', 'G clef=bass'),
      '--instrument',
      'cello',
    )
    expect(r.shifts.map(s => s.string)).toEqual(['A'])
    expect(r.shifts[0]!.landmark).toMatch(/^1 goes .* 154 mm down$/)
    const { cues } = await json<{ cues: { kind: string; string: string }[] }>('finger', abc('BAFG'))
    expect(cues.filter(c => c.kind === 'prepare').map(c => c.string)).toEqual(['D'])
    const small = await json<Fingered>('finger', abc('FGAG'), '--span', '66')
    expect(spoken(small)).toBe('D 2 3 A 0 D 3')
  })

  it('retune: says the order and the cents, and refuses with the figure', async () => {
    expect(await json('retune', '--instrument', 'violin', '--to', 'A3 D4 G#4 E5')).toMatchObject({
      order: ['A', 'G'],
      steps: [
        { string: 'G', cents: 200 },
        { string: 'D', cents: 0 },
        { string: 'A', cents: -100 },
        { string: 'E' },
      ],
    })
  })

  it('tapes and retune: computed places and tension', async () => {
    const r = await json<{ tapes: { fromNut: number }[] }>(
      'tapes',
      '--instrument',
      'violin',
      '--length',
      '328',
    )
    expect(r.tapes.map(t => t.fromNut)).toEqual([35.8, 52.2, 67.7, 82.3, 109.1])
    expect(
      (await json<typeof r>('tapes', '--length', '12.91', '--unit', 'in')).tapes[0]!.fromNut,
    ).toBeCloseTo(1.409, 2)
    expect(await json('retune', '--instrument', 'violin', '--to', 'A3 E4 A4 E5')).toMatchObject({
      steps: [{ string: 'G', tensionPercent: 26 }, {}, {}, {}],
      findings: [{ code: 'tuning.up' }, { code: 'tuning.up' }],
    })
  })
})

describe('bad input', () => {
  it.each([
    ['no verb', [], 'which verb'],
    ['a verb we have not', ['sing', 'x'], '“sing” is no verb'],
    ['no file', ['show'], 'which file'],
    ['a file that is not there', ['show', '/nowhere/at/all.abc'], "can't be read"],
    ['a kind of file not read', ['show', file('a.pdf', 'x')], 'can’t tell what kind of file'],
    ['an empty file', ['show', file('empty.abc', '')], 'nothing here yet'],
    ['a binary file', ['show', file('binary.abc', '\u0000\u0001')], 'line 1, column 1'],
    [
      'a broken document',
      ['show', file('broken.nokta.json', '{"format":"nokta","version":1,"tunes":[{}]}')],
      'tunes.0.id',
    ],
    [
      'an instrument we have not',
      ['finger', abc('D4|'), '--instrument', 'kazoo'],
      'choose violin, viola, cello, bass',
    ],
    ['an option we have not', ['finger', abc('D4|'), '--colour', 'red'], "Unknown option '--colour'"],
    ['a pin on no note', ['finger', abc('D4|'), '--pin', 'n99=D:4'], 'no note “n99”'],
    [
      'a tuning that would break',
      ['finger', abc('D4|'), '--tuning', 'G3 D4 A4 E7'],
      '+1500% tension: it would break the string',
    ],
    ['a length of nothing', ['tapes', '--instrument', 'violin', '--length', '0'], 'from 100 to 1500 mm'],
    ['a span no hand has', ['finger', abc('D4|'), '--span', '900'], '20 to 260'],
    ['strings that cross', ['retune', '--instrument', 'violin', '--to', 'A3 G3 A4 E5'], 'cross at'],
    ['a level beyond', ['finger', abc('D4|'), '--level', '9'], 'from 1 to 8'],
    ['no string length', ['tapes', '--length', '0'], 'a string length'],
  ] as const)('%s is told in one line with exit code 2', async (_name, args, words) => {
    const { code, out, err } = await run(args)
    expect([code, out]).toEqual([2, ''])
    expect(err).toContain(words)
    expect(err.trim().split('\n')).toHaveLength(1)
  })
})
