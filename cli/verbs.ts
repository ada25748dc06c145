/** Every verb of the shell, in the order of the help. */
import type { Verb } from './verb'
import { arrange } from './verbs/arrange'
import { bow } from './verbs/bow'
import { convert } from './verbs/convert'
import { finger } from './verbs/finger'
import { form } from './verbs/form'
import { retune, tapes } from './verbs/instrument'
import { levels } from './verbs/levels'
import { sheet } from './verbs/sheet'
import { show } from './verbs/show'
import { tab } from './verbs/tab'
import { why } from './verbs/why'

export const VERBS: readonly Verb[] = [
  show,
  form,
  finger,
  why,
  bow,
  levels,
  arrange,
  tab,
  sheet,
  convert,
  tapes,
  retune,
]
