import type { Verb } from '../verb'
import { readFileSync } from 'node:fs'
import { z } from 'zod'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { DeriveMemory } from '#core/arrangement/derive'
import { skillById } from '#core/grading/catalogue'
import type { Demand, LevelTable } from '#core/grading/demands'
import {
  candidatesOf,
  commonKeys,
  keyQuestions,
  compareRows,
  keysOfMode,
  paretoBest,
  type KeyRow,
} from '#core/grading/keyRows'
import { tryCandidate } from '#core/grading/keySearch'
import { lettersOf, writtenFor } from '#core/instruments/instruments'
import { formatTuning } from '#core/instruments/tunings'
import { keyName } from '#core/music/key'
import { INSTRUMENT_IDS, type InstrumentId } from '#core/music/tune'
import { demandTitle, demandWords, gradeWords } from '#core/words/grading'
import { BadInput } from '../badInput'
import { text } from '../verb'
import { LEVELS } from '#core/levels/levels'

const OPTIONS = {
  instrument: {
    type: 'string',
    value: 'violin|viola|cello|bass|all',
    what: 'whose hands, several by commas; the tune’s own when left out. Of several, “joint” ranks the keys for a class',
  },
  keys: { type: 'string', value: 'all', what: 'every key of the mode, not only the tune’s own' },
  tunings: { type: 'string', value: 'all', what: 'every cross-tuning that ships, beside the home one' },
  'level-file': { type: 'string', value: 'FILE', what: 'JSON of a studio’s own levels: {"low2": 3, …}' },
} as const

export const levels: Verb = {
  name: 'levels',
  what: 'The level of a tune for an instrument, best first: which notes ask for what; with --keys all in every key.',
  takes: 'FILE…',
  options: OPTIONS,
  run: (values, paths, open) => {
    const { tune } = open(paths[0])
    if (!tune.measures.some(m => m.events.some(e => e.kind === 'note')))
      throw new BadInput(`${paths[0]}: there are no notes to play`)
    const search = {
      instruments: instrumentsOption(text(values.instrument), writtenFor(tune)),
      keys: allOption('keys', text(values.keys)) ? keysOfMode(tune.key) : [tune.key],
      tunings: allOption('tunings', text(values.tunings)) ? ('all' as const) : ('home' as const),
      table: tableOption(text(values['level-file'])),
    }
    const memory = new DeriveMemory()
    const all = keyQuestions(tune, search).flatMap(candidatesOf)
    const rows = all.flatMap(c => tryCandidate(tune, c, search, ASSUMED_HANDS, memory) ?? [])
    const best = new Set(paretoBest(rows))
    const joint = search.instruments.length > 1 ? commonKeys(rows, search.instruments).map(k => k.rows) : []
    return [...rows].sort(compareRows).map(r =>
      told(
        r,
        best.has(r),
        joint.findIndex(j => j.includes(r)),
      ),
    )
  },
}

const told = (r: KeyRow, best: boolean, joint: number) => ({
  instrument: r.instrument,
  key: keyName(r.key),
  octave: r.octave,
  tuning: r.tuning ? formatTuning(r.tuning) : 'home',
  level: r.level,
  openShare: r.openShare,
  crossings: r.crossings,
  shifts: r.shifts,
  shapes: r.shapes,
  range: r.range,
  strings: lettersOf(r.instrument, r.tuning),
  ...(best && { best: true }),
  ...(joint >= 0 && { joint: joint + 1 }),
  sentence: gradeWords(r.grade),
  why: r.grade.demands.filter(d => d.level === r.level).flatMap(d => whyOf(d)),
})

const whyOf = (d: Demand) =>
  d.notes.map(n => ({
    note: n.note,
    measure: n.measure,
    skill: d.asked.kind === 'skill' ? d.asked.skill : d.asked.limit,
    sentence: `${demandTitle(d)}: level ${d.level} (${demandWords(d)})`,
  }))

function instrumentsOption(value: string | undefined, own: InstrumentId): readonly InstrumentId[] {
  if (value === undefined) return [own]
  if (value === 'all') return INSTRUMENT_IDS
  return value.split(',').map(name => {
    const found = INSTRUMENT_IDS.find(i => i === name.trim())
    if (!found) throw new BadInput(`--instrument ${value}: choose ${INSTRUMENT_IDS.join(', ')} or all`)
    return found
  })
}

function allOption(name: string, value: string | undefined): boolean {
  if (value === undefined || value === 'own' || value === 'home') return false
  if (value === 'all') return true
  throw new BadInput(`--${name} ${value}: all, or leave it out`)
}

const tableSchema = z.record(z.string(), z.literal(LEVELS))

function tableOption(path: string | undefined): LevelTable {
  if (path === undefined) return {}
  let raw: unknown
  try {
    raw = JSON.parse(readFileSync(path, 'utf8'))
  } catch {
    throw new BadInput(`--level-file ${path}: not readable as JSON`)
  }
  const read = tableSchema.safeParse(raw)
  if (!read.success) throw new BadInput(`--level-file ${path}: an object of skills and levels from 1 to 8`)
  const unknown = Object.keys(read.data).find(id => !skillById(id))
  if (unknown) throw new BadInput(`--level-file ${path}: there is no skill “${unknown}”`)
  return read.data
}
