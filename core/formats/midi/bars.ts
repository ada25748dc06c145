/** Notes on a grid cut at barlines and beats into written values, with rests between. */
import { spellInKey } from '#core/music/edit/spelling'
import { add, compare, frac, sub, toNumber, ZERO, type Fraction } from '#core/music/fraction'
import { sameKey, type Key } from '#core/music/key'
import { measureLength, type Metre } from '#core/music/metre'
import type { Midi } from '#core/music/pitch'
import type { Measure, TuneEvent } from '#core/music/tune'
import type { Slot } from './grid'

/** What holds from a time on, in quarters; the first from the beginning. */
export interface Changes {
  readonly metres: readonly { readonly at: Fraction; readonly metre: Metre }[]
  readonly keys: readonly { readonly at: Fraction; readonly key: Key }[]
}

export interface Barred {
  readonly measures: Measure[]
  readonly lastId: number
  /** For every slot the event it begins, and the number of its measure. */
  readonly begins: readonly { readonly id: string; readonly measure: number }[]
}

/** A change of metre within a measure ends it there; one of key waits for the next barline. */
export function barred(slots: readonly Slot[], changes: Changes): Barred {
  return new Bars(changes).run(slots)
}

class Bars {
  private ids = 0
  private readonly measures: Measure[] = []
  private events: TuneEvent[] = []
  private signs: Pick<Measure, 'key' | 'metre'> = {}
  private used = ZERO
  private now = ZERO
  private group: { id: string; beat: number } | null = null
  /** Changes that are done. */
  private metreAt = 0
  private keyAt = 0

  constructor(private readonly changes: Changes) {}

  run(slots: readonly Slot[]): Barred {
    const begins = slots.map(s => {
      this.fill(s.start, [])
      const begin = { id: `n${this.ids + 1}`, measure: this.measures.length + 1 }
      this.fill(s.end, s.notes)
      return begin
    })
    if (this.events.length > 0) this.fill(add(this.now, this.room()), [])
    return { measures: this.measures, lastId: this.ids, begins }
  }

  private metre = () => this.changes.metres[this.metreAt]!.metre
  private key = () => this.changes.keys[this.keyAt]!.key

  /** To the next barline, or the change of metre before it. */
  private room(): Fraction {
    const next = this.changes.metres[this.metreAt + 1]
    const left = sub(measureLength(this.metre()), this.used)
    const until = next && sub(next.at, this.now)
    return until && compare(until, left) < 0 ? until : left
  }

  private fill(until: Fraction, notes: readonly Midi[]) {
    while (compare(this.now, until) < 0) {
      const length = nextValue(sub(until, this.now), this.room(), this.now)
      this.put(length, notes, compare(add(this.now, length), until) < 0)
    }
  }

  private put(length: Fraction, notes: readonly Midi[], tied: boolean) {
    const triplet = this.now.d % 3 === 0 || length.d % 3 === 0
    const beat = Math.floor(toNumber(this.now))
    const id = `n${++this.ids}`
    if (!triplet) this.group = null
    else if (this.group?.beat !== beat) this.group = { id: `t${++this.ids}`, beat }
    const common = {
      id,
      duration: length,
      ...(this.group && { tuplet: { group: this.group.id, actual: 3, normal: 2 } }),
    }
    const heads = notes.map(m => ({ pitch: spellInKey(m, this.key()), ...(tied && { tied }) }))
    this.events.push(heads.length === 0 ? { kind: 'rest', ...common } : { kind: 'note', ...common, heads })
    const room = this.room()
    this.used = add(this.used, length)
    this.now = add(this.now, length)
    if (compare(length, room) >= 0) this.close()
  }

  private close() {
    this.measures.push({ id: `m${++this.ids}`, events: this.events, ...this.signs })
    this.events = []
    this.used = ZERO
    const { metres, keys } = this.changes
    const [metre, key] = [this.metre(), this.key()]
    while (metres[this.metreAt + 1] && compare(metres[this.metreAt + 1]!.at, this.now) <= 0) this.metreAt++
    while (keys[this.keyAt + 1] && compare(keys[this.keyAt + 1]!.at, this.now) <= 0) this.keyAt++
    const [nextMetre, nextKey] = [this.metre(), this.key()]
    const other = nextMetre.beats !== metre.beats || nextMetre.unit !== metre.unit
    this.signs = { ...(other && { metre: nextMetre }), ...(!sameKey(key, nextKey) && { key: nextKey }) }
  }
}

const VALUES = [
  frac(4),
  frac(3),
  frac(2),
  frac(3, 2),
  frac(1),
  frac(3, 4),
  frac(1, 2),
  frac(1, 4),
  frac(1, 8),
]

/** The longest plain value that fits before the barline; thirds of a beat stay inside their beat. */
function nextValue(wanted: Fraction, room: Fraction, now: Fraction): Fraction {
  const fits = compare(wanted, room) <= 0 ? wanted : room
  const inBeat = sub(frac(Math.floor(now.n / now.d) + 1), now)
  if (now.d % 3 === 0) return compare(fits, inBeat) <= 0 ? fits : inBeat
  if (fits.d % 3 === 0) {
    const whole = frac(Math.floor(toNumber(fits)))
    return now.d === 1 && whole.n > 0
      ? nextValue(whole, room, now)
      : compare(fits, inBeat) <= 0
        ? fits
        : inBeat
  }
  return VALUES.find(v => compare(v, fits) <= 0) ?? fits
}
