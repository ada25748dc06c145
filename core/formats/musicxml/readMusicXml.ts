/**
 * MusicXML (3 and 4, partwise or timewise, plain or packed as .mxl) to a tune. One part and one voice of it
 * are taken; the others are named, so that the teacher can choose. What our model does not hold is told, once
 * for each kind.
 */
import { unzipSync } from 'fflate'
import { finding, type Finding, type FindingCode, type ValuesOf, type Where } from '#core/findings/finding'
import { checkTune } from '#core/findings/checkTune'
import { emptyTune, type Tune } from '#core/music/tune'
import type { Midi } from '#core/music/pitch'
import { midi, STEPS } from '#core/music/pitch'
import { PartReader } from './readPart'
import { factsOf } from './facts'
import { decodeText } from '../encoding'
import { fitted } from '../fitted'
import { child, children, parseXml, textAt, type XmlNode } from './xml'

export interface PartInfo {
  readonly name: string
  /** Voice names with how many notes each has, as the file names them. */
  readonly voices: readonly { readonly name: string; readonly notes: number }[]
}

export interface ReadXml {
  readonly tune: Tune
  readonly findings: readonly Finding[]
  readonly parts: readonly PartInfo[]
  /** Which part and voice the tune is. */
  readonly taken: { readonly part: number; readonly voice: string }
  /** Sounding pitch of each string, highest first, when the file gives its tuning. */
  readonly tuning: readonly Midi[] | null
}

export interface XmlChoice {
  readonly part?: number
  readonly voice?: string
}

export type XmlResult = ReadXml | { readonly finding: Finding }
const refuse = <C extends FindingCode>(code: C, where: Where, ...values: ValuesOf<C>) => ({
  finding: finding(code, 'error', where, ...values),
})

/** Reads the text of a score. Never throws on bad input: a file that is not one is refused with the place. */
export function readMusicXml(text: string, choice: XmlChoice = {}): XmlResult {
  const parsed = parseXml(text.replace(/^\ufeff/, ''))
  if ('finding' in parsed) return parsed
  const score = partwise(parsed.root)
  if (!score) return refuse('xml.notAScore', { line: 1 }, { root: parsed.root.name.slice(0, 40) })
  const parts = children(score, 'part')
  const listed = new Map(children(child(score, 'part-list'), 'score-part').map(p => [p.attributes.id, p]))
  const infos = parts.map((p, i) => partInfo(listed.get(p.attributes.id), p, i))
  const most = infos.findIndex(p => p.voices.some(v => v.notes > 0))
  const index = choice.part ?? most
  const part = parts[index]
  if (!part && choice.part !== undefined) return refuse('xml.noPart', {}, { part: choice.part + 1 })
  if (!part) return refuse('file.noNotes', {})
  const voices = infos[index]!.voices
  const voice = choice.voice ?? [...voices].sort((a, b) => b.notes - a.notes)[0]?.name
  if (voice === undefined || !voices.some(v => v.name === voice && v.notes > 0))
    return refuse('file.noNotes', {})
  const reader = new PartReader(voice)
  for (const m of children(part, 'measure')) if (!reader.measure(m)) break
  const music = reader.finish()
  const facts = factsOf(score, infos[index]!.name)
  const whole: Tune = { ...emptyTune(), ...facts, ...music.tune }
  const fits = fitted(whole)
  if (!fits.tune) return { finding: fits.findings.at(-1)! }
  const others = infos
    .flatMap((p, i) => (i === index ? [] : [p.name]))
    .concat(voices.filter(v => v.name !== voice).map(v => `voice ${v.name}`))
  const left =
    others.length > 0
      ? [
          finding(
            'file.others',
            'note',
            {},
            {
              taken: voices.length > 1 ? `voice ${voice}` : infos[index]!.name,
              others: others.slice(0, 8).join(', '),
            },
          ),
        ]
      : []
  return {
    tune: fits.tune,
    findings: [...left, ...music.findings, ...fits.findings, ...checkTune(fits.tune)],
    parts: infos,
    taken: { part: index, voice },
    tuning: tuningOf(part),
  }
}

/** Unpacked size a score may have, bytes. */
const MAX_UNPACKED = 24_000_000

/** Reads a packed score. A file inside that claims or turns out to be too large is refused, not unpacked. */
export function readMxl(bytes: Uint8Array, choice: XmlChoice = {}): XmlResult {
  let tooLarge = false
  const names: string[] = []
  const open = (wanted: string) =>
    unzipSync(bytes, {
      filter: f => {
        if (f.name !== wanted) return false
        tooLarge ||= f.originalSize > MAX_UNPACKED
        return !tooLarge
      },
    })[wanted]
  try {
    unzipSync(bytes, { filter: f => names.push(f.name) < 0 })
    const container = open(CONTAINER)
    const parsed = container && parseXml(decodeText(container).text)
    const path =
      parsed && 'root' in parsed
        ? child(child(parsed.root, 'rootfiles'), 'rootfile')?.attributes['full-path']
        : undefined
    // Where no container names it the first score is taken, and no other unpacked.
    const score = open(path ?? names.find(n => /^[^/]+\.(musicxml|xml)$/.test(n)) ?? '')
    if (tooLarge) return refuse('file.tooLong', {}, { limit: MAX_UNPACKED })
    return score ? readMusicXml(decodeText(score).text, choice) : refuse('zip.noScore', {})
  } catch {
    return refuse(tooLarge ? 'file.tooLong' : 'zip.broken', {}, { limit: MAX_UNPACKED })
  }
}
const CONTAINER = 'META-INF/container.xml'

/** A score by parts; one written measure by measure is turned round. */
function partwise(root: XmlNode): XmlNode | null {
  if (root.name === 'score-partwise') return root
  if (root.name !== 'score-timewise') return null
  const byPart = new Map<string, XmlNode[]>()
  for (const m of children(root, 'measure'))
    for (const p of children(m, 'part')) {
      const id = p.attributes.id ?? ''
      const own = byPart.get(id) ?? []
      if (own.length === 0) byPart.set(id, own)
      own.push({ ...m, children: p.children })
    }
  const parts = [...byPart].map(([id, measures]): XmlNode => ({
    name: 'part',
    attributes: { id },
    children: measures,
    text: '',
  }))
  return { ...root, children: [...root.children.filter(c => c.name !== 'measure'), ...parts] }
}

function partInfo(listed: XmlNode | undefined, part: XmlNode, index: number): PartInfo {
  const counts = new Map<string, number>()
  for (const m of children(part, 'measure'))
    for (const n of children(m, 'note')) {
      const voice = textAt(n, 'voice') || '1'
      counts.set(voice, (counts.get(voice) ?? 0) + (child(n, 'pitch') ? 1 : 0))
    }
  return {
    name: textAt(listed, 'part-name').slice(0, 80) || `part ${index + 1}`,
    voices: [...counts].map(([name, notes]) => ({ name, notes })),
  }
}

function tuningOf(part: XmlNode): readonly Midi[] | null {
  const details = children(part, 'measure')
    .slice(0, 1)
    .flatMap(m => children(m, 'attributes'))
    .map(a => child(a, 'staff-details'))
    .find(Boolean)
  const strings = children(details, 'staff-tuning').map(t => {
    const step = STEPS.find(s => s === textAt(t, 'tuning-step'))
    const [alter, octave] = [
      Number(textAt(t, 'tuning-alter') || 0),
      Number(textAt(t, 'tuning-octave') || NaN),
    ]
    return step && Number.isInteger(octave) && Number.isInteger(alter) ? midi({ step, alter, octave }) : null
  })
  if (strings.length < 4 || strings.length > 5 || strings.some(s => s === null)) return null
  return (strings as Midi[]).reverse()
}
