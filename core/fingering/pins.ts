/**
 * Pins of the teacher and rules for stretches as filters of the states; what can't be met comes back as a
 * finding.
 */
import type { Catalogue, PinWhy, SaidRule } from '#core/findings/catalogue'
import { finding, type Finding } from '#core/findings/finding'
import { INSTRUMENTS, lettersOf } from '#core/instruments/instruments'
import { formatPitch } from '#core/music/pitch'
import type { HandState, HeadPlace } from './candidates'
import type { FingeringProblem } from './problem'
import { solveLattice } from '#core/solver/lattice'
import type { FingerPin, FingerPins } from './fingerPin'
import type { PassageRule } from './passageRule'
import { allows, anchorsFor, type Ruled } from './rules'
import type { Tone } from '#core/line/tones'
import type { Filter } from '#core/solver/tables'

export const meetsPin = (p: HeadPlace, pin: FingerPin) =>
  (pin.string === undefined || pin.string === p.string) &&
  (pin.finger === undefined || pin.finger === p.finger)

const meetsAll = (s: HandState, own: readonly (FingerPin | undefined)[]) =>
  s.places.every(p => meetsPin(p, own[p.head] ?? {})) &&
  own.every(pin => pin?.anchor === undefined || pin.anchor === s.anchor)

export function pinFilter(problem: FingeringProblem, pins: FingerPins, findings: Finding[]): Filter {
  return problem.tones.map((tone, i) => {
    const own = tone.heads.map(h => pins[h.id])
    if (own.every(p => p === undefined)) return undefined
    const mask = Uint8Array.from(problem.states[i]!, s => (meetsAll(s, own) ? 1 : 0))
    if (mask.includes(1)) return mask
    const pin = own.find(p => p !== undefined)!
    const mend = {
      kind: 'unpin',
      note: tone.heads[own.indexOf(pin)]!.id,
      what: 'finger',
    } as const
    findings.push(
      finding(
        'finger.pinUnmet',
        'warning',
        { measure: tone.measure, note: tone.id },
        pinValues(problem, tone, pin),
        [mend],
      ),
    )
    return undefined
  })
}

/**
 * The pins' filter narrowed by the rules, one after another. A rule that leaves nothing at a note is waived
 * there and told: the pin on the note, or the rule before, goes first.
 */
export function ruleFilter(problem: FingeringProblem, pinned: Filter, findings: Finding[]): Filter {
  findings.push(...rulesGone(problem))
  if (problem.rules.length === 0) return pinned
  const filter = [...pinned]
  for (const r of problem.rules) {
    const rule =
      r.rule.kind === 'position' && r.rule.anchor === null
        ? { ...r.rule, anchor: bestAnchor(problem, filter, r) }
        : r.rule
    let [waived, clash] = [-1, false]
    for (let i = r.from; i <= r.to; i++) {
      const before = filter[i]
      const own = Uint8Array.from(problem.states[i]!, s => (allows(rule, s) ? 1 : 0))
      const mask = before ? own.map((x, k) => x & before[k]!) : own
      if (mask.includes(1)) filter[i] = mask
      else if (waived < 0) [waived, clash] = [i, own.includes(1)]
    }
    if (waived >= 0) findings.push(ruleFinding(problem, r, waived, clash))
  }
  return filter
}

/** Where the hand lies best when it may not move in a stretch; null when no place has all its notes. */
function bestAnchor(problem: FingeringProblem, filter: Filter, r: Ruled): number | null {
  let best: { anchor: number; total: number } | null = null
  for (const anchor of anchorsFor(problem.states, r)) {
    const masks = [...filter]
    for (let i = r.from; i <= r.to; i++) {
      const before = filter[i]
      masks[i] = Uint8Array.from(problem.states[i]!, (s, k) =>
        s.anchor === anchor && (!before || before[k]) ? 1 : 0,
      )
    }
    if (masks.some((m, i) => i >= r.from && i <= r.to && !m!.includes(1))) continue
    const { total } = solveLattice(problem.lattice, masks)
    if (!best || total < best.total) best = { anchor, total }
  }
  return best?.anchor ?? -1
}

/** A rule as it is spoken of: strings by their names. */
function said({ options }: FingeringProblem, rule: PassageRule['rule']): SaidRule {
  if (rule.kind === 'string')
    return { kind: 'string', string: lettersOf(options.instrument, options.tuning)[rule.string] ?? '?' }
  return rule.kind === 'sound' || rule.kind === 'places' ? rule : { kind: rule.kind }
}

/** Rules whose first or last note is no longer in the tune: they bind nothing until it comes back. */
function rulesGone(problem: FingeringProblem): Finding[] {
  const bound = new Set(problem.rules.map(r => r.index))
  return (problem.options.rules ?? []).flatMap(({ rule, waits }, index) =>
    bound.has(index) || waits
      ? []
      : [
          finding('finger.ruleGone', 'warning', {}, { rule: said(problem, rule) }, [
            { kind: 'dropRule', index },
          ]),
        ],
  )
}

function ruleFinding(problem: FingeringProblem, r: Ruled, i: number, clash: boolean): Finding {
  const tone = problem.tones[i]!
  return finding(
    clash ? 'finger.pinsContradict' : 'finger.ruleUnmet',
    'warning',
    { measure: tone.measure, note: tone.id },
    { rule: said(problem, r.rule), pitch: formatPitch(tone.heads.at(-1)!.pitch) },
    [{ kind: 'dropRule', index: r.index }],
  )
}

function pinValues({ options }: FingeringProblem, tone: Tone, pin: FingerPin): Catalogue['finger.pinUnmet'] {
  const letters = lettersOf(options.instrument, options.tuning)
  const head = tone.heads.at(-1)!
  const [pitch, instrument] = [formatPitch(head.pitch), INSTRUMENTS[options.instrument].name]
  const offset = pin.string === undefined ? null : head.sounding - (options.tuning[pin.string] ?? Infinity)
  const why = (): PinWhy => {
    if (offset !== null && offset < 0) return { is: 'below', pitch }
    if (offset === 0 && pin.finger !== 0) return { is: 'open', pitch }
    if (options.level !== undefined) return { is: 'level', level: options.level }
    return { is: 'notThere', pitch, instrument }
  }
  return {
    string: pin.string === undefined ? null : (letters[pin.string] ?? '?'),
    finger: pin.finger === undefined ? null : String(pin.finger),
    why: why(),
  }
}
