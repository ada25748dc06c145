/** Plays what it is given, and says where it is. It knows plain data only: no bench, no documents. */
import { useRafFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import type { EventId } from '#core/music/ids'
import { toNumber } from '#core/music/fraction'
import { secondsPerQuarter } from '#core/music/metre'
import { placeEvents } from '#core/music/timeline'
import type { Place } from '#core/playback/clock'
import type { Mix } from '#core/playback/mixer'
import { noteAt } from '#core/playback/program'
import { composed, type Composed, type Playable, type PlaySettings } from './playable'
import type { Player } from './player'

/** One of several things heard in turn. */
export interface Turn {
  readonly name: string
  readonly playable: Playable
  /** What it plays is what the page shows: the marks follow it. */
  readonly shown: boolean
}

/**
 * @param playable what is played when nothing else is asked for; null while there is nothing
 * @param silent for tests and quiet rooms: the clock runs, nothing is heard
 */
export function usePlayer(
  playable: () => Playable | null,
  settings: Ref<PlaySettings>,
  silent: () => boolean,
) {
  const state = ref<'stopped' | 'loading' | 'counting' | 'playing'>('stopped')
  const problem = ref('')
  const count = ref('')
  /** Event that sounds now, and the place in quarters of the tune as it is drawn, for the lanes. */
  const playing = ref<EventId | null>(null)
  const writtenAt = ref<number | null>(null)
  const turns = shallowRef<readonly Turn[]>([])
  /** What the turn that is heard is called. */
  const turn = computed(() => turns.value[0]?.name ?? '')
  let player: Player | null = null
  let now: Sounding | null = null

  const rateOf = ({ tempo }: Playable) => settings.value.tempo / 100 / secondsPerQuarter(tempo)
  const volume = () => (silent() ? 0 : settings.value.volume)

  /** Counts what is asked for, so that an answer that comes late is known as such. */
  let asked = 0

  async function start(turn: Turn, loops: boolean) {
    const music = composed(turn.playable, settings.value)
    if (music.program.music === 0) {
      // A passage of rests alone is passed over.
      if (turns.value.length > 1) return hear(turns.value.slice(1))
      stop()
      problem.value = 'There is nothing to play yet.'
      return
    }
    state.value = 'loading'
    const mine = ++asked
    try {
      player ??= new (await import('./player')).Player()
      const recorded = await player.ready(music.tracks, settings.value.mix)
      // Stopped, or asked for something else, while the sounds were fetched.
      if (mine !== asked) return
      problem.value = recorded
        ? ''
        : 'The recorded strings could not be loaded; a made-up sound plays instead.'
      player.setVolume(volume())
      const { notes } = music.leader
      const first = notes.find(n => n.event === turn.playable.from)
      now = { ...music, turn, starts: startsOf(turn.playable) }
      player.start({
        program: music.program,
        rate: rateOf(turn.playable),
        loops,
        from: first && first !== notes[0] ? toNumber(first.start) : 0,
        withIntro: true,
      })
      state.value = music.program.intro.length > 0 ? 'counting' : 'playing'
      follow.resume()
    } catch (e) {
      if (mine !== asked) return
      problem.value = `The sound can’t be started: ${e instanceof Error ? e.message : String(e)}`
      stop()
    }
  }

  /** What is there, in a loop if that is wished. */
  async function play() {
    const own = playable()
    if (own) await start({ name: '', playable: own, shown: true }, settings.value.loop)
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
    if (list[0]) void start(list[0], false)
  }

  const toggle = () => (state.value === 'stopped' ? void play() : stop())

  const follow = useRafFn(
    () => {
      const place = player?.place()
      if (!place || !now) return
      if (place.part === 'over') return hear(turns.value.slice(1))
      const at = momentOf(now, place)
      state.value = place.part === 'intro' ? 'counting' : 'playing'
      count.value = at.count
      if (place.part === 'intro' || !now.turn.shown) return
      writtenAt.value = at.written
      if (at.event === playing.value) return
      playing.value = at.event
      // How late the mark comes after the sound: read by the bench.
      if (at.event !== null) performance.mark('nokta:cursor', { detail: (at.late / rateNow()!) * 1000 })
    },
    { immediate: false },
  )

  /** The tempo may be changed while it plays, on the page as well as here. */
  const rateNow = () => {
    const own = now?.turn.shown && playable()
    return now && rateOf(own || now.turn.playable)
  }
  watch([() => settings.value.tempo, () => playable()?.tempo], () => {
    const rate = state.value === 'stopped' ? null : rateNow()
    if (rate !== null) player?.setRate(rate)
  })
  watch(
    () => settings.value.volume,
    () => player?.setVolume(volume()),
  )
  watch(
    () => settings.value.mix,
    mix => player?.mix(mix),
    { deep: true },
  )

  /** What would be heard now, as a WAV file. */
  async function exportWav(): Promise<Blob> {
    const own = playable()
    if (!own) throw new Error('there is nothing to play yet')
    return wavOf(composed(own, settings.value), rateOf(own), settings.value.mix)
  }

  return { state, problem, count, turn, playing, writtenAt, play, hear, stop, toggle, exportWav }
}

/** What sounds now. */
interface Sounding extends Composed {
  readonly turn: Turn
  readonly starts: Starts
}

/** Where the music is, as the page shows it. */
function momentOf({ program, turn, starts }: Sounding, place: Place) {
  if (place.part === 'intro') {
    const beat = program.intro.events.findLast(e => e.start <= place.at)
    return { count: beat?.kind === 'click' ? beat.count : '', event: null, written: null, late: 0 }
  }
  const leader = turn.playable.parts[0]!.id
  const note = place.at < program.music ? noteAt(program.body, leader, place.at) : null
  const there = note && starts.get(note.event)
  const late = note ? place.at - note.start : 0
  return {
    count: place.at >= program.music ? 'your turn' : '',
    event: note?.event ?? null,
    /** Quarters of the tune as it is drawn. */
    written: there ? there.start + Math.min(there.length, late) : null,
    /** Quarters since the note began. */
    late,
  }
}

async function wavOf({ program, tracks }: Composed, rate: number, mix: Mix): Promise<Blob> {
  const [{ render }, { writeWav }] = await Promise.all([import('./player'), import('#core/formats/wav')])
  const buffer = await render(program, rate, tracks, mix)
  const channels = Array.from({ length: buffer.numberOfChannels }, (_, i) => buffer.getChannelData(i))
  return new Blob([writeWav(channels, buffer.sampleRate) as Uint8Array<ArrayBuffer>], { type: 'audio/wav' })
}

/** By event: when it begins in the tune as it is drawn, and how long it is, in quarters. */
type Starts = ReadonlyMap<EventId, { readonly start: number; readonly length: number }>
const startsOf = ({ parts }: Playable): Starts =>
  new Map(
    placeEvents(parts[0]!.tune).map(p => [
      p.event.id,
      { start: toNumber(p.start), length: toNumber(p.event.duration) },
    ]),
  )
