/**
 * Learns from the fingers a teacher sets and the bow marks a teacher takes, refuses or sets: off the main
 * thread, a moment after the last of them.
 */
import { defineStore } from 'pinia'
import { watch, type WatchSource } from 'vue'
import {
  NO_TASTE,
  type BowTasteDocument,
  type BowTrait,
  type TasteDocument,
  type TasteOf,
  type Trait,
} from '#core/instruments/taste'
import { askPart, askDesk } from '../worker/client'
import type { PartDocuments } from '#core/desk/part'
import { useDocuments } from './documents'
import { useParts } from './parts'
import { useStudio } from './studio'

/** Milliseconds without another word. */
const QUIET = 1500

export const useTaste = defineStore('taste', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const studio = useStudio()

  /** Learns as long as the bench is open. Stop with the function it returns. */
  function follow() {
    const stops = [
      onceQuiet(() => part.recipe?.played.pins.fingers, fingers.learn),
      onceQuiet(() => {
        const pins = part.recipe?.played.pins
        return pins && JSON.stringify([pins.joins, pins.strokes])
      }, bow.learn),
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

  /** One taste: learned of a word, a line of it switched off or on, all of it forgotten. */
  function tasteOf<T extends string, D extends TasteOf<T>>(
    now: () => D,
    keep: (taste: D | typeof NO_TASTE) => Promise<void>,
    decide: (asked: PartDocuments, id: string, taste: D) => Promise<D>,
    relearn: (taste: D) => Promise<D>,
  ) {
    return {
      async learn(id: string) {
        const { asked } = part
        if (!asked) return
        await studio.load()
        await keep(await decide(asked, id, now()))
      },
      async turn(trait: T, on: boolean) {
        const off = on ? now().off.filter(o => o !== trait) : [...now().off, trait]
        await keep(await relearn({ ...now(), off }))
      },
      forget: () => keep(NO_TASTE),
    }
  }
  const fingers = tasteOf<Trait, TasteDocument>(
    () => studio.studio.taste,
    taste => studio.edit(() => ({ taste })),
    (asked, id, taste) => askPart('decide', asked, id, taste),
    taste => askDesk(desk => desk.relearn(taste)),
  )
  const bow = tasteOf<BowTrait, BowTasteDocument>(
    () => studio.studio.bowTaste,
    bowTaste => studio.edit(() => ({ bowTaste })),
    (asked, id, taste) => askPart('decideBow', asked, id, taste),
    taste => askDesk(desk => desk.relearnBow(taste)),
  )

  return { follow, fingers, bow }
})
