import { readFileSync } from 'node:fs'
import { format, resolveConfig } from 'prettier'
import { expect, it } from 'vitest'
import { manual } from './manual'
import { VERBS } from './verbs'

it('docs/cli.md is what the table of verbs says: “npm run manual” writes it anew', async () => {
  const config = await resolveConfig('docs/cli.md')
  const made = await format(manual(VERBS), { ...config, parser: 'markdown' })
  expect(readFileSync('docs/cli.md', 'utf8')).toBe(made)
})
