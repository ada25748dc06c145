import { readFileSync } from 'node:fs'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { EasierVersions } from '#core/arranging/easier'
import { DeriveMemory } from '#core/arrangement/derive'
import { withKey } from '#core/arrangement/edits'
import { parseKey } from '#core/music/key'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
const [,, name, inst, level, key, oct] = process.argv
const all = JSON.parse(readFileSync('/work/shared/versions/versions.json','utf8'))
const t = all.find((x:any)=>new RegExp(name!).test(x.name)); const tune = readAbc(t.abc).tunes[0]!.tune
const base = withKey(newArrangement(inst as any, sizeOf(inst as any).name), key ? parseKey(key)! : tune.key, tune.key)
const e: any = (new EasierVersions(tune, base, { context: ASSUMED_HANDS }) as any).easings(Number(level)).find((x:any)=>x.octave===Number(oct ?? 0)).easing
console.log('quick', e.options.quickness, [...e.options.allowed.keys()].join(' '))
const orig = e.graded.bind(e)
e.graded = (v: any) => { const r = orig(v); console.log(v.total.toFixed(2), v.fillings.map((f:any,i:number)=>(e.source.spans[i].group.at.n===0?'| ':'')+ (f.held!==null?'held':f.slots.map((s:any)=>(s.pitch?s.pitch.step+(s.pitch.alter||'')+s.pitch.octave:'z')+(s.own?'':'*')+':'+s.quarters).join(','))+(f.slots.at(-1)?.source?.goal?'!':'')).join('  ')); console.log('   blocked', r.blocked.map((d:any)=>JSON.stringify(d.asked)+d.notes.map((n:any)=>n.measure).join(',')).join(' '), 'off', r.off); return r }
e.run()
