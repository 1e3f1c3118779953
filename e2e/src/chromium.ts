import type { LaunchOptions } from '@playwright/test';

/** Debian's Chromium, without what it would try to reach outside. */
export const launch: LaunchOptions = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
