/** Completion for a shell, made of the table of verbs. */
import type { Option, Verb } from './verb'

export const SHELLS = ['bash', 'zsh'] as const
export type CompletedShell = (typeof SHELLS)[number]

export const completionHelp = () =>
  [
    `nokta completion ${SHELLS.join('|')}`,
    '',
    'Prints what makes the Tab key complete verbs, options and their values. In ~/.bashrc or ~/.zshrc:',
    '',
    '  eval "$(nokta completion bash)"',
    '',
  ].join('\n')

/** The words an option can have, where they are a list: "violin|viola". */
const choices = ({ value = '' }: Option) =>
  /^[a-z0-9-]+(\|[a-z0-9-]+)+$/i.test(value) ? value.split('|') : []
const quoted = (words: readonly string[]) => `"${words.join(' ')}"`

/** Verbs first, then options by verb, then the values of an option; else files. */
export function completion(shell: CompletedShell, verbs: readonly Verb[]): string {
  const flags = (v: Verb) => [...Object.keys(v.options).map(o => `--${o}`), '--help']
  const values = new Map<string, string[]>()
  for (const v of verbs)
    for (const [name, option] of Object.entries(v.options))
      if (choices(option).length > 0) values.set(`${v.name}:--${name}`, choices(option))
  return [
    ...(shell === 'zsh' ? ['autoload -U +X bashcompinit && bashcompinit'] : []),
    '_nokta() {',
    '  local word="${COMP_WORDS[COMP_CWORD]}" verb="${COMP_WORDS[1]}" words=""',
    '  if [ "$COMP_CWORD" -eq 1 ]; then',
    `    words=${quoted([...verbs.map(v => v.name), 'completion', '--help', '--version'])}`,
    '  else',
    '    case "$verb:${COMP_WORDS[COMP_CWORD-1]}" in',
    ...[...values].map(([at, words]) => `      ${at}) words=${quoted(words)} ;;`),
    `      completion:*) words=${quoted(SHELLS)} ;;`,
    '      *)',
    '        case "$word" in -*)',
    '          case "$verb" in',
    ...verbs.map(v => `            ${v.name}) words=${quoted(flags(v))} ;;`),
    '          esac ;;',
    '        esac ;;',
    '    esac',
    '  fi',
    '  COMPREPLY=($(compgen -W "$words" -- "$word"))',
    '}',
    'complete -o default -F _nokta nokta',
    '',
  ].join('\n')
}
