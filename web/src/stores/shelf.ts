import { defineStore } from 'pinia'
import { ref } from 'vue'
import { newArrangement } from '#core/arrangement/recipe'
import { sizeOf, writtenFor } from '#core/instruments/instruments'
import type { Tune } from '#core/music/tune'
import type { TuneListItem } from '#contract/api'
import { api } from '../api/client'

export const useShelf = defineStore('shelf', () => {
  const tunes = ref<readonly TuneListItem[]>([])
  const state = ref<'loading' | 'ready' | 'failed'>('loading')
  const problem = ref('')

  async function load() {
    try {
      tunes.value = (await api.tunes()).tunes
      state.value = 'ready'
    } catch (e) {
      state.value = 'failed'
      problem.value = e instanceof Error ? e.message : String(e)
    }
  }

  /** Puts a tune on the shelf with a first arrangement for the instrument it is written for; returns its id. */
  async function add(tune: Tune, source: string | null): Promise<string> {
    const instrument = writtenFor(tune)
    const made = await api.createTune(
      source,
      tune,
      newArrangement(instrument, sizeOf(instrument).name, 'As written'),
    )
    return made.id
  }

  async function putAway(id: string) {
    await api.putAway(id)
    await load()
  }

  async function bringBack(id: string) {
    await api.bringBack(id)
    await load()
  }

  return { tunes, state, problem, load, add, putAway, bringBack }
})
