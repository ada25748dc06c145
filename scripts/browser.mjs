/** Chromium as the tests and screenshots start it. */
import { chromium } from 'playwright-core'

const FLAGS = [
  '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
  '--disable-component-update', '--disable-sync', '--font-render-hinting=none',
] // prettier-ignore

export const launch = () =>
  chromium.launch({ executablePath: '/usr/bin/chromium', headless: true, args: FLAGS })
