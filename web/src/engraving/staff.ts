/** One line of staff notation, drawn by the engraving library; returns where every event stands so that our own marks can be set to it. */
import Vex from 'vexflow/bravura'
import { isZero, mod } from '#core/music/fraction'
import { alterations, signature, type Key } from '#core/music/key'
import { beatLength, type Metre } from '#core/music/metre'
import { diatonic, type Pitch, type Step } from '#core/music/pitch'
import type { Placed, PlacedMeasure } from '#core/music/timeline'
import type { NoteEvent, Tune, TuneEvent } from '#core/music/tune'
import { drawSlurs, drawTies } from './slurs'
import { valuesOf, writtenLength } from './values'

const V = Vex.Flow

export interface Anchor {
  readonly x: number
  /** Top and bottom of the note with its stem. */
  readonly top: number
  readonly bottom: number
  /** Its highest and lowest head. */
  readonly headTop: number
  readonly headBottom: number
  /** Its grace notes, in order. */
  readonly graces?: readonly { readonly x: number; readonly top: number }[]
}

export interface StaffSystem {
  readonly measures: readonly PlacedMeasure[]
  readonly events: ReadonlyMap<number, readonly Placed[]>
  readonly first: boolean
  /** The metre is shown where it is new. */
  readonly previous?: PlacedMeasure
}

export interface DrawnStaff {
  readonly anchors: ReadonlyMap<string, Anchor>
  /** x of the left edge of every measure, and of the right edge of the last. */
  readonly bars: readonly number[]
  readonly top: number
  readonly bottom: number
  /** y of the first line of words, below the staff. */
  readonly wordsTop: number
  readonly wordLines: number
}

export type Ctx = ReturnType<InstanceType<typeof V.Renderer>['getContext']>
export type VexNote = InstanceType<typeof V.StaveNote> | InstanceType<typeof V.GhostNote>

const TUPLET_ROOM = 26

const KEY_SPECS = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#']
export const keySpec = (k: Key) => KEY_SPECS[Math.max(-7, Math.min(7, signature(k))) + 7]!

/** How much width a measure asks for. */
export const measureWeight = (events: readonly Placed[]) =>
  Math.max(
    2.2,
    events.reduce((t, p) => t + 0.75 + Math.min(1.2, (p.event.duration.n / p.event.duration.d) * 0.55), 0.6),
  )

export interface StaffOptions {
  readonly tune: Tune
  readonly x: number
  readonly y: number
  readonly width: number
}

export function drawStaff(ctx: Ctx, system: StaffSystem, o: StaffOptions): DrawnStaff {
  const anchors = new Map<string, Anchor>()
  const notesById = new Map<string, VexNote[]>()
  const bars: number[] = []
  const weights = system.measures.map(m => measureWeight(system.events.get(m.index) ?? []))
  const staves = layOut(system, o, weights)
  const slurs = o.tune.slurs
  staves.forEach(({ stave, measure }) => {
    bars.push(stave.getX())
    stave.setContext(ctx).draw()
    const events = system.events.get(measure.index) ?? []
    const drawn = drawMeasure(ctx, stave, measure, events, o.tune)
    drawn.forEach((notes, id) => notesById.set(id, notes))
  })
  const last = staves.at(-1)!.stave
  bars.push(last.getX() + last.getWidth())
  notesById.forEach((notes, id) => anchors.set(id, anchorOf(notes[0]!)))
  const arcs = drawSlurs(ctx, slurs, notesById, bars)
  for (const [id, a] of anchors) {
    const over = arcs.filter(arc => a.x >= arc.from && a.x <= arc.to).map(arc => arc.yAt(a.x) - 3)
    if (over.length > 0) anchors.set(id, { ...a, top: Math.min(a.top, ...over) })
  }
  drawTies(ctx, system, notesById)
  const top = staves[0]!.stave.getYForLine(0)
  const bottom = staves[0]!.stave.getYForLine(4)
  const notes = system.measures.flatMap(m => system.events.get(m.index) ?? [])
  // The number of a tuplet stands below its beam.
  const foot = (p: Placed) =>
    (anchors.get(p.event.id)?.bottom ?? 0) + (p.event.tuplet ? TUPLET_ROOM : 0) + markRoom(p.event)
  const lowest = Math.max(bottom, ...notes.map(foot))
  const wordLines = Math.max(
    0,
    ...notes.map(p => (p.event.kind === 'note' ? (p.event.syllables?.length ?? 0) : 0)),
  )
  return { anchors, bars, top, bottom, wordsTop: lowest + 6, wordLines }
}

/** Room that signs under a note take. */
function markRoom(e: TuneEvent): number {
  const marks = e.kind === 'note' ? (e.marks ?? []) : []
  return marks.includes('fermata') ? 20 : marks.some(m => ARTICULATION[m]) ? 8 : 0
}

function layOut(system: StaffSystem, o: StaffOptions, weights: readonly number[]) {
  const total = weights.reduce((a, b) => a + b, 0)
  const { measures } = system
  const heads = measures.map((m, i) => headOf(m, i === 0 ? null : measures[i - 1]!, i === 0, system))
  const headWidth = heads.reduce((t, h) => t + h.width, 0)
  const free = Math.max(60, o.width - headWidth)
  let x = o.x
  return measures.map((measure, i) => {
    const width = heads[i]!.width + (free * weights[i]!) / total
    const stave = new V.Stave(x, o.y, width, { space_above_staff_ln: 0, fill_style: 'currentColor' })
    const h = heads[i]!
    if (h.clef) stave.addClef(o.tune.clef)
    if (h.key) stave.addKeySignature(keySpec(measure.key))
    if (h.metre) stave.addTimeSignature(`${measure.metre.beats}/${measure.metre.unit}`)
    barlines(stave, measure, measures[i + 1])
    stave.setStyle({ strokeStyle: 'currentColor', fillStyle: 'currentColor' })
    x += width
    return { stave, measure }
  })
}

/** What stands at the left of a measure, and the room it takes. */
function headOf(m: PlacedMeasure, before: PlacedMeasure | null, first: boolean, system: StaffSystem) {
  const reference = before ?? system.previous ?? null
  const sharps = Math.abs(signature(m.key))
  const key = first || (reference !== null && signature(reference.key) !== signature(m.key))
  const metre = reference === null || sameMetre(reference.metre, m.metre) === false
  const width =
    (first ? 38 : 0) + (key ? 8 + sharps * 10 : 0) + (metre ? 24 : 0) + (m.measure.repeatStart ? 14 : 0)
  return { clef: first, key, metre, width }
}

const sameMetre = (a: Metre, b: Metre) => a.beats === b.beats && a.unit === b.unit

function barlines(
  stave: InstanceType<typeof V.Stave>,
  { measure }: PlacedMeasure,
  next: PlacedMeasure | undefined,
) {
  const { type } = V.Barline
  stave.setBegBarType(measure.repeatStart ? type.REPEAT_BEGIN : type.NONE)
  if (measure.repeatEnd) stave.setEndBarType(type.REPEAT_END)
  else if (measure.barline === 'final') stave.setEndBarType(type.END)
  else if (measure.barline === 'double') stave.setEndBarType(type.DOUBLE)
  else stave.setEndBarType(next?.measure.repeatStart ? type.NONE : type.SINGLE)
}

function drawMeasure(
  ctx: Ctx,
  stave: InstanceType<typeof V.Stave>,
  m: PlacedMeasure,
  events: readonly Placed[],
  tune: Tune,
): Map<string, VexNote[]> {
  const byEvent = new Map<string, VexNote[]>()
  if (events.length === 0) return byEvent
  const accidental = accidentals(m.key)
  for (const p of events) byEvent.set(p.event.id, notesOf(p, tune, accidental))
  const notes = [...byEvent.values()].flat()
  const tuplets = tupletsOf(events, byEvent)
  const voice = new V.Voice({ num_beats: 4, beat_value: 4 }).setMode(V.Voice.Mode.SOFT).addTickables(notes)
  const beams = beamsOf(m, events, byEvent)
  const room = stave.getNoteEndX() - stave.getNoteStartX() - 12
  new V.Formatter().joinVoices([voice]).format([voice], Math.max(20, room))
  voice.draw(ctx, stave)
  beams.forEach(b => b.setContext(ctx).draw())
  tuplets.forEach(t => t.setContext(ctx).draw())
  return byEvent
}

const ACCIDENTAL: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: 'n', 1: '#', 2: '##' }

/** Which accidental a pitch needs here: null when the key or the bar gives it already. */
function accidentals(key: Key): (p: Pitch) => string | null {
  const byKey: Record<Step, number> = alterations(key)
  const inBar = new Map<number, number>()
  return p => {
    const given = inBar.get(diatonic(p)) ?? byKey[p.step]
    inBar.set(diatonic(p), p.alter)
    return given === p.alter ? null : ACCIDENTAL[p.alter]!
  }
}

const keyOf = (p: Pitch) => `${p.step.toLowerCase()}/${p.octave}`

function notesOf(p: Placed, tune: Tune, accidental: (p: Pitch) => string | null): VexNote[] {
  const { event } = p
  return valuesOf(writtenLength(event)).map((value, i) => {
    if (event.kind === 'rest') {
      if (event.hidden) return new V.GhostNote({ duration: value.name, dots: value.dots })
      const middle = { treble: 'b/4', alto: 'c/4', tenor: 'a/3', bass: 'd/3' }[tune.clef]
      const rest = new V.StaveNote({
        keys: [middle],
        duration: `${value.name}r`,
        dots: value.dots,
        clef: tune.clef,
      })
      return dotted(rest, value.dots)
    }
    // Grace notes come first in the bar, and so do their accidentals.
    const graceSigns = i === 0 ? (event.grace ?? []).map(accidental) : []
    const keys = event.heads.map(h => keyOf(h.pitch))
    const note = new V.StaveNote({
      keys,
      duration: value.name,
      dots: value.dots,
      clef: tune.clef,
      auto_stem: true,
    })
    if (i === 0) {
      event.heads.forEach((h, k) => {
        const sign = accidental(h.pitch)
        if (sign) note.addModifier(new V.Accidental(sign), k)
      })
      decorate(note, event, tune, graceSigns)
    }
    return dotted(note, value.dots)
  })
}

function dotted(note: InstanceType<typeof V.StaveNote>, dots: number) {
  for (let d = 0; d < dots; d++) V.Dot.buildAndAttach([note], { all: true })
  return note
}

const ARTICULATION: Partial<Record<string, string>> = {
  staccato: 'a.',
  tenuto: 'a-',
  accent: 'a>',
  fermata: 'a@a',
}

function decorate(
  note: InstanceType<typeof V.StaveNote>,
  event: NoteEvent,
  tune: Tune,
  graceSigns: readonly (string | null)[],
) {
  for (const mark of event.marks ?? []) {
    const code = ARTICULATION[mark]
    if (code) note.addModifier(new V.Articulation(code).setPosition(V.Modifier.Position.BELOW))
  }
  if (event.grace?.length) {
    const graces = event.grace.map(
      g =>
        new V.GraceNote({
          keys: [keyOf(g)],
          duration: '8',
          clef: tune.clef,
          slash: event.grace!.length === 1,
        }),
    )
    graceSigns.forEach((sign, i) => sign && graces[i]!.addModifier(new V.Accidental(sign), 0))
    const group = new V.GraceNoteGroup(graces, false)
    if (graces.length > 1) group.beamNotes()
    note.addModifier(group)
  }
}

function tupletsOf(events: readonly Placed[], byEvent: ReadonlyMap<string, VexNote[]>) {
  const groups = new Map<string, { notes: VexNote[]; actual: number; normal: number }>()
  for (const { event } of events) {
    if (!event.tuplet) continue
    const g = groups.get(event.tuplet.group) ?? {
      notes: [],
      actual: event.tuplet.actual,
      normal: event.tuplet.normal,
    }
    g.notes.push(...byEvent.get(event.id)!)
    groups.set(event.tuplet.group, g)
  }
  return [...groups.values()].map(
    g =>
      new V.Tuplet(g.notes as InstanceType<typeof V.StaveNote>[], {
        num_notes: g.actual,
        notes_occupied: g.normal,
        bracketed: false,
        location: V.Tuplet.LOCATION_BOTTOM,
      }),
  )
}

/** Beams within a beat; pairs of beats of 4/4 and the halves of a measure of eighths are joined as players read them. */
function beamsOf(m: PlacedMeasure, events: readonly Placed[], byEvent: ReadonlyMap<string, VexNote[]>) {
  const beat = beatLength(m.metre)
  const span = m.metre.unit === 4 && m.metre.beats % 2 === 0 ? { n: 2 * beat.n, d: beat.d } : beat
  const groups: InstanceType<typeof V.StaveNote>[][] = []
  let open: InstanceType<typeof V.StaveNote>[] = []
  const close = () => {
    if (open.length > 1) groups.push(open)
    open = []
  }
  for (const p of events) {
    const notes = byEvent.get(p.event.id)!
    const short =
      p.event.kind === 'note' && notes.length === 1 && writtenLength(p.event).n / writtenLength(p.event).d < 1
    if (!short || isZero(mod(p.inMeasure, span))) close()
    if (short) open.push(notes[0] as InstanceType<typeof V.StaveNote>)
  }
  close()
  return groups.map(g => new V.Beam(g, true))
}

function anchorOf(note: VexNote): Anchor {
  if (!(note instanceof V.StaveNote))
    return { x: note.getAbsoluteX(), top: 0, bottom: 0, headTop: 0, headBottom: 0 }
  const box = note.getYs()
  const stem = note.isRest() ? box : [note.getStemExtents().topY, note.getStemExtents().baseY, ...box]
  const graces = gracesOf(note)
  return {
    x: (note.getNoteHeadBeginX() + note.getNoteHeadEndX()) / 2,
    top: Math.min(...stem) - 5,
    bottom: Math.max(...stem) + 5,
    headTop: Math.min(...box),
    headBottom: Math.max(...box),
    ...(graces.length > 0 && { graces }),
  }
}

/** Where the grace notes of a drawn note stand. */
const gracesOf = (note: InstanceType<typeof V.StaveNote>) =>
  note
    .getModifiersByType('GraceNoteGroup')
    .flatMap(m => (m as InstanceType<typeof V.GraceNoteGroup>).getGraceNotes())
    .map(g => {
      const own = g as InstanceType<typeof V.StaveNote>
      return { x: (own.getNoteHeadBeginX() + own.getNoteHeadEndX()) / 2, top: own.getStemExtents().topY }
    })
