/** Debian's Chromium, started so that it asks nothing of any network. */
const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** How Playwright launches it. */
export const CHROMIUM = { executablePath: '/usr/bin/chromium-headless-shell', args };
