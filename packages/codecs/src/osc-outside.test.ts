import { execFile } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { existsSync } from 'node:fs';
import { promisify } from 'node:util';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { writeOsc, type OscArg } from './osc.ts';
import { casesOf } from './cases.test-data.ts';

const hasTools = existsSync('/usr/bin/oscsend');
const run = promisify(execFile);

const letters = Array.from('abzÜé 09-_.,"\\/');
const argument: fc.Arbitrary<OscArg> = fc.oneof(
  fc.record({ type: fc.constant('i' as const), value: fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }) }),
  fc.record({ type: fc.constant('f' as const), value: fc.integer({ min: -99_999, max: 99_999 }).map((n) => n / 64) }),
  fc.record({
    type: fc.constant('s' as const),
    value: fc.string({ unit: fc.constantFrom(...letters), minLength: 1, maxLength: 12 }),
  }),
  fc.record({ type: fc.constantFrom('T' as const, 'F' as const) }),
);
const part = fc.string({ unit: fc.constantFrom('a', 'q', '7', '_', '-', '.'), minLength: 1, maxLength: 7 });
const message = fc.record({
  address: fc.array(part, { minLength: 1, maxLength: 4 }).map((parts) => `/${parts.join('/')}`),
  args: fc.array(argument, { maxLength: 6 }),
});

/** What an outside tool puts on the wire for each, one after the other. */
async function sentOutside(messages: readonly { address: string; args: readonly OscArg[] }[]): Promise<Buffer[]> {
  const socket = createSocket('udp4');
  const came: Buffer[] = [];
  await new Promise<void>((done) => void socket.bind(0, '127.0.0.1', done));
  for (const { address, args } of messages) {
    const next = new Promise<Buffer>((done) => void socket.once('message', done));
    const values = args.flatMap((arg) =>
      arg.type === 'i' || arg.type === 'f' || arg.type === 's' ? [String(arg.value)] : [],
    );
    const tags = args.map(({ type }) => type).join('');
    await run('oscsend', ['127.0.0.1', String(socket.address().port), address, ...(tags ? [tags] : []), ...values]);
    came.push(await next);
  }
  socket.close();
  return came;
}

const many = casesOf(1000);

test.skipIf(!hasTools)(
  hasTools
    ? `${many} random messages have the bytes that an outside tool sends`
    : 'Random messages have the bytes that an outside tool sends (skipped: oscsend is not installed)',
  async () => {
    const messages = fc.sample(message, many);
    const came = await sentOutside(messages);
    expect(came.length).toBe(many);
    for (const [at, own] of messages.entries())
      expect([own, Buffer.from(writeOsc(own)).toString('hex')]).toEqual([own, came[at]?.toString('hex')]);
    // every kind of argument was among them
    expect(new Set(messages.flatMap(({ args }) => args.map(({ type }) => type)))).toEqual(new Set('ifsTF'));
  },
  60_000,
);
