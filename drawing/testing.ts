/** A stand-in for the page's document, enough to see what is drawn. */
export class Drawn {
  readonly attributes = new Map<string, string>()
  readonly children: (Drawn | string)[] = []
  constructor(readonly name: string) {}
  setAttribute = (key: string, value: string) => void this.attributes.set(key, value)
  append = (...children: (Drawn | string)[]) => void this.children.push(...children)
  number = (key: string) => Number(this.attributes.get(key))
  all = (name: string): Drawn[] =>
    this.children.flatMap(c =>
      typeof c === 'string' ? [] : [...(c.name === name ? [c] : []), ...c.all(name)],
    )
  get text(): string {
    return this.children.map(c => (typeof c === 'string' ? c : c.text)).join('')
  }
}

/** Draws into a new group. */
export function drawnBy(draw: (g: SVGElement) => void): Drawn {
  const before = globalThis.document
  globalThis.document = {
    createElementNS: (_: string, name: string) => new Drawn(name),
  } as unknown as Document
  try {
    const g = new Drawn('g')
    draw(g as unknown as SVGElement)
    return g
  } finally {
    globalThis.document = before
  }
}
