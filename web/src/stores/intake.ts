/** Tunes on their way in: what was pasted, dropped or chosen, and what was taken last. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'

export interface GivenFile {
  readonly name: string
  readonly bytes: Uint8Array
}
export interface Given {
  readonly files: readonly GivenFile[]
  /** Text that was pasted, to be looked over. */
  readonly text: string
}
/** A tune that was just put on the shelf. */
export interface FreshTune {
  readonly id: string
  /** Places in its text that were not understood, or do not add up. */
  readonly doubts: number
}
const NOTHING: Given = { files: [], text: '' }

export const useIntake = defineStore('intake', () => {
  const open = ref(false)
  const given = shallowRef<Given>(NOTHING)
  /** Several tunes that were taken in last, by id: to take them back. */
  const takenIn = shallowRef<readonly string[]>([])
  /** The tune that was just put there, until what comes next was seen. */
  const fresh = shallowRef<FreshTune | null>(null)

  /** The tune that was begun as an empty page, by id: it goes again when nothing is written on it. */
  const begun = ref('')

  function begin(what: Partial<Given> = {}) {
    given.value = { ...NOTHING, ...what }
    open.value = true
  }
  return { open, given, takenIn, fresh, begun, begin }
})

/** Files as they were chosen or dropped. */
export const readFiles = (list: FileList | readonly File[]): Promise<GivenFile[]> =>
  Promise.all([...list].map(async f => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })))
