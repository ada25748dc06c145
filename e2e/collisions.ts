/**
 * Looks on drawn pages for marks that stand on each other: bounding boxes of all text, of our own signs, and
 * of the notes.
 */

export interface Collision {
  readonly page: number
  readonly a: string
  readonly b: string
  /** Of the overlap, in hundredths of a millimetre. */
  readonly width: number
  readonly height: number
}

/**
 * Runs in the page: `pages` selects the drawn pages. Boxes are in millimetres of paper; an overlap of less
 * than `least` in one direction is no collision.
 */
export function collisionsOn({
  pages,
  least,
}: {
  readonly pages: string
  readonly least: number
}): Collision[] {
  interface Box {
    readonly name: string
    readonly kind: 'text' | 'sign' | 'note' | 'barline'
    /** Parts of one sign may touch. */
    readonly group: Element | null
    readonly l: number
    readonly r: number
    readonly t: number
    readonly b: number
  }
  const found: Collision[] = []
  document.querySelectorAll(pages).forEach((svg, page) => {
    const whole = svg.getBoundingClientRect()
    const mm = 25.4 / 96 / (whole.width / Number(svg.getAttribute('width')))
    const boxOf = (e: Element, name: string, kind: Box['kind'], cut = 0): Box => {
      const r = e.getBoundingClientRect()
      const [t, b] = [(r.top - whole.top) * mm, (r.bottom - whole.top) * mm]
      return {
        name,
        kind,
        group: e.closest('.low-high, .phrase-mark, .section, .ossia, .vf-keysignature, .vf-timesignature'),
        l: (r.left - whole.left) * mm,
        r: (r.right - whole.left) * mm,
        t: t + cut * (b - t),
        b: b - cut * (b - t),
      }
    }
    // The box of a text has room for letters with tails; what is drawn of digits and letters is its middle.
    const texts = [...svg.querySelectorAll('text')].filter(
      e => !e.closest('.vf-stave, .vf-stavenote, .vf-tuplet') && (e.textContent ?? '').trim() !== '',
    )
    const boxes: Box[] = [
      ...texts.map(e => boxOf(e, e.textContent!.trim(), 'text', 0.24)),
      ...[
        ...svg.querySelectorAll(
          '.bow-mark, .breath-comma, .open-string, .position-bracket > path, .hold-sign > *, .block-sign > *, .phrase-mark > circle, .low-high > path, .shift-arrow',
        ),
      ].map(e =>
        boxOf(e, e.getAttribute('class') ?? e.parentElement?.getAttribute('class') ?? e.tagName, 'sign'),
      ),
      ...[...svg.querySelectorAll('.vf-stavebarline path')].map(e => boxOf(e, 'dot of a repeat', 'sign')),
      // A barline is thin: what reaches over it by more than the least stands on it.
      ...[...svg.querySelectorAll('.vf-stavebarline rect')]
        .map(e => boxOf(e, 'a barline', 'barline'))
        .map(b => ({ ...b, l: b.l - least, r: b.r + least })),
      ...[...svg.querySelectorAll('.vf-clef path, .vf-keysignature path, .vf-timesignature path')].map(e =>
        boxOf(e, 'a sign before the notes', 'sign'),
      ),
      ...[...svg.querySelectorAll('.vf-stavenote path')].map(e => boxOf(e, 'note', 'note')),
    ].filter(b => b.r > b.l && b.b >= b.t)
    boxes.sort((x, y) => x.l - y.l)
    for (const [i, x] of boxes.entries()) {
      if (x.l < 0 || x.r > whole.width * mm || x.b > whole.height * mm)
        found.push({ page, a: x.name, b: 'the edge of the paper', width: 0, height: 0 })
      for (let k = i + 1; k < boxes.length && boxes[k]!.l < x.r; k++) {
        const y = boxes[k]!
        if (x.kind === 'note' && y.kind === 'note') continue
        // Of a barline it is asked whether notes stand on it.
        const kinds = [x.kind, y.kind]
        if (kinds.includes('barline') && !kinds.includes('note')) continue
        if (x.group !== null && x.group === y.group) continue
        const width = Math.min(x.r, y.r) - y.l
        const height = Math.min(x.b, y.b) - Math.max(x.t, y.t)
        if (width > least && height > least)
          found.push({
            page,
            a: x.name,
            b: y.name,
            width: Math.round(width * 100),
            height: Math.round(height * 100),
          })
      }
    }
  })
  return found
}
