/** The parts that are open: the one in use, which the bench is about, and those a page shows beside it. */
import { defineStore } from 'pinia'
import { inject, provide, type InjectionKey } from 'vue'
import type { Arrangement } from '#core/arrangement/recipe'
import type { PartDocuments } from '#core/desk/part'
import { useDocuments } from './documents'
import { openPart, type OpenPart } from './openPart'

export const useParts = defineStore('parts', () => {
  const docs = useDocuments()
  return { inUse: openPart(() => docs.arrangementId) }
})

/** A part whose documents are there. */
export type PartHere = Omit<OpenPart, 'recipe' | 'asked'> & {
  readonly recipe: Arrangement
  readonly asked: PartDocuments
}

const HERE: InjectionKey<OpenPart> = Symbol('part')

/** Everything below this component is about the arrangement of this id; more than one may stand on a page. */
export function providePart(id: () => string): OpenPart {
  const part = openPart(id)
  provide(HERE, part)
  return part
}

/**
 * The part this component is about: the nearest one provided, else the one in use. To be called where a tune
 * is open.
 * @throws where none is
 */
export function usePart(): PartHere {
  const part = inject(HERE, null) ?? useParts().inUse
  if (!part.recipe) throw new Error('No part is open here.')
  return part as PartHere
}
