/** How Debian's Chromium is started on a machine without network or monitor. */
export const chromium = {
  executablePath: process.env.GRADUS_CHROMIUM ?? '/usr/bin/chromium',
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
