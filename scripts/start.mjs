/** `npm start`: your own shelf, in ./data or NOKTA_DATA. */
import { join } from 'node:path'
import { ensureBuild, ensurePackages, root, stay } from './setup.mjs'

ensurePackages()
ensureBuild()
stay(process.execPath, ['dist/server/main.js'], {
  NOKTA_DATA: process.env.NOKTA_DATA ?? join(root, 'data'),
})
