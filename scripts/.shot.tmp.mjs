import { launch } from '/work/main/scripts/browser.mjs'
const [, , out, path, ...acts] = process.argv
const b = await launch()
const p = await b.newPage({ viewport: { width: 1280, height: 800 } })
p.on('console', m => {
  if (m.type() === 'error' || m.type() === 'warning')
    console.log('console', m.type(), m.text().slice(0, 1200))
})
p.on('pageerror', e => console.log('pageerror', e.message, e.stack?.slice(0, 500)))
const list = await (await fetch('http://127.0.0.1:4801/api/v1/tunes')).json()
const url = path.replace(/\{(.*?)\}/, (_, t) => list.tunes.find(x => x.title.includes(t)).id)
await p.goto('http://127.0.0.1:4801' + url)
await p.waitForTimeout(2500)
for (const a of acts) {
  const [k, v] = a.split(/=(.*)/s)
  if (k === 'click') await p.click(v)
  if (k === 'key') await p.keyboard.press(v)
  if (k === 'wait') await p.waitForTimeout(Number(v))
  if (k === 'full') await p.setViewportSize({ width: 1280, height: Number(v) })
  if (k === 'text') console.log(await p.textContent(v))
  if (k === 'fill') {
    const [s, t] = v.split('::')
    await p.fill(s, t)
  }
}
await p.waitForTimeout(500)
await p.screenshot({ path: out })
await b.close()
