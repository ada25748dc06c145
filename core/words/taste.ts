/** What was learned of a teacher, as a teacher would say it. */
import type { Evidence } from '#core/taste/learn'
import type { BowTrait, Trait } from '#core/instruments/taste'

const WORDS: Readonly<Record<Trait | BowTrait, readonly [rather: string, ratherNot: string]>> = {
  openQuick: [
    'you leave open strings ringing in quick notes',
    'you stop quick notes where an open string is at hand',
  ],
  openLong: ['you leave long notes on open strings', 'you stop long notes, to warm them'],
  away: ['you leave first position for a line', 'you keep to first position'],
  shift: ['you move the hand', 'you keep the hand where it is'],
  crossingSlurred: ['you cross strings under a slur', 'you keep a slur on one string'],
  crossing: ['you cross strings', 'you stay on a string'],
  reach: ['you reach out of the hand’s frame', 'you keep the fingers in the hand’s frame'],
  slide: ['you let a finger slide to the next note', 'you give each note its own finger'],
  slur: ['you slur where Nokta would not', 'you leave notes apart where Nokta would slur'],
  hook: ['you hook two notes in one bow', 'you do without hooks'],
  lift: ['you lift the bow and set it anew', 'you leave the bow on the string'],
  part: ['you part written slurs', 'you keep written slurs whole'],
}

/** "you keep to first position: 14 of 16 times". */
export const evidenceWords = ({ trait, rather, times, of }: Evidence<Trait | BowTrait>): string =>
  `${WORDS[trait][rather ? 0 : 1]}: ${times} of ${of} ${of === 1 ? 'time' : 'times'}`
