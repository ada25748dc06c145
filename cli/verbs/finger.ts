import { text, type Verb } from '../verb'
import { readFileSync } from 'node:fs'
import { handTasteSchema, TRAITS } from '#core/instruments/taste'
import { BadInput } from '../badInput'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { wholeAlternatives } from '#core/fingering/alternatives'
import { costRecord } from '#core/fingering/costs'
import { alternativesAt, costsAt } from '#core/fingering/explain'
import { whySentence } from '#core/words/why'
import { cuesOf } from '#core/teach/cues'
import { landmarkText } from '#core/teach/landmark'
import { ornamentsOf } from '#core/teach/ornaments'
import { lettersOf } from '#core/instruments/instruments'
import { formatTempo } from '#core/music/metre'
import { formatPitch } from '#core/music/pitch'
import { ARRANGEMENT_OPTIONS, recipeFrom } from '../input'
import { headOf } from '#core/music/ids'
import { tallyOf } from '#core/fingering/tally'
import { mannerStretches } from '#core/fingering/places'
import { mannerWords } from '#core/words/schools'
import { tradeWords, wayWords } from '#core/words/ways'
import { told } from '../told'

export const finger: Verb = {
  name: 'finger',
  what: 'String, finger and position of every note, with the reason and its cost.',
  takes: 'FILE…',
  options: {
    ...ARRANGEMENT_OPTIONS,
    alternatives: {
      type: 'string',
      value: '0..20',
      what: 'so many other ways, for each note and for all of it',
    },
    taste: {
      type: 'string',
      value: 'FILE',
      what: `JSON of a teacher’s taste, by trait what each time costs more: {"openQuick": -0.2}. Traits: ${TRAITS.join(', ')}`,
    },
  },
  run: (values, paths, open) => {
    const wanted = values.alternatives === undefined ? 0 : Number(text(values.alternatives))
    if (!Number.isInteger(wanted) || wanted < 0 || wanted > 20) {
      throw new BadInput(`--alternatives ${values.alternatives}: a whole number from 0 to 20`)
    }
    const file = open(paths[0])
    const { tune, findings } = file
    const recipe = recipeFrom(file, values, 'fingers')
    const d = derive(tune, recipe, { ...ASSUMED_HANDS, ...tasteOption(text(values.taste)) })
    const letters = lettersOf(recipe.played.instrument, recipe.played.tuning)
    const f = d.fingering
    const tally = (path: readonly number[]) => tallyOf(f.problem, path, ASSUMED_HANDS.model)
    const trade = (path: readonly number[]) => tradeWords(tally(f.tables.path), tally(path))
    const why = (n: (typeof f.notes)[number]) =>
      whySentence(
        f,
        n.tone,
        recipe.played.pins.fingers[n.tiedFrom ?? n.id] !== undefined,
        headOf(n.tiedFrom ?? n.id),
      )
    return {
      instrument: recipe.played.instrument,
      octave: d.arranged.octave,
      places: mannerStretches(f.problem.around.map(a => a.manner)).map(m => ({
        from: f.problem.tones[m.from]!.id,
        to: f.problem.tones[m.to]!.id,
        school: m.manner === 'stays' ? 'home' : m.manner,
        sentence: mannerWords(m.manner),
      })),
      notes: f.notes.map(n => ({
        id: n.id,
        measure: n.measure,
        pitch: formatPitch(n.pitch),
        string: letters[n.string],
        stringIndex: n.string + 1,
        finger: n.finger,
        offset: n.offset,
        anchor: n.anchor,
        position: n.position,
        mark: n.mark,
        ...(n.harmonic && { harmonic: true }),
        sounding: formatPitch(n.sounding),
        ...(n.tiedFrom && { tiedFrom: n.tiedFrom }),
        why: why(n),
        cost: costRecord(costsAt(f, n.tone)),
        ...(wanted > 0 && {
          alternatives: alternativesAt(f, n.tone, wanted).map(a => ({
            string: letters[a.string],
            finger: a.finger,
            anchor: a.anchor,
            extra: round(a.extra),
            ...trade(a.path),
            difference: Object.fromEntries(Object.entries(a.difference).map(([k, v]) => [k, round(v)])),
          })),
        }),
      })),
      shifts: d.shifts.map(s => ({
        ...s,
        string: letters[s.string],
        seconds: round(s.seconds),
        ceiling: formatTempo(s.ceiling),
        landmark: landmarkText(s),
      })),
      crossings: d.crossings,
      holds: d.holds.map(named(letters)),
      blocks: d.blocks.map(named(letters)),
      cues: cuesOf(f).map(c => ({ ...c, string: letters[c.string] })),
      ornaments: ornamentsOf(f, d.tune).map(o => ({
        ...o,
        fingers: o.fingers.map(x => ({ ...x, string: letters[x.string] })),
      })),
      findings: told([...findings, ...d.findings]),
      alternatives: wholeAlternatives(f, wanted).map(a => ({
        name: wayWords(a.way),
        way: a.way,
        extra: round(a.extra),
        ...trade(a.path),
        changes: a.changed.map(i => {
          const lead = f.problem.states[i]![a.path[i]!]!.lead
          return { id: f.problem.tones[i]!.id, string: letters[lead.string], finger: lead.finger }
        }),
      })),
      total: round(f.total),
    }
  },
}

const round = (x: number) => Math.round(x * 100) / 100
const named =
  (letters: readonly string[]) =>
  (s: { from: string; to: string; finger: number | 'T'; strings: readonly number[] }) => ({
    ...s,
    strings: s.strings.map(i => letters[i]),
  })

function tasteOption(path: string | undefined) {
  if (path === undefined) return {}
  let raw: unknown
  try {
    raw = JSON.parse(readFileSync(path, 'utf8'))
  } catch {
    throw new BadInput(`--taste ${path}: not readable as JSON`)
  }
  const read = handTasteSchema.safeParse(raw)
  if (!read.success)
    throw new BadInput(`--taste ${path}: numbers from -1 to 1 by trait: ${TRAITS.join(', ')}`)
  return { taste: read.data }
}
