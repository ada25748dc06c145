/** The caller's mistake: one line on stderr and exit code 2. */
export class BadInput extends Error {}
