/** A tune with an arrangement, in any of the formats Nokta writes. What a format cannot carry is told. */
import { bowedTune } from '#core/tablature/bowedTune'
import { derive, type Derived } from '#core/arrangement/derive'
import type { DeriveContext } from '#core/arrangement/context'
import { handOptions } from '#core/arrangement/handOptions'
import type { Arrangement } from '#core/arrangement/recipe'
import { finding, type Finding } from '#core/findings/finding'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning, isHome } from '#core/instruments/tunings'
import type { Tune } from '#core/music/tune'
import { FORMAT_NAMES, WRITABLE, type WritableFormat } from './fileKinds'
import { writeAbc } from './abc/writeAbc'
import { writeBackup } from './backup/backup'
import { PROGRAMS, writeMidi } from './midi/writeMidi'
import { writeMusicXml, writeMxl, type Markings } from './musicxml/writeMusicXml'
import { writeSpoken } from './spoken/writeSpoken'

export interface WrittenFile {
  /** Text or bytes of the file. */
  readonly content: string | Uint8Array
  readonly mime: string
  readonly findings: readonly Finding[]
}

/** The format a file name asks for. Null when it is none we write. */
export const formatOf = (name: string): WritableFormat | null =>
  WRITABLE.find(f => name.toLowerCase().endsWith(`.${f}`)) ??
  (/\.xml$/i.test(name) ? 'musicxml' : /\.midi$/i.test(name) ? 'mid' : null)

/**
 * Writes one tune. With a recipe the arrangement is written: its key and octave, and where the format holds
 * them its fingers, strings, bows and tuning; without one the tune as it stands.
 */
export function writeFile(
  format: WritableFormat,
  tune: Tune,
  recipe: Arrangement | null,
  context: DeriveContext,
): WrittenFile {
  const d = recipe && format !== 'nokta.json' ? derive(tune, recipe, context) : null
  const carriesBows = format === 'abc' || format === 'musicxml' || format === 'mxl'
  const arranged = d ? (carriesBows ? bowedTune(d, recipe!.shown.bowMarks) : d.tune) : tune
  const tempo = recipe?.played.tempo
  const played = d && tempo ? { ...arranged, tempo } : arranged
  const owned = tune.rights === 'protected' ? [finding('file.protected', 'warning', {})] : []
  const made = write(format, tune, played, d, recipe)
  return {
    ...made,
    findings: [...owned, ...made.findings, ...(d && recipe ? taughtLosses(format, recipe) : [])],
  }
}

/**
 * What is said of phrases belongs to the arrangement: no format for notes has room for it. Of MIDI it is told
 * that only what is heard goes out.
 */
function taughtLosses(format: WritableFormat, { taught }: Arrangement): Finding[] {
  if (format === 'mid') return []
  const said = [
    [taught.names, 'the names of its phrases'],
    [taught.lines, 'the lines to sing'],
    [taught.remarks, 'the remarks on phrases and measures'],
  ] as const
  return said.flatMap(([by, what]) =>
    Object.keys(by).length > 0
      ? [finding('file.notCarried', 'note', {}, { format: FORMAT_NAMES[format], what })]
      : [],
  )
}

function write(
  format: WritableFormat,
  tune: Tune,
  played: Tune,
  d: Derived | null,
  recipe: Arrangement | null,
): WrittenFile {
  const instrument = recipe?.played.instrument ?? tune.instrument
  const writtenAbove = instrument ? INSTRUMENTS[instrument].writtenAbove : 0
  if (format === 'abc') {
    const { text, findings } = writeAbc(played)
    const lost = d
      ? [
          finding(
            'file.notCarried',
            'note',
            {},
            { format: FORMAT_NAMES.abc, what: 'the fingers of the arrangement' },
          ),
        ]
      : []
    return { content: text, mime: 'text/vnd.abc', findings: [...findings, ...lost] }
  }
  if (format === 'musicxml' || format === 'mxl') {
    const marks = markings(d, recipe)
    if (format === 'mxl') {
      const { bytes, findings } = writeMxl(played, marks)
      return { content: bytes, mime: 'application/vnd.recordare.musicxml', findings }
    }
    const { text, findings } = writeMusicXml(played, marks)
    return { content: text, mime: 'application/vnd.recordare.musicxml+xml', findings }
  }
  if (format === 'mid') {
    const { bytes, findings } = writeMidi(played, {
      writtenAbove,
      ...(instrument && { program: PROGRAMS[instrument] }),
      ...(d && { joined: d.joined }),
    })
    return { content: bytes, mime: 'audio/midi', findings }
  }
  if (format === 'txt') {
    if (!d || !recipe) throw new Error('string-and-finger text is written of an arrangement')
    const tuning = recipe.played.tuning ?? homeTuning(recipe.played.instrument)
    const fingers = new Map(d.fingering.notes.map(n => [n.id, n]))
    const { text, findings } = writeSpoken(played, fingers, {
      instrument: recipe.played.instrument,
      tuning,
      hand: handOptions(recipe.played),
    })
    return { content: text, mime: 'text/plain', findings }
  }
  const arrangements = recipe ? [{ id: 'arrangement', arrangement: recipe }] : []
  return {
    content: writeBackup([{ id: 'tune', source: null, tune, arrangements }]),
    mime: 'application/json',
    findings: [],
  }
}

function markings(d: Derived | null, recipe: Arrangement | null): Markings {
  if (!d || !recipe) return {}
  const tuning =
    recipe.played.tuning && !isHome(recipe.played.instrument, recipe.played.tuning)
      ? { tuning: recipe.played.tuning }
      : {}
  return {
    fingers: new Map(
      d.fingering.notes
        .filter(n => n.tiedFrom === undefined)
        .map(n => [n.id, { finger: n.finger, string: n.string }]),
    ),
    partName: INSTRUMENTS[recipe.played.instrument].name,
    transpose: -INSTRUMENTS[recipe.played.instrument].writtenAbove,
    ...tuning,
  }
}
