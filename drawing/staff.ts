/**
 * One line of staff notation, drawn by the engraving library; returns where every event stands so that our
 * own marks can be set to it.
 */
import type { EventId } from '#core/music/ids'
import { signature, type Key } from '#core/music/key'
import type { Pitch } from '#core/music/pitch'
import type { PlacedMeasure } from '#core/music/timeline'
import type { NoteEvent, Tune, TuneEvent } from '#core/music/tune'
import type { Ahead } from '#core/page/heads'
import { underOneBeam, type Accidental, type NotatedEvent, type NotatedMeasure } from '#core/page/notation'
import type { NoteValue } from '#core/page/values'
import { drawSlurs, drawTies } from './slurs'
import type { Anchor, Ctx, DrawnStaff, StaffSystem, VexNote } from './drawn'
import { V } from './vex'

const TUPLET_ROOM = 26
/** Half the width of what stands over a head. */
const HALF = 6

const KEY_SPECS = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#']
export const keySpec = (k: Key) => KEY_SPECS[Math.max(-7, Math.min(7, signature(k))) + 7]!

export interface StaffOptions {
  readonly tune: Tune
  readonly x: number
  readonly y: number
}

export function drawStaff(ctx: Ctx, system: StaffSystem, o: StaffOptions): DrawnStaff {
  const anchors = new Map<string, Anchor>()
  const notesById = new Map<string, VexNote[]>()
  const bars: number[] = []
  const staves = layOut(system, o)
  staves.forEach((stave, i) => {
    bars.push(stave.getX())
    stave.setContext(ctx).draw()
    const at = new Map(
      system.placed[i]!.columns.flatMap(c => c.events.map(id => [id, o.x + c.x * system.scale] as const)),
    )
    drawMeasure(ctx, stave, system.measures[i]!, at, o.tune).forEach((notes, id) => notesById.set(id, notes))
  })
  const last = staves.at(-1)!
  const bar = last.getX() + last.getWidth()
  bars.push(bar)
  const room = (system.ahead?.width ?? 0) * system.scale
  if (system.ahead) announce(ctx, system.ahead, bar, room, o)
  const signs = new Map(
    system.measures.flatMap(m => m.events.map(e => [e.placed.event.id as string, e.accidentals])),
  )
  notesById.forEach((notes, id) => anchors.set(id, anchorOf(notes[0]!, signs.get(id) ?? [])))
  const line = { from: staves[0]!.getTieStartX(), to: last.getTieEndX() }
  const arcs = drawSlurs(ctx, o.tune, notesById, line)
  for (const [id, a] of anchors) {
    // A digit is as wide as a head: the slur clears all of it.
    const over = arcs
      .filter(arc => a.x >= arc.from - HALF && a.x <= arc.to + HALF)
      .flatMap(arc => [a.x - HALF, a.x, a.x + HALF].map(x => arc.yAt(x) - 3))
    if (over.length > 0) anchors.set(id, { ...a, top: Math.min(a.top, ...over) })
  }
  drawTies(ctx, system, notesById, o.tune, line)
  const top = staves[0]!.getYForLine(0)
  const bottom = staves[0]!.getYForLine(4)
  const notes = system.measures.flatMap(m => m.events.map(e => e.placed))
  // The number of a tuplet stands below its beam.
  const foot = (p: NotatedEvent['placed']) =>
    Math.max(anchors.get(p.event.id)?.bottom ?? 0, hasFermata(p.event) ? bottom : 0) +
    (p.event.tuplet ? TUPLET_ROOM : 0) +
    markRoom(p.event)
  const lowest = Math.max(bottom, ...notes.map(foot))
  const wordLines = Math.max(
    0,
    ...notes.map(p => (p.event.kind === 'note' ? (p.event.syllables?.length ?? 0) : 0)),
  )
  return { anchors, bars, end: bar + room, top, bottom, wordsTop: lowest + 6, wordLines }
}

/** It stands under the staff, wherever its note is. */
const hasFermata = (e: TuneEvent) => e.kind === 'note' && (e.marks ?? []).includes('fermata')

/** Room that signs under a note take. */
function markRoom(e: TuneEvent): number {
  const marks = e.kind === 'note' ? (e.marks ?? []) : []
  return hasFermata(e) ? 20 : marks.some(m => ARTICULATION[m]) ? 8 : 0
}

function layOut(system: StaffSystem, o: StaffOptions) {
  return system.placed.map(({ x, width, head }, i) => {
    const { placed } = system.measures[i]!
    const stave = new V.Stave(o.x + x * system.scale, o.y, width * system.scale, {
      space_above_staff_ln: 0,
      fill_style: 'currentColor',
    })
    if (head.clef) stave.addClef(o.tune.clef)
    else stave.setClefLines(o.tune.clef)
    if (head.key) stave.addKeySignature(keySpec(placed.key), head.cancels ? keySpec(head.cancels) : undefined)
    if (head.metre) stave.addTimeSignature(`${placed.metre.beats}/${placed.metre.unit}`)
    barlines(stave, placed, system.measures[i + 1]?.placed)
    stave.setStyle({ strokeStyle: 'currentColor', fillStyle: 'currentColor' })
    return stave
  })
}

/** Behind the last bar, what the next line begins with. */
function announce(ctx: Ctx, { key, cancels, metre }: Ahead, x: number, width: number, o: StaffOptions) {
  const { NONE } = V.Barline.type
  const stave = new V.Stave(x, o.y, width, { space_above_staff_ln: 0, fill_style: 'currentColor' })
  stave.setClefLines(o.tune.clef)
  if (key) stave.addKeySignature(keySpec(key), cancels ? keySpec(cancels) : undefined)
  if (metre) stave.addTimeSignature(`${metre.beats}/${metre.unit}`)
  stave
    .setBegBarType(NONE)
    .setEndBarType(NONE)
    .setStyle({ strokeStyle: 'currentColor', fillStyle: 'currentColor' })
  stave.setContext(ctx).draw()
}

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

/** Draws the notes of a measure, each with the middle of its heads where the page model has it. */
function drawMeasure(
  ctx: Ctx,
  stave: InstanceType<typeof V.Stave>,
  m: NotatedMeasure,
  at: ReadonlyMap<string | null, number>,
  tune: Tune,
): Map<string, VexNote[]> {
  const byEvent = new Map<string, VexNote[]>()
  if (m.events.length === 0) return byEvent
  for (const e of m.events) byEvent.set(e.placed.event.id, notesOf(e, tune))
  const notes = [...byEvent.values()].flat()
  const tuplets = tupletsOf(m, byEvent)
  const voice = new V.Voice({ num_beats: 4, beat_value: 4 }).setMode(V.Voice.Mode.SOFT).addTickables(notes)
  const beams = m.beams.map(
    ids =>
      new V.Beam(
        ids.map(id => byEvent.get(id)![0] as InstanceType<typeof V.StaveNote>),
        true,
      ),
  )
  new V.Formatter().joinVoices([voice]).format([voice], 100)
  notes.forEach(n => n.setStave(stave))
  byEvent.forEach((own, id) => own.forEach((n, k) => putAt(n, (at.get(id) ?? 0) + k * TIED_APART)))
  voice.draw(ctx, stave)
  beams.forEach(b => b.setContext(ctx).draw())
  tuplets.forEach(t => t.setContext(ctx).draw())
  return byEvent
}

/** From one note to the next of a length that takes more than one. */
const TIED_APART = 26

/** Moves a note so that the middle of its heads is at x. */
function putAt(note: VexNote, x: number) {
  const context = note.getTickContext()
  context.setX(0)
  const heads = note instanceof V.StaveNote
  const middle = heads ? (note.getNoteHeadBeginX() + note.getNoteHeadEndX()) / 2 : note.getAbsoluteX()
  context.setX(x - middle)
}

const ACCIDENTAL: Readonly<Record<Accidental, string>> = { [-2]: 'bb', [-1]: 'b', 0: 'n', 1: '#', 2: '##' }

/** The library's name of a note value. */
const VALUE: Readonly<Record<number, string>> = {
  8: '1/2',
  4: 'w',
  2: 'h',
  1: 'q',
  0.5: '8',
  0.25: '16',
  0.125: '32',
  0.0625: '64',
  0.03125: '128',
}
const nameOf = (v: NoteValue) => VALUE[v.of]!

const keyOf = (p: Pitch) => `${p.step.toLowerCase()}/${p.octave}`

function notesOf({ placed, values, accidentals, graces }: NotatedEvent, tune: Tune): VexNote[] {
  const { event } = placed
  return values.map((value, i) => {
    if (event.kind === 'rest') {
      if (event.hidden) return new V.GhostNote({ duration: nameOf(value), dots: value.dots })
      const middle = { treble: 'b/4', alto: 'c/4', tenor: 'a/3', bass: 'd/3' }[tune.clef]
      const rest = new V.StaveNote({
        keys: [middle],
        duration: `${nameOf(value)}r`,
        dots: value.dots,
        clef: tune.clef,
      })
      return dotted(rest, value.dots)
    }
    const note = new V.StaveNote({
      keys: event.heads.map(h => keyOf(h.pitch)),
      duration: nameOf(value),
      dots: value.dots,
      clef: tune.clef,
      auto_stem: true,
    })
    if (i === 0) {
      accidentals.forEach((sign, k) => {
        if (sign !== null) note.addModifier(new V.Accidental(ACCIDENTAL[sign]), k)
      })
      decorate(note, event, tune, graces)
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
  fermata: 'a@u',
}

function decorate(
  note: InstanceType<typeof V.StaveNote>,
  event: NoteEvent,
  tune: Tune,
  graceSigns: readonly (Accidental | null)[],
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
    graceSigns.forEach((sign, i) => {
      if (sign !== null) graces[i]!.addModifier(new V.Accidental(ACCIDENTAL[sign]), 0)
    })
    const group = new V.GraceNoteGroup(graces, false)
    if (graces.length > 1) group.beamNotes()
    note.addModifier(group)
  }
}

function tupletsOf(m: NotatedMeasure, byEvent: ReadonlyMap<string, VexNote[]>) {
  const groups = new Map<string, { ids: EventId[]; notes: VexNote[]; actual: number; normal: number }>()
  for (const { event } of m.events.map(e => e.placed)) {
    if (!event.tuplet) continue
    const g = groups.get(event.tuplet.group) ?? {
      ids: [],
      notes: [],
      actual: event.tuplet.actual,
      normal: event.tuplet.normal,
    }
    g.ids.push(event.id)
    g.notes.push(...byEvent.get(event.id)!)
    groups.set(event.tuplet.group, g)
  }
  return [...groups.values()].map(
    g =>
      new V.Tuplet(g.notes as InstanceType<typeof V.StaveNote>[], {
        num_notes: g.actual,
        notes_occupied: g.normal,
        bracketed: !underOneBeam(m, g.ids),
        location: V.Tuplet.LOCATION_BOTTOM,
      }),
  )
}

/** How far an accidental stands up from the middle of its head, in units of the drawing. */
const SIGN_HEIGHT: Readonly<Record<Accidental, number>> = { [-2]: 18, [-1]: 18, 0: 15, 1: 15, 2: 6 }

function anchorOf(note: VexNote, accidentals: readonly (Accidental | null)[]): Anchor {
  if (!(note instanceof V.StaveNote))
    return { x: note.getAbsoluteX(), top: 0, bottom: 0, headTop: 0, headBottom: 0 }
  const box = note.getYs()
  const stem = note.isRest() ? box : [note.getStemExtents().topY, note.getStemExtents().baseY, ...box]
  const graces = gracesOf(note)
  const signs = accidentals.flatMap((sign, k) => (sign === null ? [] : [box[k]! - SIGN_HEIGHT[sign]]))
  return {
    x: (note.getNoteHeadBeginX() + note.getNoteHeadEndX()) / 2,
    top: Math.min(...stem) - 5,
    bottom: Math.max(...stem) + 5,
    headTop: Math.min(...box),
    headBottom: Math.max(...box),
    ...(signs.length > 0 && { signTop: Math.min(...signs) }),
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
