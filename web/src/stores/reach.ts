/**
 * Which tunes of the shelf a learner can play or learn from: each fingered for them once, as long as neither
 * the tune nor the learner changes.
 */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Learner } from '#core/instruments/learner'
import type { TuneListItem } from '#contract/documents'
import { api } from '../api/client'
import { askDesk } from '../worker/client'
import type { ReachView } from '#core/desk/views'
import { useStudio } from './studio'

/** The server lists so many at once. */
const MOST_LISTED = 500

export const useReach = defineStore('reach', () => {
  const studio = useStudio()
  /** By id of the tune, for the learner asked about last. */
  const found = shallowRef<ReadonlyMap<string, ReachView>>(new Map())
  const progress = ref<{ done: number; of: number } | null>(null)
  const known = new Map<string, ReachView>()
  let run = 0

  async function of(tune: TuneListItem, learner: Learner): Promise<ReachView> {
    const key = JSON.stringify([tune.id, tune.updatedAt, learner, studio.tableOf(learner.instrument)])
    const before = known.get(key)
    if (before) return before
    const { tune: doc } = await api.tune(tune.id)
    const reach = await askDesk(desk =>
      desk.reach(doc, learner, studio.context, studio.tableOf(learner.instrument)),
    )
    known.set(key, reach)
    return reach
  }

  /**
   * One tune after another; a later call, or `cancel`, ends it. Stops at the first for which `until` holds
   * and returns it.
   */
  async function scan(
    tunes: readonly TuneListItem[],
    learner: Learner,
    until: (r: ReachView) => boolean = () => false,
  ): Promise<TuneListItem | null> {
    const mine = ++run
    found.value = new Map()
    progress.value = { done: 0, of: tunes.length }
    try {
      for (const [i, tune] of tunes.entries()) {
        const reach = await of(tune, learner)
        if (mine !== run) return null
        found.value = new Map(found.value).set(tune.id, reach)
        progress.value = { done: i + 1, of: tunes.length }
        if (until(reach)) return tune
      }
      return null
    } finally {
      if (mine === run) progress.value = null
    }
  }
  /**
   * The first tune of the whole shelf, read page by page, for which `until` holds; null where there is none,
   * undefined where it was cancelled.
   */
  async function firstOnShelf(
    learner: Learner,
    until: (r: ReachView) => boolean,
  ): Promise<TuneListItem | null | undefined> {
    for (let offset = 0; ;) {
      const { tunes, total } = await api.shelf({ limit: MOST_LISTED, offset })
      const mine = run + 1
      const tune = await scan(tunes, learner, until)
      if (tune) return tune
      if (mine !== run) return undefined
      offset += tunes.length
      if (tunes.length === 0 || offset >= total) return null
    }
  }
  function cancel() {
    run++
    progress.value = null
  }

  return { found, progress, scan, firstOnShelf, cancel }
})
