/** What plays and how: the player's settings, and the place in the music that every station follows. */
import { useRafFn, useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { toNumber } from '#core/music/fraction'
import { INSTRUMENTS } from '#core/instruments/instruments'
import { homeTuning } from '#core/instruments/tunings'
import { wantedLength } from '#core/bowing/travel'
import { secondsPerQuarter } from '#core/music/metre'
import { tonicClass } from '#core/music/key'
import type { Tune } from '#core/music/tune'
import { performTune, type Performance } from '#core/playback/perform'
import { noteAt, programOf, type Program, type ProgramOptions } from '#core/playback/program'
import { writeWav } from '#core/formats/wav'
import type { Player } from '../sound/player'
import type { DerivedView } from '#core/desk/views'
import { useBench } from './bench'

export const SLOWEST = 25
export const FASTEST = 200

export interface PlaySettings {
  /** Percent of the arrangement's tempo. */
  tempo: number
  countIn: ProgramOptions['countIn']
  metronome: boolean
  loop: boolean
  echo: boolean
  swing: number
  /** 'none', 'tonic', or the index of an open string. */
  drone: string
  backing: boolean
  volume: number
}

type Version = Pick<DerivedView, 'tune' | 'joined' | 'strokes'>
export interface Turn {
  readonly events: readonly string[]
  readonly name: string
  /** Another version than the one on the bench. */
  readonly of?: Version
}

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
}

export const usePlayer = defineStore('player', () => {
  const bench = useBench()
  const settings = useStorage<PlaySettings>('nokta.player', { ...DEFAULTS }, undefined, {
    mergeDefaults: true,
  })
  const state = ref<'stopped' | 'loading' | 'counting' | 'playing'>('stopped')
  const problem = ref('')
  const count = ref('')
  /** Event that sounds now, and the place in quarters of the written tune for the lanes. */
  const playing = ref<string | null>(null)
  const writtenAt = ref<number | null>(null)
  const performance_ = shallowRef<Performance | null>(null)
  const program = shallowRef<Program | null>(null)
  let player: Player | null = null
  /** While a tune of its own is heard (a warm-up), the marks on the bench stay still. */
  let onBench = true

  const quartersPerSecond = computed(() => {
    const tempo = bench.result?.tempo
    return tempo ? settings.value.tempo / 100 / secondsPerQuarter(tempo) : 1.5
  })
  const focused = computed(() => bench.phrases.find(p => p.id === bench.focus) ?? null)

  /** Sounding pitches of the drone that is chosen. */
  function drones(tune: Tune): number[] {
    const { drone } = settings.value
    const { instrument, tuning } = bench.recipe!.played
    const strings = tuning ?? homeTuning(instrument)
    if (drone === 'none') return []
    if (drone !== 'tonic') return strings[Number(drone)] === undefined ? [] : [strings[Number(drone)]!]
    const lowest = strings.at(-1)!
    return [lowest + ((((tonicClass(tune.key) - lowest) % 12) + 12) % 12)]
  }

  function compose(tune: Tune, only?: ReadonlySet<string>, version: Version | null = bench.result) {
    const { writtenAbove } = INSTRUMENTS[bench.recipe!.played.instrument]
    const s = settings.value
    const performed = performTune(tune, {
      writtenAbove,
      swing: s.swing,
      joined: new Set(version?.joined),
      bows: bowsOf(version),
      ...(only && { only }),
    })
    const made = programOf(performed, {
      countIn: s.countIn,
      metronome: s.metronome,
      echo: s.echo,
      drone: drones(tune),
      backing: s.backing,
    })
    return { performed, made }
  }

  /** What the strokes of an arrangement sound like. */
  const bowsOf = (version: Version | null) =>
    new Map(
      version?.strokes.map(s => [
        s.notes[0]!,
        { hook: s.hook, lift: s.lift, speed: Math.abs(s.to - s.from) / wantedLength(s.seconds, 1, false) },
      ]),
    )

  /**
   * What is to be heard in turn before anything else: phrases beside each other, of this arrangement or of
   * another version of the tune.
   */
  const turns = shallowRef<readonly Turn[]>([])
  /** What the turn that is heard is called. */
  const turn = computed(() => turns.value[0]?.name ?? '')

  /** The next of what is heard in turn, the focused phrase, the chosen stretch, or all of the tune. */
  function range(): ReadonlySet<string> | undefined {
    if (turns.value[0]) return new Set(turns.value[0].events)
    if (focused.value) return new Set(focused.value.events)
    return bench.selection.length > 1 ? new Set(bench.selection) : undefined
  }

  async function engine(): Promise<Player> {
    player ??= new (await import('../sound/player')).Player()
    const recorded = await player.ready(bench.recipe!.played.instrument)
    problem.value = recorded ? '' : 'The recorded strings could not be loaded; a made-up sound plays instead.'
    player.setVolume(volume())
    return player
  }

  /** For tests and quiet rooms: the clock runs, nothing is heard. */
  const volume = () => (localStorage.getItem('nokta.silent') ? 0 : settings.value.volume)

  /** Counts what is asked for, so that an answer that comes late is known as such. */
  let asked = 0

  async function play(own: Tune | null = null) {
    if (!bench.result || !bench.recipe) return
    const other = own ? null : (turns.value[0]?.of ?? null)
    const tune = own ?? other?.tune ?? bench.result.tune
    onBench = own === null && other === null
    const { performed, made } = compose(tune, own ? undefined : range(), other ?? bench.result)
    if (made.music === 0) {
      problem.value = 'There is nothing to play yet.'
      return
    }
    state.value = 'loading'
    const mine = ++asked
    try {
      const engine_ = await engine()
      // Stopped, or asked for something else, while the sounds were fetched.
      if (mine !== asked) return
      const chosen = own || range() ? null : bench.selectedNote?.event
      const start = performed.notes.find(n => n.event === chosen)
      const from = start && start !== performed.notes[0] ? toNumber(start.start) : 0
      performance_.value = performed
      program.value = made
      engine_.start({
        program: made,
        rate: quartersPerSecond.value,
        loops: settings.value.loop && !own && turns.value.length === 0,
        from,
        withIntro: true,
      })
      state.value = made.intro.length > 0 ? 'counting' : 'playing'
      follow.resume()
    } catch (e) {
      if (mine !== asked) return
      problem.value = `The sound can’t be started: ${e instanceof Error ? e.message : String(e)}`
      stop()
    }
  }

  function stop() {
    asked++
    player?.stop()
    follow.pause()
    state.value = 'stopped'
    turns.value = []
    playing.value = writtenAt.value = null
    count.value = ''
  }

  /** One after the other. */
  function hear(list: readonly Turn[]) {
    stop()
    turns.value = list
    void play()
  }

  function over() {
    const rest = turns.value.slice(1)
    stop()
    turns.value = rest
    if (rest.length > 0) void play()
  }

  const toggle = () => (state.value === 'stopped' ? void play() : stop())

  /** Start of each written event in the tune as it is drawn, in quarters. */
  const writtenStarts = computed(() => new Map(bench.notes.map(n => [n.event, n])))

  const follow = useRafFn(
    () => {
      const place = player?.place()
      if (!place || !program.value) return
      if (place.part === 'over') return over()
      if (place.part === 'intro') {
        const beat = program.value.intro.events.findLast(e => e.start <= place.at)
        count.value = beat?.kind === 'click' ? beat.count : ''
        state.value = 'counting'
        return
      }
      state.value = 'playing'
      count.value = place.at >= program.value.music ? 'your turn' : ''
      const note = place.at < program.value.music ? noteAt(program.value.body, place.at) : null
      if (!onBench) return
      const written = note && writtenStarts.value.get(note.event)
      writtenAt.value = written ? written.start + Math.min(written.length, place.at - note.start) : null
      const now = note?.event ?? null
      if (now === playing.value) return
      playing.value = now
      // How late the mark comes after the sound: read by the bench.
      if (note)
        performance.mark('nokta:cursor', {
          detail: ((place.at - note.start) / quartersPerSecond.value) * 1000,
        })
    },
    { immediate: false },
  )

  watch(quartersPerSecond, rate => player?.setRate(rate))
  watch(
    () => settings.value.volume,
    () => player?.setVolume(volume()),
  )
  // Another tune, another arrangement: what plays belongs to the one before.
  watch([() => bench.tuneId, () => bench.arrangementId], stop)

  /** What would be heard now, as a WAV file. */
  async function exportWav(): Promise<Blob> {
    const { render } = await import('../sound/player')
    const { made } = compose(bench.result!.tune, range())
    const buffer = await render(made, quartersPerSecond.value, bench.recipe!.played.instrument)
    const channels = Array.from({ length: buffer.numberOfChannels }, (_, i) => buffer.getChannelData(i))
    return new Blob([writeWav(channels, buffer.sampleRate) as Uint8Array<ArrayBuffer>], { type: 'audio/wav' })
  }

  return {
    settings,
    state,
    problem,
    count,
    turn,
    playing,
    writtenAt,
    focused,
    play,
    hear,
    stop,
    toggle,
    exportWav,
  }
})
