import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { readAbc } from '#core/formats/abc/readAbc'
import type { Pitch } from '#core/music/pitch'
import { emptyTune, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { writeMusicXml } from './writeMusicXml'

const events = (t: Tune) => t.measures.flatMap(m => m.events)

describe('an engraver that reads our scores', () => {
  it('finds the same notes, slurs, ties and endings', async () => {
    const createVerovioModule = (await import('verovio/wasm')).default
    const { VerovioToolkit } = await import('verovio/esm')
    const toolkit = new VerovioToolkit(await createVerovioModule())
    for (const { file } of DEMO_TUNES) {
      const { tune } = readAbc(demoSource(file)).tunes[0]!
      expect(toolkit.loadData(writeMusicXml(tune).text)).toBeTruthy()
      const mei = toolkit.getMEI()
      const count = (tag: string) => mei.match(new RegExp(`<${tag}[ >]`, 'g'))?.length ?? 0
      const notes = events(tune).filter(e => e.kind === 'note')
      expect(count('note'), file).toBe(notes.reduce((n, e) => n + e.heads.length + (e.grace?.length ?? 0), 0))
      expect(count('slur'), file).toBe(tune.slurs.length)
      expect(count('measure'), file).toBe(tune.measures.length)
      expect(count('syl'), file).toBe(
        notes.reduce((n, e) => n + (e.syllables?.filter(Boolean).length ?? 0), 0),
      )
    }
    expect(
      toolkit.loadData(
        writeMusicXml({
          ...emptyTune(),
          ...readAbc('X:1\nM:4/4\nL:1/4\nK:D\n(3DEF G- G|[DA]4|').tunes[0]!.tune,
        }).text,
      ),
    ).toBeTruthy()
    expect(toolkit.getMEI()).toMatch(/<tuplet .*num="3".*<tie /s)
  }, 60_000)
})

const ALTERATIONS: Readonly<Record<number, string>> = { [-2]: 'eses', [-1]: 'es', 0: '', 1: 'is', 2: 'isis' }

/** A pitch as that program spells it: middle C is c'. */
function spelled({ step, alter, octave }: Pitch): string {
  const name = `${step.toLowerCase()}${ALTERATIONS[alter]!}`.replace(/^([ea])es/, '$1s')
  return name + (octave >= 3 ? "'".repeat(octave - 3) : ','.repeat(3 - octave))
}

// Debian's converter to another engraver's language, installed by the test script, reads as a stranger would.
describe.skipIf(!existsSync('/usr/bin/musicxml2ly'))('a converter that reads our scores', () => {
  it('finds the same pitches in the same order, and as many beams', () => {
    const folder = mkdtempSync(join(tmpdir(), 'nokta-score-'))
    const [score, made] = [join(folder, 'a.musicxml'), join(folder, 'a.ly')]
    try {
      for (const { file } of DEMO_TUNES) {
        const { tune } = readAbc(demoSource(file)).tunes[0]!
        const { text } = writeMusicXml(tune)
        writeFileSync(score, text)
        const { stderr, status } = spawnSync('musicxml2ly', ['-a', '-o', made, score], { encoding: 'utf8' })
        expect(status, `${file}: ${stderr}`).toBe(0)
        const voice = /^PartPOneVoiceOne = .*?(?=\n\n)/ms.exec(readFileSync(made, 'utf8'))![0]
        const music = voice.replace(/%.*$|"[^"]*"|\\(key|tempo|clef|time) \S+/gm, ' ')
        const found = [...music.matchAll(/(?<![a-z\\])([a-g](?:isis|eses|is|es|s)?[',]*)(?![a-z])/g)].map(
          m => m[1],
        )
        const written = events(tune).flatMap(e =>
          e.kind === 'note' ? [...(e.grace ?? []), ...e.heads.map(h => h.pitch)].map(spelled) : [],
        )
        expect(found, file).toEqual(written)
        expect(music.match(/\[/g)?.length ?? 0, file).toBe(text.match(/<beam number="1">begin/g)?.length ?? 0)
      }
    } finally {
      rmSync(folder, { recursive: true })
    }
  }, 60_000)
})
