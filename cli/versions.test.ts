import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { run as shell } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'nokta-versions-'))
const file = (name: string, music: string) => {
  const path = join(folder, name)
  writeFileSync(path, music)
  return path
}
interface Answer {
  readonly level: number
  readonly key: string
  readonly changes: readonly { readonly kind: string; readonly sentence: string }[]
  readonly kept: { readonly strongBeats: number }
  readonly blocked: readonly unknown[]
}
async function run<T = Answer>(...args: string[]): Promise<T> {
  const { out, err, code } = await shell(args)
  expect([err, code]).toEqual(['', 0])
  return JSON.parse(out) as T
}
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const song = file(
  'song.abc',
  'X:1\nT:Song of a Pond\nM:4/4\nL:1/8\nQ:1/4=84\nK:D\nDDDE F4|A4B2B2|A4F4|E2E2D4|\n',
)

describe('versions from the shell', () => {
  it('with more in them say what was added, and where', async () => {
    const out = await run('arrange', song, '--level', '4', '--spice', 'without-words')
    expect(out.level).toBeLessThanOrEqual(4)
    expect(out.changes.map(c => c.kind)).toContain('turns')
    expect(out.changes[0]!.sentence).toMatch(/fewer repeated notes|held less long/)
    expect(out.kept.strongBeats).toBe(1)
  })
  it('are written to a file that asks for no more', async () => {
    const to = join(folder, 'out.abc')
    await run('arrange', song, '--level', '5', '--spice', 'drones,ending', '-o', to)
    expect(readFileSync(to, 'utf8')).toMatch(/\[/)
    expect((await run<Answer[]>('levels', to, '--instrument', 'violin'))[0]!.level).toBeLessThanOrEqual(5)
  })
  it('go to the key that keeps most, where their own lies badly', async () => {
    const flat = file('flat.abc', 'X:1\nT:Flat\nM:4/4\nL:1/4\nQ:1/4=60\nK:Eb\nEFGA|BcBA|GFED|E4|\n')
    const own = await run('arrange', flat, '--instrument', 'violin', '--level', '2')
    const best = await run('arrange', flat, '--instrument', 'violin', '--level', '2', '--key', 'best')
    expect(own.blocked.length).toBeGreaterThan(0)
    expect(best.blocked).toEqual([])
    expect(best.key).not.toBe('E flat major')
  })
  it('that would be another tune are told as such', async () => {
    const half = file(
      'half.abc',
      'X:1\nT:By Halves\nM:2/4\nL:1/4\nQ:1/4=80\nK:G\nG^G|A^A|BA|^G=G|GA|_BB|A^G|G2|\n',
    )
    const low = await run('arrange', half, '--instrument', 'cello', '--level', '2', '--key', 'best')
    expect(low.kept.strongBeats).toBeLessThan(0.8)
    expect(low.blocked).toEqual([
      expect.objectContaining({
        sentence: expect.stringMatching(/^At level 2 it is hardly this tune/),
        notes: expect.arrayContaining([expect.objectContaining({ measure: 4 })]),
      }),
    ])
    expect((await run('arrange', half, '--instrument', 'cello', '--level', '5')).blocked).toEqual([])
  })
  it('leave out a part by its letter, and only one that is there', async () => {
    const two = file(
      'two.abc',
      'X:1\nT:Two\nM:2/4\nL:1/8\nQ:1/4=80\nK:G\n|:GABG|d2B2|cBAB|G4:|\n|:[M:6/8]G2AB2d|d2BG2A|B2AA2B|G3G3:|\n',
    )
    const to = join(folder, 'one.abc')
    expect((await run('arrange', two, '--level', '2')).blocked.length).toBeGreaterThan(0)
    expect((await run('arrange', two, '--level', '2', '--leave', 'B', '-o', to)).blocked).toEqual([])
    expect(readFileSync(to, 'utf8')).not.toContain('6/8')
    const refused = async (...leave: string[]) =>
      await shell(['arrange', two, '--level', '2', ...leave.flatMap(l => ['--leave', l])])
    expect(await refused('Q')).toMatchObject({
      code: 2,
      err: expect.stringMatching(/--leave Q: there are the parts A, B/),
    })
    expect((await refused('A', 'B')).err).toMatch(/nothing would be left/)
    expect((await shell(['arrange', song, '--level', '2', '--leave', 'A'])).err).toMatch(/one part only/)
  })
  it('of a spice nobody knows are refused with the ones there are', async () => {
    const { err, code } = await shell(['arrange', song, '--level', '4', '--spice', 'pepper'])
    expect(code).toBe(2)
    expect(err).toMatch(/--spice pepper: not known; there are .*drones/)
  })
})
