import type { IncomingMessage } from 'node:http';
import { describe, expect, test } from 'vitest';
import { z } from 'zod';
import { readConfig } from '../config.ts';
import { asFailure } from '../db/pool.ts';
import { Failure, failures } from './failure.ts';
import { ownHosts, refusalFor } from './guard.ts';
import { openApi } from './openapi.ts';
import { readInput } from './read-input.ts';

describe('settings', () => {
  const good = { DATABASE_URL: 'postgresql://x' };
  test('have sensible defaults', () => {
    expect(readConfig(good, [], '/app/dist')).toMatchObject({
      port: 7300,
      host: '127.0.0.1',
      benchEntry: '/app/dist/bench.js',
      benchSpeed: 1,
      logLevel: 'info',
    });
    expect(readConfig({ ...good, PORT: '0', DEEP_PATCH_DATA: '/data' }, ['--new-key'], '/app')).toMatchObject({
      port: 0,
      dataDir: '/data',
    });
  });
  test.each([
    [{ PORT: '70000' }, 'PORT is 70000'],
    [{ PORT: 'http' }, 'PORT is http'],
    [{ BENCH_SPEED: '0.5' }, 'BENCH_SPEED is 0.5'],
    [{ BENCH_SPEED: 'fast' }, 'BENCH_SPEED is fast'],
    [{ HOST: '0.0.0.0' }, 'HOST is 0.0.0.0'],
    [{ HOST: '192.168.1.5' }, 'HOST is 192.168.1.5'],
    [{ DATABASE_URL: '' }, 'DATABASE_URL is missing'],
  ])('%j is refused in one sentence', (env, told) =>
    expect(() => readConfig({ ...good, ...env }, [], '/app')).toThrow(told),
  );
});

describe('who may ask', () => {
  const own = ownHosts(7300);
  const ask = (headers: Record<string, string>) => refusalFor({ headers } as unknown as IncomingMessage, own);
  test.each([
    [{ host: '127.0.0.1:7300' }, undefined],
    [{ host: 'localhost:7300', origin: 'http://localhost:7300' }, undefined],
    [{ host: '[::1]:7300' }, undefined],
    [{ host: '127.0.0.1:7300', 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate' }, undefined],
    [{}, 'WRONG_HOST'],
    [{ host: '127.0.0.1' }, 'WRONG_HOST'],
    [{ host: '127.0.0.1:7301' }, 'WRONG_HOST'],
    [{ host: '127.0.0.1.evil.example:7300' }, 'WRONG_HOST'],
    [{ host: '127.0.0.1:7300', origin: 'null' }, 'WRONG_ORIGIN'],
    [{ host: '127.0.0.1:7300', origin: '127.0.0.1:7300' }, 'WRONG_ORIGIN'],
    [{ host: '127.0.0.1:7300', origin: 'https://127.0.0.1:7300' }, 'WRONG_ORIGIN'],
    [{ host: '127.0.0.1:7300', origin: 'http://127.0.0.1:7301' }, 'WRONG_ORIGIN'],
    [{ host: '127.0.0.1:7300', 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'cors' }, 'WRONG_ORIGIN'],
  ])('%j: %s', (headers, refusal) => expect(ask(headers)).toBe(refusal));
});

describe('failures', () => {
  test('each has a status, a title and what to do, and stands in the description', () => {
    const text = JSON.stringify(openApi());
    for (const [code, { status, title, todo }] of Object.entries(failures)) {
      expect([code, status >= 400 && status < 600, /^[A-Z].*[^.]$/.test(title), /^[A-Z].*\.$/.test(todo)]).toEqual([
        code,
        true,
        true,
        true,
      ]);
      expect(text).toContain(`"${code}"`);
    }
  });

  const thrown = (code: string, message = 'x') => Object.assign(new Error(message), { code });
  test.each([
    [thrown('ECONNREFUSED'), 'DATABASE_AWAY'],
    [thrown('57P01'), 'DATABASE_AWAY'],
    [thrown('08006'), 'DATABASE_AWAY'],
    [thrown('', 'Connection terminated unexpectedly'), 'DATABASE_AWAY'],
    [thrown('', 'timeout exceeded when trying to connect'), 'DATABASE_AWAY'],
    [thrown('23503'), 'DANGLING'],
    [thrown('22P02'), 'BROKEN_ROW'],
    [thrown('23514'), 'BROKEN_ROW'],
    [thrown('53100'), 'DISK_FULL'],
    [thrown('55P03'), 'DATABASE_BUSY'],
    [thrown('57014'), 'DATABASE_BUSY'],
    [new Failure('SHOW_NOT_FOUND'), 'SHOW_NOT_FOUND'],
  ])('what the driver throws becomes a row of the catalogue: %s', (error, code) =>
    expect((asFailure(error) as Failure).code).toBe(code),
  );
  test('an own mistake stays what it is', () => {
    const mistake = new TypeError('undefined is not a function');
    expect([asFailure(mistake), asFailure('text')]).toEqual([mistake, 'text']);
  });

  test('input is read whole or refused with every fault and its place', () => {
    const schema = z.strictObject({ a: z.int(), b: z.strictObject({ c: z.string() }) });
    expect(readInput(schema, { a: 1, b: { c: 'x' } })).toEqual({ a: 1, b: { c: 'x' } });
    const refused = () => readInput(schema, { a: 'x', b: { c: 1 }, d: 2 });
    expect(refused).toThrow(Failure);
    try {
      refused();
    } catch (error) {
      expect((error as Failure).facts['faults']).toMatchObject([{ at: 'a' }, { at: 'b.c' }, { at: '' }]);
    }
  });
});
