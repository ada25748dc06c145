/** The player of the bench: it plays the part in use, and every station follows it. */
import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import type { DerivedView } from '#core/desk/views'
import type { EventId } from '#core/music/ids'
import type { Tune } from '#core/music/tune'
import type { Playable, PlayablePart, PlaySettings } from '../sound/playable'
import { usePlayer as useSound } from '../sound/usePlayer'
import { useDocuments } from './documents'
import { useParts } from './parts'

export const SLOWEST = 25
export const FASTEST = 200

/** Something of the part in use, or of another version of it. */
export interface Passage {
  readonly events: readonly EventId[]
  readonly name: string
  readonly of?: Pick<DerivedView, 'tune' | 'joined' | 'strokes'>
}

/** The track of the tune in the mixer. */
export const TUNE_TRACK = 'tune'

const DEFAULTS: PlaySettings = {
  tempo: 100,
  countIn: 'beats',
  metronome: false,
  loop: false,
  echo: false,
  swing: 50,
  drone: 'none',
  backing: false,
  volume: 0.8,
  mix: {},
}

export const usePlayer = defineStore('player', () => {
  const docs = useDocuments()
  const part = useParts().inUse
  const settings = useStorage<PlaySettings>('nokta.player', { ...DEFAULTS }, undefined, {
    mergeDefaults: true,
  })
  const focused = computed(() => part.phrases.find(p => p.id === part.focus) ?? null)

  function partOf(music: Pick<DerivedView, 'tune' | 'joined' | 'strokes'>): PlayablePart {
    const { instrument, tuning } = part.recipe!.played
    const { tune, joined, strokes } = music
    return { id: TUNE_TRACK, tune, joined, strokes, instrument, tuning }
  }
  /** The focused phrase, the chosen stretch, or all of the tune. */
  function range(): ReadonlySet<EventId> | null {
    if (focused.value) return new Set(focused.value.events)
    return part.selection.length > 1 ? new Set(part.selection) : null
  }
  function inUse(): Playable | null {
    if (!part.result || !part.recipe) return null
    const only = range()
    const from = only ? null : (part.selectedNote?.event ?? null)
    return { parts: [partOf(part.result)], tempo: part.result.tempo, only, from }
  }

  const silent = () => localStorage.getItem('nokta.silent') !== null
  const { hear: hearTurns, ...sound } = useSound(inUse, settings, silent)

  /** One passage after the other. */
  function hear(list: readonly Passage[]) {
    const { result, recipe } = part
    if (!result || !recipe) return
    hearTurns(
      list.map(({ events, name, of }) => ({
        name,
        shown: of === undefined,
        playable: { parts: [partOf(of ?? result)], tempo: result.tempo, only: new Set(events), from: null },
      })),
    )
  }
  /** A tune of its own: a warm-up. */
  function hearTune(tune: Tune) {
    if (!part.result || !part.recipe) return
    const parts = [partOf({ tune, joined: [], strokes: [] })]
    const tempo = part.result.tempo
    hearTurns([{ name: '', shown: false, playable: { parts, tempo, only: null, from: null } }])
  }

  // Another tune, another arrangement: what plays belongs to the one before.
  watch([() => docs.tuneId, () => docs.arrangementId], sound.stop)

  return { settings, focused, ...sound, hear, hearTune }
})
