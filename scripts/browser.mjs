/** Where the browser is in which tests, pictures and measurements run: Debian's Chromium without a window, and half as heavy. */
export const browserPath = process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell';
