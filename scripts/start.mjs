/** `npm start`: your own shelf, in ./data/shelf or NOKTA_DATA. */
import { join } from 'node:path'
import { ensureBuild, ensurePackages, root, run } from './setup.mjs'

ensurePackages()
ensureBuild()
run('node', ['--import', 'tsx', 'server/main.ts'], {
  NOKTA_DATA: process.env.NOKTA_DATA ?? join(root, 'data'),
})
