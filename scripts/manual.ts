/** `npm run manual`: docs/cli.md from the table of verbs. */
import { writeFileSync } from 'node:fs'
import { format, resolveConfig } from 'prettier'
import { manual } from '../cli/manual'
import { VERBS } from '../cli/verbs'

const config = await resolveConfig('docs/cli.md')
writeFileSync('docs/cli.md', await format(manual(VERBS), { ...config, parser: 'markdown' }))
