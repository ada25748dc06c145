/**
 * `npm run fuzz [files per reader]`: every reader gets thousands of damaged files. None may throw, take over a second, or give a tune that is not a
 * valid document. The same seeds every time; a small fixed part runs with the tests.
 */
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { pathToFileURL } from 'node:url'
import { unzipSync, zipSync } from 'fflate'
import { newArrangement } from '#core/arrangement/recipe'
import { sentence } from '#core/words/findings'
import { readAbc } from '#core/formats/abc/readAbc'
import { kindOf, readFile } from '#core/formats/readFile'
import { type FileKind } from '#core/formats/fileKinds'
import { writeFile } from '#core/formats/writeFile'
import { type WritableFormat } from '#core/formats/fileKinds'
import { tuneSchema } from '#core/music/tune'
import { demoSource } from '#demo/fillShelf'
import { DEMO_TUNES } from '#demo/shelf'

/** A small generator of repeatable numbers (mulberry32). */
function numbers(seed: number) {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), a | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

const NAMES: Readonly<Record<Exclude<FileKind, 'abc'> | 'abc', string>> = {
  abc: 'a.abc', musicxml: 'a.musicxml', mxl: 'a.mxl', midi: 'a.mid', spoken: 'a.txt', backup: 'a.nokta.json',
} // prettier-ignore
const FORMATS: Readonly<Record<FileKind, WritableFormat>> = {
  abc: 'abc', musicxml: 'musicxml', mxl: 'mxl', midi: 'mid', spoken: 'txt', backup: 'nokta.json',
} // prettier-ignore
/** Pieces that mean something in one format or another. */
const PIECES = ['(3', '|:', ':|', '[1', '{', '}', '"', '!', '<note>', '</note>', '<duration>0</duration>', '<octave>99</octave>', '<![CDATA[', '&#x0;', '<!ENTITY a "b">', '9999999999', '-1', 'NaN', '\u0000', '[K:', 'M:0/0', 'L:1/0', 'Q:0', ':1/0', '@', '<<<<', '(:::', '5:0', '{"n":1e99}', 'null', '\ud800'] // prettier-ignore

function damage(bytes: Uint8Array, random: () => number): Uint8Array {
  let out = bytes
  const times = 1 + Math.floor(random() * 6)
  for (let i = 0; i < times; i++) {
    const at = Math.floor(random() * out.length)
    const length = Math.floor(random() * random() * 200)
    const how = Math.floor(random() * 6)
    if (how === 0) out = out.with(Math.min(at, out.length - 1), Math.floor(random() * 256))
    else if (how === 1) out = join(out.subarray(0, at), out.subarray(at + length))
    else if (how === 2)
      out = join(out.subarray(0, at), new TextEncoder().encode(PIECES[Math.floor(random() * PIECES.length)]!), out.subarray(at)) // prettier-ignore
    else if (how === 3) out = join(out.subarray(0, at), out.subarray(Math.max(0, at - length)))
    else if (how === 4) out = out.subarray(0, at)
    else out = join(out, out.subarray(at, at + length))
    if (out.length === 0) return out
  }
  return out
}

const VALUES = ['0', '-1', '1e9', '3.7', '', 'x', '999999999999', 'C', '1,2,99', '🎻', 'NaN', '4096']

/** Damage that leaves the file well-formed, so that the reader behind the parser meets it: other values, elements gone or doubled. */
function damageInside(kind: FileKind, bytes: Uint8Array, random: () => number): Uint8Array {
  if (kind === 'mxl') {
    const files = unzipSync(bytes)
    return zipSync({ ...files, 'score.musicxml': damageInside('musicxml', files['score.musicxml']!, random) })
  }
  let text = new TextDecoder().decode(bytes)
  const value = kind === 'backup' ? /(?<=[:[,])(?:"[^"]*"|-?\d+)/g : /(?<=>)[^<>]+(?=<\/)|(?<==")[^"]*(?=")|<(\w[\w-]*)[^<>]*>[^<>]*<\/\1>|<[\w-]+[^<>]*\/>/g // prettier-ignore
  for (let i = 0; i < 1 + Math.floor(random() * 5); i++) {
    const places = [...text.matchAll(value)]
    const m = places[Math.floor(random() * places.length)]
    if (!m) break
    const odd = VALUES[Math.floor(random() * VALUES.length)]!
    const element = m[0].startsWith('<')
    const put = element ? (random() < 0.5 ? '' : m[0] + m[0]) : kind === 'backup' && m[0].startsWith('"') ? JSON.stringify(odd) : kind === 'backup' ? String(Number(odd) || 0) : odd // prettier-ignore
    text = text.slice(0, m.index) + put + text.slice(m.index + m[0].length)
  }
  return new TextEncoder().encode(text)
}

function join(...parts: readonly Uint8Array[]): Uint8Array {
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

/** Damages good files of one kind and reads them. */
export function fuzz(kind: FileKind, count: number, seed = 1): FuzzReport {
  const random = numbers(seed)
  const originals = DEMO_TUNES.map(({ file }) => {
    const { content } = writeFile(FORMATS[kind], readAbc(demoSource(file)).tunes[0]!.tune, kind === 'spoken' ? newArrangement('violin', 'full') : null, ASSUMED_HANDS) // prettier-ignore
    return typeof content === 'string' ? new TextEncoder().encode(content) : content
  })
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
        t.findings.forEach(sentence)
      }
      result.findings.forEach(sentence)
      if (result.tunes.length > 0) read++
      else if (result.findings.length > 0) refused++
      else faults.push(`${kind} ${i}: refused without a word`)
    } catch (e) {
      faults.push(`${kind} ${i} (${kindOf(NAMES[kind], bytes)}): ${e instanceof Error ? `${e.message} ${e.stack?.split('\n')[1]?.trim() ?? ''}` : String(e)}`) // prettier-ignore
    }
    const took = performance.now() - began
    slowest = Math.max(slowest, took)
    if (took > 1000) faults.push(`${kind} ${i}: took ${Math.round(took)} ms`)
  }
  return { kind, files: count, read, refused, slowest: Math.round(slowest), faults }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const count = Number(process.argv[2] ?? 20_000)
  let failed = false
  for (const kind of Object.keys(FORMATS) as FileKind[]) {
    const report = fuzz(kind, count)
    const memory = Math.round(process.memoryUsage().rss / 1e6)
    console.log(`${kind.padEnd(9)} ${report.files} files: ${report.read} read, ${report.refused} refused, slowest ${report.slowest} ms, memory ${memory} MB, ${report.faults.length} faults`) // prettier-ignore
    for (const f of report.faults.slice(0, 10)) console.log(`  ${f}`)
    failed ||= report.faults.length > 0
  }
  process.exitCode = failed ? 1 : 0
}
