import { readFileSync, readdirSync } from 'node:fs'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { derive } from '#core/arrangement/derive'
import { withBow } from '#core/arrangement/edits'
import { MAY_NOTHING } from '#core/bowing/schools'
import { newArrangement } from '#core/arrangement/recipe'
import { easier } from '#core/arranging/easier'
import { readAbc } from '#core/formats/abc/readAbc'
import { sizeOf } from '#core/instruments/instruments'
import { demoSource } from '#demo/fillShelf'
let n=[0,0,0,0], lifts=0, blocked=0, ms=0, k=0
for (const f of readdirSync('demo/tunes')) for (const l of [1,2,3] as const) { const tune = readAbc(demoSource(f)).tunes[0]!.tune
 const t=performance.now(); const e = easier(tune, newArrangement('violin', sizeOf('violin').name), { level: l, context: ASSUMED_HANDS }); ms+=performance.now()-t;k++
 const ups=(d:any)=>d.bowing.written.filter((s:any)=>s.strength===3)
 const a=ups(derive(tune, withBow(e.recipe,{may:MAY_NOTHING}), ASSUMED_HANDS)), b=ups(e.derived)
 n[0]+=a.filter((s:any)=>s.direction==='up').length; n[1]+=a.length; n[2]+=b.filter((s:any)=>s.direction==='up').length; n[3]+=b.length; lifts+=e.derived.bowing.written.filter((s:any)=>s.lift||s.hook).length; blocked+=e.blocked.length; if(e.blocked.length) console.log(f,l,JSON.stringify(e.blocked.map(b=>b.asked))) }
console.log(n, 'marks', lifts, 'blocked', blocked, 'ms mean', ms/k)
