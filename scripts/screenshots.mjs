// One current picture of each main view from the demo data, into docs/screenshots: npm run screenshots
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { chromium } from '@playwright/test';
import { browserPath } from './browser.mjs';
import { root } from './prepare.mjs';

const port = 4199;
const base = `http://127.0.0.1:${port}`;
const shots = [
  ['shows', '/', 'night'],
  ['rig', '/shows/harbour-finals/rig/camera-3', 'night'],
  ['unit', '/shows/harbour-finals/rig/camera-3/page', 'chart'],
  ['before-the-site', '/shows/harbour-finals/rig?do=site', 'chart'],
  ['addresses', '/shows/harbour-finals/addresses/control/control-camera-3-lan', 'night'],
  ['bring-up', '/shows/harbour-finals/bring-up/key_in%3Acamera-1', 'night'],
  ['cabling', '/shows/harbour-finals/cabling?see=picture', 'night'],
  ['losses', '/shows/harbour-finals/cabling?see=losses&lost=run%20c-switch-booth-p-24', 'chart'],
  ['links', '/shows/harbour-finals/links/host-to-callers', 'night'],
  ['who-controls-whom', '/shows/harbour-finals/links?see=matrix', 'chart'],
  ['surfaces', '/shows/harbour-finals/surfaces/remote?control=lens', 'night'],
  ['operator-page', '/shows/harbour-finals/operate/faders-left', 'chart'],
  ['cues', '/shows/harbour-finals/cues/cue-6', 'night'],
  ['on-air', '/shows/harbour-finals/on-air/switcher/5', 'night'],
  ['timecode', '/shows/harbour-finals/timecode?hop=clock-to-media', 'chart'],
  ['wall', '/shows/harbour-finals/wall', 'night'],
  ['bench', '/shows/harbour-finals/bench/desk', 'night'],
  ['findings', '/shows/harbour-finals/findings', 'chart'],
  ['as-found', '/shows/harbour-finals/addresses/control/control-camera-2-lan', 'night'],
];

spawnSync('npm', ['run', '--silent', 'build'], { cwd: root, stdio: 'inherit' });
const server = spawn(process.execPath, ['scripts/e2e-server.mjs'], {
  cwd: root,
  env: { ...process.env, PORT: String(port) },
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
const post = async (path, body) => {
  const response = await fetch(`${base}/api${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  return response.json();
};
/** What a technician might find on the quay: some as planned, one straight from its box, two on one address. */
async function takeIn() {
  const { interfaces } = await (await fetch(`${base}/api/shows/harbour-finals`)).json();
  const macOf = (id) => Object.values(interfaces).find(({ deviceId }) => deviceId === id).mac;
  const seen = [
    ['router', '10.61.20.1'],
    ['switch-quay', '10.61.20.2'],
    ['switch-booth', '10.61.20.3'],
    ['remote', '10.61.20.17'],
    ['camera-1', '10.61.20.31'],
    ['camera-2', '10.88.0.40'],
    ['camera-3', '10.61.20.33'],
    ['camera-5', '10.61.20.33'],
    ['desk', '10.61.20.99'],
    ['media', '169.254.7.9'],
  ];
  const about = { names: [], version: null, method: null, roles: [], source: 'listing', at: Date.now() };
  const hosts = seen.map(([id, ip]) => ({ id: macOf(id), mac: macOf(id), ips: [{ ip, prefix: null }], ...about }));
  await post('/shows/harbour-finals/found', { hosts });
}
/** A mix that is under way: faders where somebody left them, two channels muted. */
async function moveFaders() {
  const moves = [96, 88, 104, 40, 112, 64, 72, 20].map((value, at) => ({
    control: `fader-${at + 1}`,
    part: 'whole',
    value,
  }));
  const mutes = [2, 5].map((key) => ({ control: `key-${key}`, part: 'whole', value: 127 }));
  await fetch(`${base}/api/bench/harbour-finals/moves`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ deviceId: 'faders-left', rev: 0, moves: [...moves, ...mutes] }),
  });
}
const browser = await chromium.launch({
  executablePath: browserPath,
  chromiumSandbox: false,
  args: ['--disable-gpu', '--disable-background-networking', '--font-render-hinting=none'],
});
try {
  const show = await (await fetch(`${base}/api/shows/harbour-finals`)).json();
  await post('/bench/harbour-finals/power', { deviceIds: Object.keys(show.devices), on: true });
  for (const linkId of Object.keys(show.links)) await post('/bench/harbour-finals/sound', { linkId });
  for (const [name, path, theme] of shots) {
    if (name === 'as-found') await takeIn();
    if (name === 'cues')
      for (const cueId of ['cue-1', 'cue-3', 'cue-3-5'])
        await post('/bench/harbour-finals/acts', { act: 'cue_go', cueId });
    if (name === 'operator-page') await moveFaders();
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', timezoneId: 'UTC' });
    await page.addInitScript((chosen) => localStorage.setItem('deep-patch-theme', chosen), theme);
    await page.goto(base + path);
    // a worker that is ended while it loads counts as loading for ever
    await page.waitForLoadState('networkidle', { timeout: 4000 }).catch(() => undefined);
    if (name === 'on-air') {
      await page.getByRole('button', { name: 'Take 200 times' }).click();
      await page.getByText(/showed a frozen first frame/).waitFor({ timeout: 60_000 });
    }
    if (name === 'types') await page.getByRole('button', { name: /^Pan-tilt camera/ }).click();
    if (name === 'cabling' || name === 'losses')
      await page.getByRole('application').getByText('Switch quay', { exact: true }).first().waitFor();
    if (name === 'losses') await page.getByRole('button', { name: 'Switch quay', exact: true }).waitFor();
    await page.evaluate('document.fonts.ready.then(() => true)');
    await wait(600);
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
    await page.close();
    console.log(`docs/screenshots/${name}.png from ${path}`);
  }
} finally {
  await browser.close();
  server.kill('SIGTERM');
}
