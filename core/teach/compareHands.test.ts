import { ASSUMED_HANDS } from '#core/arrangement/context'
import { describe, expect, it } from 'vitest'
import { derive } from '#core/arrangement/derive'
import { withSchools } from '#core/arrangement/edits'
import { newArrangement, type Arrangement } from '#core/arrangement/recipe'
import { HAND_MODEL } from '#core/instruments/handModel'
import { tuneOf } from '#core/fingering/testing'
import { compareHands, handFacts } from './compareHands'

const cello: Arrangement = newArrangement('cello', 'full')
const shifting: Arrangement = withSchools(cello, { reach: 'shift' })
const tune = tuneOf('M:4/4\nK:A clef=bass\nE,F,G,A, G,F,E,2|A,B,CE CB,A,2|')

describe('two arrangements side by side', () => {
  const [own, other] = [derive(tune, cello, ASSUMED_HANDS), derive(tune, shifting, ASSUMED_HANDS)]
  const compared = compareHands(own, other, HAND_MODEL)

  it('count what each asks of the hand', () => {
    expect(compared.now).toEqual(handFacts(own, HAND_MODEL))
    expect(compared.now.reached).toBeGreaterThan(0)
    expect(compared.then.reached).toBe(0)
    expect(compared.then.shifts).toBeGreaterThan(compared.now.shifts)
    expect(compared.then.way).toBeGreaterThan(compared.now.way)
  })
  it('name the notes that change, as they would be', () => {
    const now = new Map(own.fingering.notes.map(n => [n.id, n]))
    const then = new Map(other.fingering.notes.map(n => [n.id, n]))
    expect(compared.changed.length).toBeGreaterThan(0)
    for (const c of compared.changed) {
      expect(then.get(c.id)).toMatchObject({ string: c.string, finger: c.finger, anchor: c.anchor })
      const mine = now.get(c.id)!
      expect([mine.string, mine.finger, mine.anchor]).not.toEqual([c.string, c.finger, c.anchor])
    }
  })
  it('are the same when nothing differs', () =>
    expect(compareHands(own, own, HAND_MODEL)).toMatchObject({
      changed: [],
      now: compared.now,
      then: compared.now,
    }))
  it('hold to less with a slower hand', () => {
    const slow = handFacts(own, { ...HAND_MODEL, settleSeconds: 0.4 })
    const perMinute = (t: string | null) => Number(t!.split('=')[1])
    expect(perMinute(slow.holdsTo)).toBeLessThan(perMinute(compared.now.holdsTo))
  })
})
