/** Small SVG builder. Attributes are numbers or words; numbers are rounded so that files stay readable. */
const NS = 'http://www.w3.org/2000/svg'
export type Attributes = Readonly<Record<string, string | number | undefined>>

const round = (v: string | number) => (typeof v === 'number' ? Math.round(v * 100) / 100 : v)

export function el(
  name: string,
  attributes: Attributes = {},
  children: readonly (SVGElement | string)[] = [],
): SVGElement {
  const e = document.createElementNS(NS, name)
  for (const [k, v] of Object.entries(attributes)) if (v !== undefined) e.setAttribute(k, String(round(v)))
  e.append(...children)
  return e
}

export const line = (x1: number, y1: number, x2: number, y2: number, more: Attributes = {}) =>
  el('line', { x1, y1, x2, y2, stroke: 'currentColor', 'stroke-width': 1, ...more })

export interface TextStyle {
  readonly size: number
  readonly bold?: boolean
  readonly italic?: boolean
  readonly anchor?: 'start' | 'middle' | 'end'
  readonly fill?: string
}

export const TEXT_FACE = 'Atkinson Hyperlegible'

export const text = (x: number, y: number, content: string, s: TextStyle) =>
  el(
    'text',
    {
      x,
      y,
      'font-family': TEXT_FACE,
      'font-size': s.size,
      'font-weight': s.bold ? 'bold' : undefined,
      'font-style': s.italic ? 'italic' : undefined,
      'text-anchor': s.anchor ?? 'middle',
      fill: s.fill ?? 'currentColor',
    },
    [content],
  )
