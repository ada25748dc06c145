/** The studio's own document: read once, saved at every change, taken anew when somebody else was faster. */
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { newStudio, type Studio } from '#core/instruments/studio'
import { api, ApiError } from '../api/client'

export const useStudio = defineStore('studio', () => {
  const stored = shallowRef<Studio | null>(null)
  const problem = ref('')
  let version = 1
  let asked: Promise<void> | null = null
  let saving: Promise<void> = Promise.resolve()

  async function read() {
    const record = await api.studio()
    version = record.version
    stored.value = record.studio
  }

  /** Reads the document once; a failure is told and asked for again next time. */
  function load(): Promise<void> {
    asked ??= read().catch((e: unknown) => {
      asked = null
      problem.value = e instanceof Error ? e.message : String(e)
    })
    return asked
  }

  /** Changes come one after another, each saved over the one before. */
  function edit(changes: Partial<Studio>) {
    stored.value = { ...studio.value, ...changes }
    const mine = stored.value
    saving = saving.then(() => save(mine))
    return saving
  }

  async function save(mine: Studio) {
    try {
      version = (await api.saveStudio(version, mine)).version
      problem.value = ''
    } catch (e) {
      problem.value = e instanceof Error ? e.message : String(e)
      if (e instanceof ApiError && e.code === 'conflict') await read()
    }
  }

  const studio = computed(() => stored.value ?? newStudio())
  return { studio, ready: computed(() => stored.value !== null), problem, load, edit }
})
