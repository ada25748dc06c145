/** Learns from the fingers a teacher sets: off the main thread, a moment after the last of them. */
import { defineStore } from 'pinia'
import { watch } from 'vue'
import { NO_TASTE, type TasteDocument, type Trait } from '#core/instruments/taste'
import { callCore } from '../worker/client'
import { useDocuments } from './documents'
import { useResults } from './results'
import { useStudio } from './studio'

/** Milliseconds without another finger set. */
const QUIET = 1500

export const useTaste = defineStore('taste', () => {
  const docs = useDocuments()
  const results = useResults()
  const studio = useStudio()

  /** Learns as long as the bench is open. Stop with the function it returns. */
  function follow() {
    let timer: ReturnType<typeof setTimeout> | undefined
    const stop = watch(
      () => [docs.tuneId, docs.arrangementId, docs.recipe?.played.pins.fingers] as const,
      ([tune, arrangement, fingers], [tuneBefore, arrangementBefore, before]) => {
        if (tune !== tuneBefore || arrangement !== arrangementBefore || !before || fingers === before) return
        clearTimeout(timer)
        timer = setTimeout(() => void learn(`${tune} ${arrangement}`), QUIET)
      },
    )
    return () => {
      clearTimeout(timer)
      stop()
    }
  }

  async function learn(id: string) {
    const { asked } = results
    if (!asked) return
    await studio.load()
    const taste = await callCore(core => core.decide(asked, id, studio.studio.taste))
    await studio.edit(() => ({ taste }))
  }

  async function relearn(change: (now: TasteDocument) => TasteDocument) {
    const taste = await callCore(core => core.relearn(change(studio.studio.taste)))
    await studio.edit(() => ({ taste }))
  }
  const turn = (trait: Trait, on: boolean) =>
    relearn(t => ({ ...t, off: on ? t.off.filter(o => o !== trait) : [...t.off, trait] }))
  const forget = () => studio.edit(() => ({ taste: NO_TASTE }))

  return { follow, turn, forget }
})
