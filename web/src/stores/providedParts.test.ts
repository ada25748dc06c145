import { afterEach, describe, expect, it, vi } from 'vitest'
import { createSSRApp, defineComponent, h } from 'vue'
import { renderToString } from 'vue/server-renderer'
import type { PartDocuments } from '#core/desk/part'
import { useDocuments } from './documents'
import { providePart, usePart } from './parts'
import { settled, stage, straightDesk } from './testing'

const served = vi.hoisted(() => ({ tune: null as unknown }))
vi.mock('../api/client', () => ({
  api: {
    tune: () => Promise.resolve(served.tune),
    save: () => Promise.resolve({ tune: 2, arrangements: [] }),
  },
  ApiError: class extends Error {},
}))
vi.mock('../worker/client', async importOriginal => ({
  ...(await importOriginal<object>()),
  derivedOf: (part: PartDocuments) => desk.derivedOf(part),
}))
const desk = straightDesk()
afterEach(() => void vi.unstubAllGlobals())

/** Says which instrument it is about. */
const Says = defineComponent(() => {
  const part = usePart()
  return () => h('p', part.recipe.played.instrument)
})
const About = defineComponent({
  props: { id: { type: String, required: true } },
  setup(props) {
    providePart(() => props.id)
    return () => h(Says)
  },
})

describe('a page of several parts', () => {
  it('each is about the part provided above it, and what has none above it about the one in use', async () => {
    served.tune = stage('D E F G |')
    const docs = useDocuments()
    await docs.open('t')
    docs.addArrangement('cello')
    const [violin, cello] = docs.arrangements.map(a => a.id)
    docs.choose(violin!)
    await settled()
    const page = createSSRApp({ render: () => h('main', [h(About, { id: cello! }), h(Says)]) })
    expect(await renderToString(page)).toBe('<main><p>cello</p><p>violin</p></main>')
  })
  it('says so where no tune is open', async () => {
    stage('D E F G |')
    await expect(renderToString(createSSRApp(Says))).rejects.toThrow('No part is open here')
  })
})
