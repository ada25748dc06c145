/**
 * `npm run fuzz [files per reader]`: every reader gets thousands of damaged files. None may throw, take over
 * a second, or give a tune that is not a valid document. The same seeds every time; a small fixed part runs
 * with the tests.
 */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { cleanText } from '#core/documents/text'
import { formatFraction } from '#core/music/fraction'
import { formatPitch } from '#core/music/pitch'
import { numbers } from '#core/random'
import { unzipSync, zipSync } from 'fflate'
import { newArrangement } from '#core/arrangement/recipe'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { kindOf, readFile } from '#core/formats/readFile'
import { type FileKind } from '#core/formats/fileKinds'
import { writeFile } from '#core/formats/writeFile'
import { type WritableFormat } from '#core/formats/fileKinds'
import { tuneSchema, type Tune } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'
import { RARE } from './rareFiles'

const NAMES: Readonly<Record<Exclude<FileKind, 'abc'> | 'abc', string>> = {
  abc: 'a.abc',
  musicxml: 'a.musicxml',
  mxl: 'a.mxl',
  midi: 'a.mid',
  spoken: 'a.txt',
  backup: 'a.nokta.json',
}
const FORMATS: Readonly<Record<FileKind, WritableFormat>> = {
  abc: 'abc',
  musicxml: 'musicxml',
  mxl: 'mxl',
  midi: 'mid',
  spoken: 'txt',
  backup: 'nokta.json',
}
/** Pieces that mean something in one format or another. */
const PIECES = [
  '(3',
  '|:',
  ':|',
  '[1',
  '{',
  '}',
  '"',
  '!',
  '<note>',
  '</note>',
  '<duration>0</duration>',
  '<octave>99</octave>',
  '<![CDATA[',
  '&#x0;',
  '<!ENTITY a "b">',
  '9999999999',
  '-1',
  'NaN',
  '\u0000',
  '[K:',
  'M:0/0',
  'L:1/0',
  'Q:0',
  ':1/0',
  '@',
  '<<<<',
  '(:::',
  '5:0',
  '{"n":1e99}',
  'null',
  '\ud800',
  'm: ~n3 = n/m/n/\n',
  'U: T = !trill!\n',
  'clef=treble-8',
  'middle=d',
  '%%beginps\n',
  '[r:',
  '[Q:1/4=90]',
  '&',
  '<repeat direction="backward"/>',
  '<tremolo>3</tremolo>',
  '<cue/>',
  '[IV 0 1',
]

function damage(bytes: Uint8Array, random: () => number): Uint8Array {
  let out = bytes
  const times = 1 + Math.floor(random() * 6)
  for (let i = 0; i < times; i++) {
    const at = Math.floor(random() * out.length)
    const length = Math.floor(random() * random() * 200)
    const how = Math.floor(random() * 6)
    if (how === 0) out = out.with(Math.min(at, out.length - 1), Math.floor(random() * 256))
    else if (how === 1) out = joined(out.subarray(0, at), out.subarray(at + length))
    else if (how === 2)
      out = joined(
        out.subarray(0, at),
        new TextEncoder().encode(PIECES[Math.floor(random() * PIECES.length)]!),
        out.subarray(at),
      )
    else if (how === 3) out = joined(out.subarray(0, at), out.subarray(Math.max(0, at - length)))
    else if (how === 4) out = out.subarray(0, at)
    else out = joined(out, out.subarray(at, at + length))
    if (out.length === 0) return out
  }
  return out
}

const VALUES = ['0', '-1', '1e9', '3.7', '', 'x', '999999999999', 'C', '1,2,99', '🎻', 'NaN', '4096']

/**
 * Damage that leaves the file well-formed, so that the reader behind the parser meets it: other values,
 * elements gone or doubled.
 */
function damageInside(kind: FileKind, bytes: Uint8Array, random: () => number): Uint8Array {
  if (kind === 'mxl') {
    const files = unzipSync(bytes)
    return zipSync({ ...files, 'score.musicxml': damageInside('musicxml', files['score.musicxml']!, random) })
  }
  let text = new TextDecoder().decode(bytes)
  const value =
    kind === 'backup'
      ? /(?<=[:[,])(?:"[^"]*"|-?\d+)/g
      : /(?<=>)[^<>]+(?=<\/)|(?<==")[^"]*(?=")|<(\w[\w-]*)[^<>]*>[^<>]*<\/\1>|<[\w-]+[^<>]*\/>/g
  for (let i = 0; i < 1 + Math.floor(random() * 5); i++) {
    const places = [...text.matchAll(value)]
    const m = places[Math.floor(random() * places.length)]
    if (!m) break
    const odd = VALUES[Math.floor(random() * VALUES.length)]!
    const element = m[0].startsWith('<')
    const put = element
      ? random() < 0.5
        ? ''
        : m[0] + m[0]
      : kind === 'backup' && m[0].startsWith('"')
        ? JSON.stringify(odd)
        : kind === 'backup'
          ? String(Number(odd) || 0)
          : odd
    text = text.slice(0, m.index) + put + text.slice(m.index + m[0].length)
  }
  return new TextEncoder().encode(text)
}

function joined(...parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of parts) {
    out.set(p, at)
    at += p.length
  }
  return out
}

export interface FuzzReport {
  readonly kind: FileKind
  readonly files: number
  readonly read: number
  readonly refused: number
  readonly slowest: number
  readonly faults: readonly string[]
}

/** Milliseconds after which a reader hangs; far beyond what any file takes on a busy machine. */
const HANGS = 8000

/**
 * Examples other programs ship with, where this machine has them: read for these tests, never part of the
 * app.
 */
const FOLDERS = [
  '/usr/share/doc/abcmidi/examples',
  '/usr/share/doc/abcm2ps/examples',
  '/usr/share/doc/lilypond',
  '/usr/share/doc/lilypond-doc',
  '/usr/share/sounds',
]
const LARGEST = 60_000

/** Files of a kind that nobody here wrote. */
export function foreignFiles(
  kind: FileKind,
): readonly { readonly name: string; readonly bytes: Uint8Array }[] {
  const files = FOLDERS.flatMap(folder =>
    existsSync(folder)
      ? readdirSync(folder, { recursive: true, encoding: 'utf8' }).map(f => join(folder, f))
      : [],
  )
  return files
    .filter(f => statSync(f).isFile() && statSync(f).size < LARGEST)
    .map(f => ({ name: f, bytes: new Uint8Array(readFileSync(f)) }))
    .filter(f => kindOf(f.name, f.bytes) === kind && /\.(abc|xml|musicxml|mxl|midi?)$/i.test(f.name))
}

/** Every text in a document is one that storage takes. */
function unclean(value: unknown): string | undefined {
  if (typeof value === 'string') return cleanText(value) === value ? undefined : value
  if (typeof value !== 'object' || value === null) return undefined
  for (const v of Object.values(value)) {
    const found = unclean(v)
    if (found !== undefined) return found
  }
  return undefined
}

/** What of a tune each of our own formats must give back: pitches and lengths in their measures. */
const heard = (t: Tune) =>
  t.measures
    .map(m =>
      m.events
        .map(
          e =>
            `${e.kind === 'note' ? e.heads.map(h => formatPitch(h.pitch) + (h.tied ? '-' : '')).join('+') : 'z'}${formatFraction(e.duration)}`,
        )
        .join(' '),
    )
    .join('|')

/** Null when the tune comes back from its own format as it went in. */
function lostIn(format: 'abc' | 'musicxml', tune: Tune): string | null {
  if (!tune.measures.some(m => m.events.length > 0)) return null
  const written = writeFile(format, tune, null, ASSUMED_HANDS)
  const back = readFile(`a.${format}`, new TextEncoder().encode(String(written.content))).tunes[0]?.tune
  const [before, after] = [heard(tune), back ? heard(back) : 'nothing']
  if (before === after) return null
  if (process.env.SHOW)
    console.log(
      String(written.content),
      readFile('a.abc', new TextEncoder().encode(String(written.content))).findings,
    )
  let at = 0
  while (before[at] === after[at]) at++
  return `${format} gives back …${after.slice(Math.max(0, at - 20), at + 30)} for …${before.slice(Math.max(0, at - 20), at + 30)}`
}

/** Damages good files of one kind and reads them. */
export function fuzz(kind: FileKind, count: number, seed = 1): FuzzReport {
  const random = numbers(seed)
  const foreign = foreignFiles(kind).map(f => f.bytes)
  const own = DEMO_TUNES.map(({ file }) => {
    const { content } = writeFile(
      FORMATS[kind],
      readAbc(demoSource(file)).tunes[0]!.tune,
      kind === 'spoken' ? newArrangement('violin', 'full') : null,
      ASSUMED_HANDS,
    )
    return typeof content === 'string' ? new TextEncoder().encode(content) : content
  })
  const rare = (RARE[kind] ?? []).map(text => new TextEncoder().encode(text))
  const originals = own.concat(foreign, rare)
  let [read, refused, slowest] = [0, 0, 0]
  const faults: string[] = []
  for (let i = 0; i < count; i++) {
    const original = originals[i % originals.length]!
    const inside = (kind === 'musicxml' || kind === 'mxl' || kind === 'backup') && i % 4 !== 0
    const bytes = inside ? damageInside(kind, original, random) : damage(original, random)
    const began = performance.now()
    try {
      const result = readFile(NAMES[kind], bytes)
      for (const t of result.tunes) {
        const valid = tuneSchema.safeParse(t.tune)
        if (!valid.success)
          faults.push(
            `${kind} ${i}: a tune that is no valid document: ${valid.error.issues[0]!.path.join('.')}`,
          )
        const bad = unclean(t.tune)
        if (bad !== undefined)
          faults.push(`${kind} ${i}: text that could not be stored: ${JSON.stringify(bad)}`)
        const lost = i % 5 === 0 && (kind === 'abc' || kind === 'musicxml') ? lostIn(kind, t.tune) : null
        if (lost) faults.push(`${kind} ${i}: ${lost}`)
        t.findings.forEach(sentence)
      }
      result.findings.forEach(sentence)
      if (result.tunes.length > 0) read++
      else if (result.findings.length > 0) refused++
      else faults.push(`${kind} ${i}: refused without a word`)
    } catch (e) {
      faults.push(
        `${kind} ${i} (${kindOf(NAMES[kind], bytes)}): ${e instanceof Error ? `${e.message} ${e.stack?.split('\n')[1]?.trim() ?? ''}` : String(e)}`,
      )
    }
    const took = performance.now() - began
    slowest = Math.max(slowest, took)
    if (took > HANGS) faults.push(`${kind} ${i}: took ${Math.round(took)} ms`)
  }
  return { kind, files: count, read, refused, slowest: Math.round(slowest), faults }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const count = Number(process.argv[2] ?? 20_000)
  let failed = false
  for (const kind of (process.argv[3] ? [process.argv[3]] : Object.keys(FORMATS)) as FileKind[]) {
    const report = fuzz(kind, count)
    const memory = Math.round(process.memoryUsage().rss / 1e6)
    console.log(
      `${kind.padEnd(9)} ${report.files} files: ${report.read} read, ${report.refused} refused, slowest ${report.slowest} ms, memory ${memory} MB, ${report.faults.length} faults`,
    )
    for (const f of report.faults.slice(0, 10)) console.log(`  ${f}`)
    failed ||= report.faults.length > 0
  }
  process.exitCode = failed ? 1 : 0
}
