import { ASSUMED_HANDS } from '#core/arrangement/context'
import { originOf } from '#core/arrangement/arrange'
import type { MadeChange } from '#core/arranging/change'
import { applyChanges, playedChanges } from '#core/arrangement/changes'
import { partLeft, withBow } from '#core/arrangement/edits'
import { MAY_NOTHING } from '#core/bowing/schools'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { easierInBestKey, versionIn, type InKey } from '#core/arranging/bestKey'
import { enriched } from '#core/arranging/enrich'
import { FANCIER, SPICES, WITHOUT_WORDS, type SpiceKind } from '#core/arranging/spices'
import { partChoices, partsPlayed, withLeaving } from '#core/arranging/parts'
import type { EaseOptions } from '#core/arranging/easing'
import { isAnotherTune, isMangled, keptOf } from '#core/arranging/kept'
import { formatOf, writeFile } from '#core/formats/writeFile'
import { WRITABLE } from '#core/formats/fileKinds'
import { INSTRUMENTS, sizeOf } from '#core/instruments/instruments'
import { keyName, parseKey, sameKey, type Key } from '#core/music/key'
import { formatTempo } from '#core/music/metre'
import type { Tune } from '#core/music/tune'
import { changeViews, slurViews, strayWords, tempoWords, type ChangeView } from '#core/words/arranging'
import { sentence } from '#core/words/findings'
import { demandWords } from '#core/words/grading'
import { BadInput } from '../badInput'
import { instrumentOption, levelOption } from '../input'
import { STANDARD } from '../files'
import { AS_OPTION, formatToWrite, Raw, writeTo } from '../output'
import { text, type Verb } from '../verb'

const OPTIONS = {
  instrument: {
    type: 'string',
    value: 'violin|viola|cello|bass',
    what: 'whose hands; the tune’s own when left out',
  },
  level: { type: 'string', value: '1..8', what: 'the level it is to be brought down to' },
  key: {
    type: 'string',
    value: 'D|Bb|Em|best',
    what: 'the key to play in; best is the one in which most of the tune is kept',
  },
  spice: {
    type: 'string',
    multiple: true,
    value: 'KINDS',
    what: `what is added, apart by commas: ${SPICES.join(', ')}; all, or without-words for what makes a song less dull`,
  },
  leave: { type: 'string', multiple: true, value: 'B', what: 'a part that is left out, by its letter' },
  refuse: { type: 'string', multiple: true, value: 'ID', what: 'a change that is not to be made' },
  another: { type: 'string', value: 'N', what: 'the Nth next best different version instead of the best' },
  bow: {
    type: 'string',
    value: 'proposed|alternate',
    what: 'the bow marks the written file carries: those Nokta proposes (the default), or bow by bow in turn',
  },
  out: { type: 'string', short: 'o', value: 'OUT', what: `a file to write: ${WRITABLE.join(', ')}` },
  as: AS_OPTION,
} as const

export const arrange: Verb = {
  name: 'arrange',
  what: 'A version of a tune for a level, easier or with more in it: the changes that bring it down to a level, what is kept of it, and what stands in the way.',
  takes: 'FILE…',
  options: OPTIONS,
  run: (values, paths, open) => {
    const { tune: written } = open(paths[0])
    if (!written.measures.some(m => m.events.some(e => e.kind === 'note')))
      throw new BadInput(`${paths[0]}: there are no notes to play`)
    const instrument = instrumentOption(written, values)
    const level = levelOption(text(values.level))
    if (level === null) throw new BadInput('arrange: say the level it is for, as --level 2')
    const out = text(values.out)
    const format = out === undefined ? null : formatToWrite('-o', out, text(values.as), WRITABLE, formatOf)
    const whole = withPartsLeft(
      written,
      newArrangement(instrument, sizeOf(instrument).name),
      [values.leave ?? []].flat() as string[],
    )
    const { tune, base, leaving } = partsPlayed(written, whole)
    const refused = new Set([values.refuse ?? []].flat() as string[])
    const o = { level, context: ASSUMED_HANDS, refused, another: anotherOption(text(values.another)) }
    const bow = bowOption(text(values.bow))
    const asked = text(values.key)
    const spices = spiceOption([values.spice ?? []].flat() as string[])
    const made =
      asked === 'best' ? easierInBestKey(tune, base, o) : versionIn(tune, base, keyOption(tune, asked), o)
    const more = spices.length > 0 ? enriched(tune, made.eased.recipe, { ...o, spices }) : null
    const { recipe, derived, grade } = more ?? made.eased
    const better = asked === undefined ? betterKey(tune, base, o, made) : null
    const name = `${INSTRUMENTS[instrument].name}, level ${level}`
    if (out !== undefined && format) {
      const asWritten = { ...bowedAs(withLeaving(recipe, leaving), bow), name }
      const { content, findings } = writeFile(format, written, asWritten, ASSUMED_HANDS)
      if (out === STANDARD) return new Raw(content, findings.map(sentence))
      writeTo(out, content)
    }
    const views = new Map(
      [
        ...changeViews(derived.arranged, recipe.played.changes),
        ...slurViews(recipe, derived.tune, id => originOf(derived.arranged, id)),
      ].map(v => [v.id, v]),
    )
    const slower = tempoWords(tune, recipe.played.tempo)
    const version = applyChanges(tune, playedChanges(recipe.played)).tune
    return {
      level: grade.level,
      key: keyName(made.key),
      octave: derived.arranged.octave,
      tempo: formatTempo(derived.tempo),
      ...(slower && { slower }),
      changes: [...made.eased.changes, ...(more?.changes ?? [])].map(c => told(c, views.get(c.id))),
      kept: more ? keptOf(tune, version, derived.tempo) : made.kept,
      ...(better && { better }),
      ...(made.eased.off.length > 0 && { off: made.eased.off }),
      blocked: [
        ...made.eased.blocked.map(d => ({ level: d.level, sentence: demandWords(d), notes: d.notes })),
        ...(isAnotherTune(made.kept)
          ? [
              {
                level,
                sentence: strayWords(made.kept, made.eased.changes, level),
                notes: made.eased.changes
                  .filter(c => c.kind === 'replace')
                  .flatMap(c => c.notes.map(note => ({ note, measure: c.measure }))),
              },
            ]
          : []),
      ],
    }
  },
}

/** Where no key was asked for and the tune's own does not serve the level: the one that does. */
function betterKey(tune: Tune, base: Arrangement, o: EaseOptions, own: InKey) {
  if (own.eased.blocked.length === 0 && !isMangled(own.kept, own.eased.changes)) return null
  const best = easierInBestKey(tune, base, o)
  if (sameKey(best.key, own.key)) return null
  const key = keyName(best.key)
  return { key, kept: best.kept, sentence: `At level ${o.level} it lies better in ${key}: --key best` }
}

function told(c: MadeChange, view: ChangeView | undefined) {
  return { ...c, sentence: view?.sentence ?? PARTED, ...(view?.why && { why: view.why }) }
}
const PARTED = 'the slur is parted: one bow a note'

function withPartsLeft(tune: Tune, base: Arrangement, labels: readonly string[]): Arrangement {
  const parts = partChoices(tune, base)
  const left = labels
    .flatMap(v => v.split(','))
    .map(label => {
      const found = parts.find(p => p.label === label.trim())
      if (!found)
        throw new BadInput(
          `--leave ${label}: ${parts.length > 0 ? `there are the parts ${parts.map(p => p.label).join(', ')}` : 'the tune has one part only'}`,
        )
      return found
    })
  if (left.length > 0 && left.length >= parts.length)
    throw new BadInput('--leave: nothing would be left of the tune')
  return left.reduce((r, p) => partLeft(r, p.measures, true), base)
}

function anotherOption(value: string | undefined): number {
  const n = Number(value ?? 0)
  if (!Number.isInteger(n) || n < 0 || n > 20)
    throw new BadInput(`--another ${value}: a whole number from 1 to 20`)
  return n
}

function bowOption(value: string | undefined): 'proposed' | 'alternate' {
  if (value === undefined || value === 'proposed') return 'proposed'
  if (value === 'alternate') return value
  throw new BadInput(`--bow ${value}: proposed or alternate`)
}

/**
 * As it is proposed the bow may be set anew and hooked where first beats would come up; else it goes on in
 * turn.
 */
const bowedAs = (r: Arrangement, how: 'proposed' | 'alternate'): Arrangement =>
  how === 'proposed' ? r : withBow(r, { may: MAY_NOTHING })

function keyOption(tune: Tune, value: string | undefined): Key {
  if (value === undefined) return tune.key
  const key = parseKey(value)
  if (!key) throw new BadInput(`--key ${value}: not understood; write it as D, Bb, Em, Edor or best`)
  return key
}

function spiceOption(values: readonly string[]): SpiceKind[] {
  return values
    .flatMap(v => v.split(','))
    .flatMap((name): SpiceKind[] => {
      const found = SPICES.find(s => s === name.trim())
      if (found) return [found]
      if (name === 'all') return [...FANCIER]
      if (name === 'without-words') return [...WITHOUT_WORDS]
      throw new BadInput(`--spice ${name}: not known; there are ${SPICES.join(', ')}, all and without-words`)
    })
}
