import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { run } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'nokta-bow-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
function abc(music: string, key = 'D') {
  const path = join(folder, 'try.abc')
  writeFileSync(path, `X:1\nT:Try\nM:4/4\nL:1/4\nQ:1/4=88\nK:${key}\n${music}\n`)
  return path
}
async function json<T>(...args: string[]): Promise<T> {
  const { out, err, code } = await run(args)
  expect([err, code]).toEqual(['', 0])
  return JSON.parse(out) as T
}

describe('a Nokta document from the shell', () => {
  it('brings its arrangement back: instrument, key and tuning', async () => {
    const out = join(folder, 'cello.nokta.json')
    await json('convert', abc('DEFG|'), out, '--instrument', 'cello', '--key', 'G', '--tuning', 'C2 G2 D3 G3')
    type Fingered = { instrument: string; notes: { pitch: string }[] }
    const own = await json<Fingered>('finger', out)
    expect([own.instrument, own.notes[0]!.pitch]).toEqual(['cello', 'G2'])
    // What an option says counts more; another instrument begins plainly.
    expect((await json<Fingered>('finger', out, '--key', 'C')).notes[0]!.pitch).toMatch(/^C/)
    const viola = await json<Fingered>('finger', out, '--instrument', 'viola')
    expect([viola.instrument, viola.notes[0]!.pitch]).toEqual(['viola', 'D3'])
    const again = join(folder, 'again.musicxml')
    await json('convert', out, again)
    expect(readFileSync(again, 'utf8')).toMatch(/Violoncello|Cello/i)
  })
})

describe('the bow from the shell', () => {
  it('strokes with their place on the bow', async () => {
    const r = await json<{ strokes: { direction: string; from: number; to: number; notes: string[] }[] }>(
      'bow',
      abc('A|d(cBA)|'),
    )
    expect(r.strokes.map(s => s.direction)).toEqual(['up', 'down', 'up'])
    expect(r.strokes[2]!.notes).toHaveLength(3)
    const id = r.strokes[1]!.notes[0]!
    expect((await json<typeof r>('bow', abc('A|d(cBA)|'), '--pin', `${id}=up`)).strokes[1]).toMatchObject({
      direction: 'up',
    })
  })
  it('schools, patterns, what may be added, pins, drift, ceilings and mends', async () => {
    type Bowed = {
      strokes: {
        direction: string
        notes: string[]
        hook?: true
        added?: { way: string }[]
        pass: number
        cm: number
        strings: string[]
      }[]
      drift: { measure: number; cm: number }[]
      crossings: object[]
      ceilings: object[]
      findings: { code: string; measure: number; note: string; mends?: { label: string; then?: string }[] }[]
    }
    const march = abc('d f/d/|A e/d/|c A|d2|', 'D\nM:2/4\nQ:1/4=100')
    const bow = async (...args: string[]) => await json<Bowed>('bow', march, ...args)
    const plain = await bow()
    expect(plain.findings.map(f => f.code)).toContain('bow.firstBeatUp')
    expect(plain.findings.find(f => f.code === 'bow.firstBeatUp')!.mends?.[0]).toMatchObject({
      label: expect.stringMatching(/^Slur/) as string,
      then: expect.stringMatching(/^then measure/) as string,
    })
    expect(plain.strokes.some(s => s.added)).toBe(false)
    const all = await bow('--may', 'all')
    expect(all.findings.map(f => f.code)).not.toContain('bow.firstBeatUp')
    expect(all.strokes.flatMap(s => s.added ?? []).map(a => a.way)).toContain('slur')
    expect(
      (await bow('--school', 'pattern', '--pattern', '1 3', '--unit', '1/8')).strokes.length,
    ).toBeLessThan(plain.strokes.length)
    const second = plain.strokes[1]!.notes[0]!
    expect((await bow('--pin', `${second}=hook`)).strokes[1]).toMatchObject({ direction: 'down', hook: true })
    expect((await bow('--pin', `${second}=up`, '--pin', `${second}=at:0.5`)).strokes[1]).toMatchObject({
      direction: 'up',
      from: 0.5,
    })
    expect(plain.drift.map(d => d.measure)).toEqual([1, 2, 3, 4])
    expect(plain.strokes[0]).toMatchObject({ pass: 1, cm: expect.any(Number) as number, strings: ['A'] })
    expect((await bow('--size', '1/2')).strokes[0]!.cm).toBeLessThan(plain.strokes[0]!.cm)
  })
  it.each([
    [['--school', 'pattern'], /say the pattern/],
    [['--school', 'pattern', '--pattern', '0 0'], /numbers from 1 to 16/],
    [['--pattern', '2 1'], /only with --school pattern/],
    [['--school', 'pattern', '--pattern', '2', '--unit', 'x'], /note value/],
    [['--may', 'slur,fly'], /not “fly”/],
    [['--dotted', 'often'], /choose written, hooked, slurred/],
    [['--pin', 'n2=at:2'], /0 the frog, 1 the tip/],
  ])('bow %j is refused with its reason', async (args, reason) => {
    const r = await run(['bow', abc('DEFG|'), ...args])
    expect([r.code, r.err]).toEqual([2, expect.stringMatching(reason) as string])
  })
  it('dotted pairs and triplets by habit', async () => {
    type Bowed = { strokes: { direction: string; notes: string[]; hook?: true; why: string }[] }
    const tune = abc('D>E F>G|(3D/E/F/ (3G/F/E/ A2|')
    const bow = async (...args: string[]) => (await json<Bowed>('bow', tune, ...args)).strokes
    expect(await bow()).toHaveLength(11)
    const hooked = await bow('--dotted', 'hooked', '--triplets', 'one')
    expect(hooked.map(s => s.notes.length)).toEqual([1, 1, 1, 1, 3, 3, 1])
    expect(hooked[1]).toMatchObject({
      direction: 'down',
      hook: true,
      why: expect.stringMatching(/Dotted pairs are hooked/) as string,
    })
    expect((await bow('--dotted', 'slurred', '--triplets', 'two')).map(s => s.notes.length)).toEqual([
      2, 2, 6, 1,
    ])
  })
})
