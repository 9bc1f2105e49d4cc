import { bringup } from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import jsqr from 'jsqr';
import { expect, test } from 'vitest';
import { sheetsPdf } from './sheets-pdf.ts';

// a CommonJS module: its function is the module or its default
const readQr = (jsqr as typeof jsqr & { default?: typeof jsqr }).default ?? jsqr;

const sheetUrl = 'http://127.0.0.1:7300/shows/harbour-finals/bring-up';

async function pagesOf(show = demoShow()): Promise<string[]> {
  const chunks: Buffer[] = [];
  for await (const chunk of sheetsPdf(show, bringup.bringUp(show), sheetUrl, false)) chunks.push(chunk as Buffer);
  const text = Buffer.concat(chunks).toString('latin1');
  return [...text.matchAll(/stream\n([\s\S]*?)\nendstream/g)]
    .map(([, body = '']) => body)
    .filter((body) => (body.match(/ re\n/g)?.length ?? 0) > 100);
}

/** Draws the squares of a page as a camera would see them, three dots each. */
function bitmapOf(page: string) {
  const squares = [...page.matchAll(/([\d.]+) ([\d.]+) ([\d.]+) [\d.]+ re/g)].map(
    ([, x, y, size]) => [Number(x), Number(y), Number(size)] as const,
  );
  // boxes to tick are larger
  const dots = squares.filter(([, , size]) => size < 6);
  const [left, top] = [Math.min(...dots.map(([x]) => x)), Math.min(...dots.map(([, y]) => y))];
  const module = (dots[0]?.[2] ?? 1) - 0.02;
  const [scale, edge] = [3, 12];
  const width = Math.round((Math.max(...dots.map(([x]) => x)) - left) / module + 1) * scale + edge * 2;
  const data = new Uint8ClampedArray(width * width * 4).fill(255);
  for (const [x, y] of dots)
    for (let dx = 0; dx < scale; dx += 1)
      for (let dy = 0; dy < scale; dy += 1) {
        const column = Math.round((x - left) / module) * scale + edge + dx;
        const row = Math.round((y - top) / module) * scale + edge + dy;
        data.fill(0, (row * width + column) * 4, (row * width + column) * 4 + 3);
      }
  return { data, width };
}

test('every unit with something to do has a page, whose code opens its next step', async () => {
  const plan = bringup.bringUp(demoShow());
  const firsts = new Map<string, string>();
  for (const { kind, deviceId, key } of plan.steps)
    if (kind !== 'computer' && !firsts.has(deviceId)) firsts.set(deviceId, key);
  const codes = (await pagesOf()).flatMap((page) => {
    const { data, width } = bitmapOf(page);
    return readQr(data, width, width)?.data ?? [];
  });
  expect(codes).toEqual([...firsts.values()].map((key) => `${sheetUrl}/${encodeURIComponent(key)}`));
  expect(codes.length).toBeGreaterThan(30);
});

test('no password stands on paper', async () => {
  const show = demoShow();
  const secrets = Object.values(show.services).flatMap(({ secretId }) => secretId ?? []);
  expect(secrets.length).toBeGreaterThan(0);
  const hex = (text: string) => Buffer.from(text, 'latin1').toString('hex');
  const all = (await pagesOf(show)).join('');
  for (const secret of secrets) expect([all.includes(secret), all.includes(hex(secret))]).toEqual([false, false]);
});
