import { existsSync } from 'node:fs'

// The same browser without the parts of a desktop: a quarter less to compute, measured.
const SHELL = '/usr/bin/chromium-headless-shell'

/** How Debian's Chromium is started on a machine without network or monitor. */
export const chromium = {
  executablePath: process.env.GRADUS_CHROMIUM ?? (existsSync(SHELL) ? SHELL : '/usr/bin/chromium'),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}
