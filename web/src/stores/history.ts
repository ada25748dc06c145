/** Undo and redo over immutable snapshots. */
export interface History<T> {
  readonly past: readonly T[]
  readonly present: T
  readonly future: readonly T[]
  /** Name of the last edit: edits of the same name in one go are undone together. */
  readonly group: string | null
}

export const begin = <T>(present: T): History<T> => ({ past: [], present, future: [], group: null })

/** A new present. With the same `group` as the edit before it joins that edit. */
export function record<T>(h: History<T>, present: T, group: string | null = null): History<T> {
  if (present === h.present) return h
  const joins = group !== null && group === h.group
  return { past: joins ? h.past : [...h.past, h.present], present, future: [], group }
}

/** Every state of it, as another function of each. */
export const moved = <T>(h: History<T>, how: (state: T) => T): History<T> => ({
  past: h.past.map(how),
  present: how(h.present),
  future: h.future.map(how),
  group: null,
})

export function undo<T>(h: History<T>): History<T> {
  const before = h.past.at(-1)
  return before === undefined
    ? h
    : { past: h.past.slice(0, -1), present: before, future: [h.present, ...h.future], group: null }
}

export function redo<T>(h: History<T>): History<T> {
  const [next, ...future] = h.future
  return next === undefined ? h : { past: [...h.past, h.present], present: next, future, group: null }
}
