import { readAbc } from '#core/formats/abc/readAbc'
import { keepIds } from '#core/music/keepIds'
import { derive, type DeriveCache } from '#core/arrangement/derive'
import { newArrangement } from '#core/arrangement/recipe'
import { analyseForm } from '#core/form/form'
import { newFingeringCache as newEdgeCache } from '#core/fingering/cache'
import { fingeringProblem, solveFingering } from '#core/fingering/fingering'
import { togetherOf } from '#core/fingering/together'
import { bowTune } from '#core/bowing/bowing'
import { benchResult } from './web/src/worker/benchResult'
const bars = Array.from({ length: 64 }, (_, i) => ['DFAF GFED', 'FAdA BAF2', 'GBAG FEDE', 'FAGE D2z2', 'd2fd ecAc', 'dBAF GFED', 'g2fe dcBA'][i % 7]!)
const abc = (k: number) => `X:1\nT:t\nM:4/4\nL:1/8\nK:D\n${bars.map((b, i) => (i === 30 ? b.replace(/^./, 'CDEFGAB'[k % 7]!) : b)).join('|')}|\n`
let tune = readAbc(abc(0)).tunes[0]!.tune
const recipe = newArrangement('violin', 'full')
const cache: DeriveCache = {}
const t: Record<string, number[]> = {}
const time = <T>(name: string, f: () => T): T => { const b = performance.now(); const r = f(); (t[name] ??= []).push(performance.now() - b); return r }
const edges = newEdgeCache()
for (let k = 0; k < 40; k++) {
  const read = time('read', () => readAbc(abc(k)).tunes[0]!.tune)
  tune = time('keepIds', () => keepIds(tune, read).tune)
  const d = time('derive', () => derive(tune, recipe, cache))
  const r = time('benchResult', () => benchResult(d, recipe))
  time('pack', () => JSON.stringify(r))
  const form = time('form', () => analyseForm(tune))
  const o = { ...d.fingering.problem.options, together: togetherOf(form) }
  const p = time('problem', () => fingeringProblem(tune, o, edges))
  time('solve', () => solveFingering(p))
  time('bow', () => bowTune(tune, { tempo: d.tempo, joined: d.joined, school: 'down', hair: 650, pins: {}, partOf: () => undefined } as never))
}
for (const [k, v] of Object.entries(t)) console.log(k.padEnd(12), v.slice(10).sort((a, b) => a - b)[15]!.toFixed(1))
