/**
 * Learns from the fingers a teacher sets and the bow marks a teacher takes, refuses or sets: off the main
 * thread, a moment after the last of them.
 */
import { defineStore } from 'pinia'
import { watch, type WatchSource } from 'vue'
import { NO_TASTE, type BowTrait, type Trait } from '#core/instruments/taste'
import { callCore } from '../worker/client'
import { useDocuments } from './documents'
import { useResults } from './results'
import { useStudio } from './studio'

/** Milliseconds without another word. */
const QUIET = 1500

export const useTaste = defineStore('taste', () => {
  const docs = useDocuments()
  const results = useResults()
  const studio = useStudio()

  /** Learns as long as the bench is open. Stop with the function it returns. */
  function follow() {
    const stops = [
      onceQuiet(() => docs.recipe?.played.pins.fingers, learnFingers),
      onceQuiet(() => {
        const pins = docs.recipe?.played.pins
        return pins && JSON.stringify([pins.joins, pins.strokes])
      }, learnBow),
    ]
    return () => stops.forEach(stop => stop())
  }

  /** Calls back where a word of the open arrangement was changed, not where another one was opened. */
  function onceQuiet(word: WatchSource<unknown>, learn: (id: string) => Promise<void>) {
    let timer: ReturnType<typeof setTimeout> | undefined
    const stop = watch(
      [() => docs.tuneId, () => docs.arrangementId, word],
      ([tune, arrangement, said], [tuneBefore, arrangementBefore, before]) => {
        if (tune !== tuneBefore || arrangement !== arrangementBefore || !before || said === before) return
        clearTimeout(timer)
        timer = setTimeout(() => void learn(`${tune} ${arrangement}`), QUIET)
      },
    )
    return () => {
      clearTimeout(timer)
      stop()
    }
  }

  async function learnFingers(id: string) {
    const { asked } = results
    if (!asked) return
    await studio.load()
    const taste = await callCore(core => core.decide(asked, id, studio.studio.taste))
    await studio.edit(() => ({ taste }))
  }
  async function learnBow(id: string) {
    const { asked } = results
    if (!asked) return
    await studio.load()
    const bowTaste = await callCore(core => core.decideBow(asked, id, studio.studio.bowTaste))
    await studio.edit(() => ({ bowTaste }))
  }

  const switched = <T>(off: readonly T[], trait: T, on: boolean) =>
    on ? off.filter(o => o !== trait) : [...off, trait]
  async function turn(trait: Trait, on: boolean) {
    const { taste: now } = studio.studio
    const taste = await callCore(core => core.relearn({ ...now, off: switched(now.off, trait, on) }))
    await studio.edit(() => ({ taste }))
  }
  async function turnBow(trait: BowTrait, on: boolean) {
    const { bowTaste: now } = studio.studio
    const bowTaste = await callCore(core => core.relearnBow({ ...now, off: switched(now.off, trait, on) }))
    await studio.edit(() => ({ bowTaste }))
  }
  const forget = () => studio.edit(() => ({ taste: NO_TASTE }))
  const forgetBow = () => studio.edit(() => ({ bowTaste: NO_TASTE }))

  return { follow, turn, turnBow, forget, forgetBow }
})
