/** Whether keys belong to a text that is being written, not to the page. */
/** A box that is ticked takes no text: keys go on working after it was clicked. */
const ticked = (target: HTMLElement) =>
  target instanceof HTMLInputElement && /^(checkbox|radio)$/.test(target.type)

/** A text box, a text editor, or anything in an open dialog or list. */
export const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) && !ticked(target)) ||
    target.closest('.cm-editor, .v-overlay') !== null)
