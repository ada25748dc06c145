/** `npm run shots`: one current picture of every main view, from the demo data, in docs/screenshots. */
import { ensureBuild, ensureChromium, ensurePackages, run } from './setup.mjs'

ensurePackages()
ensureChromium()
ensureBuild()
run('node', ['--import', 'tsx', 'scripts/shots.ts'])
