/** docs/cli.md, made of the table of verbs: `npm run manual` writes it, a test compares it. */
import { READABLE } from '#core/formats/fileKinds'
import { usage, type Verb } from './verb'

const cell = (text: string) => text.replaceAll('|', '\\|')

function verbText(v: Verb): string[] {
  const rows = Object.entries(v.options).map(([name, o]) => {
    const flag = `${o.short ? `-${o.short}, ` : ''}--${name}${o.value ? ` ${o.value}` : ''}`
    return `| \`${cell(flag)}\` | ${cell(o.what)}${o.multiple ? ' (may be given several times)' : ''} |`
  })
  return [
    `## ${v.name}`,
    '',
    `\`${usage(v)}\``,
    '',
    v.what,
    '',
    ...(rows.length > 0 ? ['| option | what it says |', '| --- | --- |', ...rows, ''] : []),
  ]
}

export const manual = (verbs: readonly Verb[]): string =>
  [
    '# Nokta from a shell',
    '',
    '`npm run -s nokta -- VERB FILE… [options]` in the project, or `nokta VERB FILE… [options]` after',
    '`npm run build:cli && npm pack` and `npm install --global` of the package that makes. `npm run manual` writes this',
    'page from the table of verbs.',
    '',
    `- It reads ${READABLE.join(', ')}. \`-\` for FILE is the standard input, a folder stands for all such files in it.`,
    '- It prints one JSON document; of several files one each, a line each, and for a folder how many were done.',
    '- `-` for OUT puts what would be written on the standard output, in place of the JSON; `--as ENDING` says its kind.',
    '- An error is one line on the standard error: exit code 2 for bad input, 1 for a mistake of ours. A file that is',
    '  not read within three seconds (and some more for every byte), or within 1 GB of memory, is given up.',
    '- `nokta completion bash` prints what completes verbs, options and values with the Tab key.',
    '',
    ...verbs.flatMap(verbText),
  ].join('\n')
