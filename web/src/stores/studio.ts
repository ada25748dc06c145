/**
 * What the studio entered: read once, saved part by part at every change; a change that comes too late is
 * made again on what is stored.
 */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, type ComputedRef } from 'vue'
import { ASSUMED_HANDS, type DeriveContext } from '#core/arrangement/context'
import type { BowTaste, HandTaste } from '#core/instruments/taste'
import type { LevelTable } from '#core/grading/demands'
import type { InstrumentId } from '#core/music/tune'
import {
  newStudio,
  PART_FIELDS,
  partOf,
  STUDIO_PARTS,
  type Studio,
  type StudioPart,
} from '#core/instruments/studio'
import { api, ApiError } from '../api/client'

/** What was learned; the very same as long as nothing else is learned, null where nothing is. */
function learnedOnly<T extends object>(of: () => T): ComputedRef<T | null> {
  return computed((before?: T | null) => {
    const learned = of()
    if (Object.keys(learned).length === 0) return null
    return JSON.stringify(learned) === JSON.stringify(before) ? before! : learned
  })
}

export const useStudio = defineStore('studio', () => {
  const studio = shallowRef<Studio>({ ...newStudio(), handModel: ASSUMED_HANDS.model })
  const problem = ref('')
  const handModel = computed(() => studio.value.handModel)
  const taste = learnedOnly<HandTaste>(() => studio.value.taste.learned)
  const bowTaste = learnedOnly<BowTaste>(() => studio.value.bowTaste.learned)
  /** What derivations are told of hands. */
  const context = computed<DeriveContext>(() => ({
    model: handModel.value,
    learner: null,
    ...(taste.value && { taste: taste.value }),
    ...(bowTaste.value && { bowTaste: bowTaste.value }),
  }))
  /** The studio's own order of skills on an instrument. */
  const tableOf = (instrument: InstrumentId): LevelTable => studio.value.levels[instrument] ?? {}
  const levelName = (level: number) => studio.value.levelNames[level - 1] ?? ''
  let versions: Record<StudioPart, number> | null = null
  let asked: Promise<void> | null = null
  let saving: Promise<void> = Promise.resolve()

  async function read() {
    const record = await api.studio()
    versions = { ...record.versions }
    // What is as before stays the very same, so that nothing is worked out anew.
    const { handModel } = record.studio
    const same = JSON.stringify(handModel) === JSON.stringify(studio.value.handModel)
    studio.value = same ? { ...record.studio, handModel: studio.value.handModel } : record.studio
  }

  const failed = (e: unknown) => void (problem.value = e instanceof Error ? e.message : String(e))

  /** Reads the document once; a failure is told and asked for again next time. */
  function load(): Promise<void> {
    asked ??= read().catch((e: unknown) => {
      asked = null
      failed(e)
    })
    return asked
  }

  /** Changes come one after another, each made on what is stored by then. */
  function edit(change: (now: Studio) => Partial<Studio>): Promise<void> {
    saving = saving.then(() => save(change)).catch(failed)
    return saving
  }

  async function save(change: (now: Studio) => Partial<Studio>) {
    await load()
    if (!versions) return
    try {
      await store(change)
    } catch (e) {
      if (!(e instanceof ApiError && e.code === 'conflict')) throw e
      await read()
      await store(change)
    }
    problem.value = ''
  }

  /**
   * Each part that differs afterwards; what is saved counts at once, so that a fault in the next does not
   * undo it.
   */
  async function store(change: (now: Studio) => Partial<Studio>) {
    const next = { ...studio.value, ...change(studio.value) }
    const changed = STUDIO_PARTS.filter(part => PART_FIELDS[part].some(f => next[f] !== studio.value[f]))
    for (const part of changed) {
      const saved = await api.saveStudio(versions![part], partOf(next, part))
      versions![part] = saved.version
      const { part: _, ...fields } = partOf(next, part)
      studio.value = { ...studio.value, ...fields }
    }
  }

  return { studio: computed(() => studio.value), context, tableOf, levelName, problem, load, edit }
})
