import { readFileSync, writeFileSync } from 'node:fs'
import { ASSUMED_HANDS } from '#core/arrangement/context'
import { newArrangement } from '#core/arrangement/recipe'
import { VersionsInKeys } from '#core/arranging/bestKey'
import { readAbc } from '#core/formats/abc/readAbc'
import { writeFile } from '#core/formats/writeFile'
import { sizeOf } from '#core/instruments/instruments'
const all = JSON.parse(readFileSync('/work/shared/versions/versions.json','utf8'))
const want = process.argv[2] ? new RegExp(process.argv[2]) : /./
const plain = (t:string) => t.split('\n').filter(l => l.trim() && !/^([A-JLNOPSTWZw]:|%)/.test(l)).filter(l=>!/^[XMR]:/.test(l)).join(' / ').replace(/!(?!trill|fermata|segno|fine|D\.)[^!]*!/g,'').replace(/"[_^<>@][^"]*"/g,'').replace(/ +/g,' ')
for (const t of all) {
  if (!want.test(t.name)) continue
  const tune = readAbc(t.abc).tunes[0]!.tune
  console.log('=====', t.name, t.kind); console.log(plain(t.abc)+' '+/Q:.*/.exec(t.abc))
  const vs = new Map()
  for (const v of t.versions.filter((v:any)=>v.purpose==='easier')) {
    const base = newArrangement(v.instrument, sizeOf(v.instrument).name)
    const k = vs.get(v.instrument) ?? new VersionsInKeys(tune, base, { context: ASSUMED_HANDS }); vs.set(v.instrument,k)
    const t0=performance.now()
    const m = k.best(v.level)
    const ms=Math.round(performance.now()-t0)
    const out = writeFile('abc', tune, { ...m.eased.recipe, name: '' }, ASSUMED_HANDS).content as string
    const even = writeFile('abc', readAbc(v.abc).tunes[0]!.tune, { ...newArrangement(v.instrument, sizeOf(v.instrument).name), name:'' }, ASSUMED_HANDS).content as string
    console.log('--', v.instrument, v.level, ms+'ms', m.eased.blocked.length? 'BLOCKED '+m.eased.blocked.map((d:any)=>JSON.stringify(d.asked)).join():'', m.eased.off.length?'OFF':'')
    console.log(' O:', /Q:.*/.exec(out)![0], plain(out)); console.log(' T:', /Q:.*/.exec(v.abc)![0], plain(v.abc))
  }
}
