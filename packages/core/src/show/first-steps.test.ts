import { expect, test } from 'vitest';
import { firstSteps } from './first-steps.ts';
import { showOf, soundRows } from './sample-show.test-data.ts';

const { devices, interfaces, services, networks, addresses, cables, links } = soundRows;
const done = (rows: Parameters<typeof showOf>[0], sounded = 0) =>
  firstSteps(showOf(rows), sounded).flatMap((step) => (step.done ? [step.key] : []));

test('each part of the job is done when it is, and addresses only when none waits for one', () => {
  expect(done({})).toEqual([]);
  const gear = { devices, interfaces, services };
  expect(done(gear)).toEqual(['gear']);
  const waiting = addresses.map((row, at) => (at === 0 ? { ...row, ip: null } : row));
  expect(done({ ...gear, networks, addresses: waiting })).toEqual(['gear', 'networks']);
  // what gets its address from a server or makes its own waits for none
  const served = waiting.map((row, at) => (at === 0 ? { ...row, method: 'dhcp' as const } : row));
  expect(done({ ...gear, networks, addresses: served })).toEqual(['gear', 'networks', 'addresses']);
  const all = { ...gear, networks, addresses, cables, links };
  expect(done(all)).toEqual(['gear', 'networks', 'addresses', 'links', 'cables']);
  expect(done(all, 1)).toEqual(['gear', 'networks', 'addresses', 'links', 'cables', 'bench']);
});
