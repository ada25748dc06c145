/** For tests: a tune in one line, to be compared at a glance. */
import { metreName } from '#core/music/metre'
import { formatPitch } from '#core/music/pitch'
import type { Measure, Tune, TuneEvent } from '#core/music/tune'

/**
 * "C4 D4/2 | z2": pitches with their lengths in quarters (1 is left out), marks after them, signs of a
 * measure before it.
 */
export const said = (t: Tune) =>
  t.measures.map(m => `${signs(m)}${m.events.map(event).join(' ')}${m.repeatEnd ? ' :|' : ''}`).join(' | ')

const length = ({ duration: { n, d } }: TuneEvent) =>
  d === 1 ? (n === 1 ? '' : `*${n}`) : n === 1 ? `/${d}` : `*${n}/${d}`

function event(e: TuneEvent): string {
  const chord = e.chord ? `"${e.chord}"` : ''
  const remarks = (e.remarks ?? []).map(r => `^${r}`).join('')
  if (e.kind === 'rest') return `${chord}${e.hidden ? 'x' : 'z'}${length(e)}${remarks}`
  const heads = e.heads.map(h => formatPitch(h.pitch) + (h.tied ? '-' : '')).join('+')
  const grace = e.grace ? `{${e.grace.map(formatPitch).join('')}}` : ''
  const more = [
    ...(e.marks ?? []),
    e.dynamic,
    e.finger,
    ...(e.syllables ?? []).map(s => s && s.text + (s.hyphen ? '-' : '')),
  ]
  return `${chord}${grace}${heads}${length(e)}${more
    .filter(x => x !== undefined && x !== null)
    .map(x => `'${x}`)
    .join('')}${remarks}`
}

function signs(m: Measure): string {
  const way = [
    m.segno && 'segno',
    m.coda && 'coda',
    m.fine && 'fine',
    m.toCoda && 'toCoda',
    m.jump,
    m.repeatTimes && `${m.repeatTimes} times`,
  ].filter(Boolean)
  return [
    m.label !== undefined && `<${m.label}>`,
    m.repeatStart && '|:',
    m.endings && `[${m.endings.join()}]`,
    m.key && `K:${m.key.step}`,
    m.metre && `M:${metreName(m.metre)}`,
    ...way,
  ]
    .filter(Boolean)
    .map(x => `${String(x)} `)
    .join('')
}
