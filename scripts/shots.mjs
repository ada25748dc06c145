/** `npm run shots`: one current picture of every main view, from the demo data, in docs/screenshots. */
import { ensureBuild, ensureDebian, ensurePackages, run } from './setup.mjs'

ensurePackages()
ensureDebian()
ensureBuild()
run('node', ['--import', 'tsx', 'scripts/shots.ts'])
