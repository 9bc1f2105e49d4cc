import { existsSync } from 'node:fs';

/** Debian's Chromium without a window, which is half as heavy; the whole one does as well where it is there already. */
const known = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** Where the browser is in which tests, pictures and measurements run. */
export const browserPath = process.env.CHROMIUM ?? known.find((path) => existsSync(path)) ?? known[0];
