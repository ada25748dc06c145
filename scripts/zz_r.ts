import { readAbc } from '#core/formats/abc/readAbc'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { EasierVersions } from '#core/arranging/easier'
import { sizeOf } from '#core/instruments/instruments'
const [,, inst, level, head, music] = process.argv
const tune = readAbc(`X:1\nT:t\n${head!.replaceAll(';','\n')}\n${music}\n`).tunes[0]!.tune
const v: any = new EasierVersions(tune, newArrangement(inst as any, sizeOf(inst as any).name), { context: ASSUMED_HANDS })
const e = v.draft(Number(level)).easing
const orig = e.graded.bind(e)
e.graded = (v: any) => { const r = orig(v); console.log(v?.total.toFixed(2), v?.fillings.map((f:any,i:number)=>(e.source.spans[i].group.at.n===0?'| ':'')+ (f.held!==null?'held':f.slots.map((s:any)=>(s.pitch?s.pitch.step+(s.pitch.alter||'')+s.pitch.octave:'z')+(s.own?'':'*')+':'+s.quarters).join(','))+(f.slots.at(-1)?.source?.goal?'!':'')).join('  ')); console.log('   blocked', r.blocked.map((d:any)=>JSON.stringify(d.asked)+d.notes.map((n:any)=>n.measure+':'+n.note).join(',')).join(' '), 'off', r.off); return r }
e.run()
