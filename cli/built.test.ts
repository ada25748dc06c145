/** The program as a shell runs it: built, in a process of its own. */
import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { buildCli } from '../scripts/setup.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'nokta-built-cli-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
beforeAll(() => buildCli())

const TUNE = 'X:1\nT:Try\nM:4/4\nL:1/4\nQ:1/4=88\nK:D\nDEFG|ABcd|\n'
const nokta = (args: readonly string[], input: string | Buffer = '') => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'dist/cli/nokta.js'), ...args], {
    cwd: folder,
    input,
  })
  return { code: status, out: stdout, err: stderr.toString() }
}
const ofText = (text: string) => (JSON.parse(text) as { title: string }).title

describe('the program', () => {
  it('reads a path from where it is called, the standard input, and a folder with all its folders', () => {
    mkdirSync(join(folder, 'tunes/more'), { recursive: true })
    for (const [name, title] of [
      ['b.abc', 'Second'],
      ['a.abc', 'First'],
      ['more/c.abc', 'Third'],
    ] as const)
      writeFileSync(join(folder, 'tunes', name), TUNE.replace('Try', title))
    writeFileSync(join(folder, 'tunes/notes.doc'), 'no tune')
    expect(ofText(nokta(['show', 'tunes/a.abc']).out.toString())).toBe('First')
    expect(ofText(nokta(['show', '-'], TUNE).out.toString())).toBe('Try')
    writeFileSync(join(folder, 'tunes/d.abc'), 'no music at all')
    const { code, out, err } = nokta(['show', 'tunes'])
    expect(code).toBe(2)
    expect(out.toString().trimEnd().split('\n').map(ofText)).toEqual(['First', 'Second', 'Third'])
    expect(err.trimEnd().split('\n')).toEqual([
      expect.stringMatching(/^nokta: tunes\/d\.abc/),
      'nokta: 3 of 4 files done',
    ])
  })
  it('writes to the standard output what it would write to a file', () => {
    const abc = nokta(['convert', '-', '-', '--as', 'abc'], TUNE).out.toString()
    expect(abc).toMatch(/^X:1\nT:Try/)
    const midi = nokta(['arrange', '-', '--level', '2', '-o', '-', '--as', 'mid'], TUNE).out
    expect(midi.subarray(0, 4).toString()).toBe('MThd')
    expect(ofText(nokta(['show', '-'], midi).out.toString())).toBe('Try')
    expect(nokta(['convert', '-', '-'], TUNE).err).toMatch(/say the kind of file too, as --as abc/)
  })
  it('makes a PDF, the same bytes each time', () => {
    const args = ['sheet', '-', '--style', 'First year', '-o', '-', '--as', 'pdf']
    const first = nokta(args, TUNE)
    expect(first.err).toBe('')
    expect(first.out.subarray(0, 5).toString()).toBe('%PDF-')
    expect(first.out.length).toBeGreaterThan(8000)
    expect(nokta(args, TUNE).out.equals(first.out)).toBe(true)
  })
  it('gives up on text nobody could read in time, in a sentence, and goes on', () => {
    writeFileSync(join(folder, 'braces.abc'), `X:1\nT:Braces\nM:4/4\nL:1/8\nK:G\n${'{'.repeat(60_000)}\n`)
    writeFileSync(join(folder, 'sound.abc'), TUNE)
    const { code, out, err } = nokta(['show', 'braces.abc', 'sound.abc'])
    expect(code).toBe(2)
    expect(err).toBe(
      'nokta: braces.abc: this could not be read in the time that is enough for any tune. ' +
        'Is it damaged, or no music at all?\n',
    )
    expect(ofText(out.toString())).toBe('Try')
  })
  it('runs from a package', () => {
    const packed = spawnSync('npm', ['pack', '--json', '--ignore-scripts', '--pack-destination', folder], {
      cwd: root,
    })
    const [{ filename, files }] = JSON.parse(packed.stdout.toString()) as [
      { filename: string; files: { path: string }[] },
    ]
    expect(files.map(f => f.path).filter(p => !p.startsWith('dist/cli/'))).toEqual([
      'README.md',
      'package.json',
    ])
    spawnSync('tar', ['-xzf', filename], { cwd: folder })
    symlinkSync(join(root, 'node_modules'), join(folder, 'package/node_modules'))
    const { bin } = JSON.parse(readFileSync(join(folder, 'package/package.json'), 'utf8')) as {
      bin: { nokta: string }
    }
    const { stdout } = spawnSync(process.execPath, [join(folder, 'package', bin.nokta), 'show', '-'], {
      input: TUNE,
    })
    expect(ofText(stdout.toString())).toBe('Try')
  })
  it('completes verbs, options and the values of an option', () => {
    const asked = (...words: string[]) => {
      const script = [
        nokta(['completion', 'bash']).out.toString(),
        `COMP_WORDS=(nokta ${words.map(w => `'${w}'`).join(' ')}); COMP_CWORD=${words.length}; _nokta`,
        'echo "${COMPREPLY[@]}"',
      ].join('\n')
      return spawnSync('bash', ['-c', script]).stdout.toString().trim().split(' ')
    }
    expect(asked('con')).toEqual(['convert'])
    expect(asked('finger', '--ins')).toEqual(['--instrument'])
    expect(asked('finger', '--instrument', 'v')).toEqual(['violin', 'viola'])
    expect(asked('finger', 'tu')).toEqual([''])
  })
})
