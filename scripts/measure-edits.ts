// After one edit in a show of 5,000 units, how long until its findings are right again: npm run measure -- edits
import {
  StandingAnalysis,
  addressing,
  analyse,
  show as core,
  type AnalysisParts,
  type Change,
  type RowChange,
  type Show,
} from '@deep-patch/core';
import { demoShow } from '@deep-patch/demo';
import { diceOf, type Dice } from '../packages/demo/src/rigs/index.test-data.ts';
import { toldDifference } from '../packages/web/src/live/told-analysis.ts';
import { crowd } from './crowd.ts';
import { measureLines } from './measure-lines.ts';

const { tell, show: showLines } = measureLines();
const [edits = 1500, seed = 7] = process.argv.slice(2).map(Number);
const dice = diceOf(seed);

const oneOf = <T extends core.TableName>(show: Show, table: T): core.Row<T> => dice.pick(core.rowsOf(show, table));
const patch = <T extends core.TableName>(
  show: Show,
  table: T,
  field: (row: core.Row<T>) => Partial<core.Content<T>>,
): Change | undefined => {
  const row = oneOf(show, table);
  return core.changeOf(table, [core.updateRow(table, row, field(row))]);
};
const text = (): string => `Note ${dice.below(100_000)}`;
let made = 0;

/** A socket of a switch into which nothing is plugged, a few tries deep. */
function freeSocket(show: Show): readonly [string, string] | undefined {
  for (let tries = 0; tries < 20; tries += 1) {
    const id = `s${dice.below(417)}`;
    const used = new Set(
      core
        .rowsOf(show, 'cables')
        .flatMap((cable) => [
          cable.fromDevice === id ? cable.fromSocket : '',
          cable.toDevice === id ? cable.toSocket : '',
        ]),
    );
    const key = Array.from({ length: 24 }, (_, at) => `p-${at + 1}`).find((socket) => !used.has(socket));
    if (show.devices[id] && key) return [id, key];
  }
  return undefined;
}

const freeIp = (show: Show): string => {
  const taken = new Set(core.rowsOf(show, 'addresses').map(({ ip }) => ip));
  for (;;) {
    const ip = addressing.formatIp(addressing.mustIp('10.40.100.0') + dice.below(10_000));
    if (!taken.has(ip)) return ip;
  }
};

/** A unit with its adapter, its address, its service and its cable, in one change. */
function oneMore(show: Show): Change | undefined {
  const id = `n${(made += 1)}`;
  const place = freeSocket(show);
  const model = show.devices['d4000'] ?? oneOf(show, 'devices');
  return core.changeOf('one more', [
    core.insertRow('devices', { ...core.contentOf(model), id, name: `More ${id}`, unit: null }),
    core.insertRow('interfaces', { id: `${id}-i`, deviceId: id, adapter: 'lan', mac: null }),
    core.insertRow('addresses', {
      ...core.contentOf(oneOf(show, 'addresses')),
      ...{ id: `${id}-a`, interfaceId: `${id}-i`, ip: freeIp(show), held: false },
    }),
    ...(place
      ? [
          core.insertRow('cables', {
            ...core.contentOf(oneOf(show, 'cables')),
            ...{ id: `c-${id}`, fromDevice: id, fromSocket: 'port-1', toDevice: place[0], toSocket: place[1] },
          }),
        ]
      : []),
  ]);
}

function replug(show: Show): Change | undefined {
  const cable = show.cables[`c-d${dice.below(5000)}`];
  const place = freeSocket(show);
  return cable && place
    ? core.changeOf('replug', [core.updateRow('cables', cable, { toDevice: place[0], toSocket: place[1] })])
    : undefined;
}

/** What people do to a show all day, each as often as every other. */
const kinds: Readonly<Record<string, (show: Show, dice: Dice) => Change | undefined>> = {
  'rename a unit': (show) => patch(show, 'devices', () => ({ name: text() })),
  'a note on a unit': (show) => patch(show, 'devices', () => ({ note: text() })),
  'a place': (show) => patch(show, 'devices', () => ({ place: text() })),
  'a version': (show) => patch(show, 'devices', () => ({ firmware: dice.pick(['2.0', '2.1', '3.0']) })),
  'a serial number': (show) => patch(show, 'devices', () => ({ serial: text() })),
  'a unit number': (show) => patch(show, 'devices', () => ({ unit: 10_000 + dice.below(50_000) })),
  'a MAC address': (show) =>
    patch(show, 'interfaces', () => ({ mac: `02:1e:${[10, 20, 30, 40].map((n) => n + dice.below(60)).join(':')}` })),
  'an address': (show) => patch(show, 'addresses', () => ({ ip: freeIp(show) })),
  'hold an address': (show) => patch(show, 'addresses', ({ held }) => ({ held: !held })),
  'a port': (show) => patch(show, 'services', () => ({ receivePort: 80 + dice.below(4) })),
  'a service on or off': (show) => patch(show, 'services', ({ enabled }) => ({ enabled: !enabled })),
  'an account': (show) => patch(show, 'services', () => ({ account: dice.pick(['ops', 'crew']) })),
  'a slot': (show) => patch(show, 'links', () => ({ slot: 1 + dice.below(60) })),
  'a port to send to': (show) => patch(show, 'links', () => ({ port: 80 + dice.below(4) })),
  'a name in a controller': (show) => patch(show, 'links', () => ({ label: text() })),
  'a link that must hold': (show) => patch(show, 'links', ({ mustHold }) => ({ mustHold: !mustHold })),
  'an argument': (show) => patch(show, 'links', () => ({ args: [1 + dice.below(9)] })),
  'a length': (show) => patch(show, 'cables', () => ({ lengthM: 1 + dice.below(90) })),
  'a grade': (show) => patch(show, 'cables', () => ({ grade: dice.pick(['cat5e', 'cat6', 'cat6a'] as const) })),
  'a plug into another socket': replug,
  'a cable less': (show) => core.planRemove(show, 'cables', [`c-d${dice.below(5000)}`], 'a cable less'),
  'a unit more': oneMore,
  'a unit less': (show) => core.planRemove(show, 'devices', [`d${500 + dice.below(4500)}`], 'a unit less'),
  'a link less': (show) => core.planRemove(show, 'links', [oneOf(show, 'links').id], 'a link less'),
};

const rowsOf = (change: Change, rev: number): RowChange[] =>
  change.edits.map(({ table, id, after }) => ({ table, id, row: after && { ...after, rev } }));
const share = (times: readonly number[], part: number): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * part))] ?? 0;
const ms = (value: number): string => `${value.toFixed(value < 10 ? 1 : 0)} ms`;
const megabytes = (): number => {
  globalThis.gc?.();
  return process.memoryUsage().heapUsed / 1e6;
};

let show = crowd(5000);
const whole = share(
  Array.from({ length: 5 }, () => {
    const start = performance.now();
    analyse({ ...show, devices: { ...show.devices } }, core.nothingSeen, 0);
    return performance.now() - start;
  }),
  0.5,
);
const before = megabytes();
const start = performance.now();
const standing = new StandingAnalysis(show, core.nothingSeen, 0);
let known: AnalysisParts = standing.parts();
const built = performance.now() - start;
const held = megabytes() - before;

const byKind = new Map<string, number[]>();
const all: number[] = [];
const names = Object.keys(kinds);
while (all.length < edits) {
  const name = dice.pick(names);
  const change = kinds[name]?.(show, dice);
  if (!change || change.edits.length === 0) continue;
  const rows = rowsOf(change, show.rev + 1);
  const began = performance.now();
  const now = standing.advance(rows, show.rev + 1, core.nothingSeen, 0);
  structuredClone(toldDifference(known, now, standing.touchedLinks));
  const took = performance.now() - began;
  known = now;
  show = core.written(show, change, show.rev + 1);
  all.push(took);
  byKind.set(name, [...(byKind.get(name) ?? []), took]);
}
const textOf = ({ findings }: Pick<AnalysisParts, 'findings'>) =>
  findings
    .map((one) => JSON.stringify(one))
    .sort()
    .join();
const isRight = textOf(analyse(show, core.nothingSeen, 0)) === textOf(known);
for (const [name, times] of [...byKind].sort(([, a], [, b]) => share(b, 0.5) - share(a, 0.5)))
  process.stdout.write(`  ${name}: ${ms(share(times, 0.5))}, at most ${ms(Math.max(...times))} of ${times.length}\n`);
tell(
  `findings right again after one of ${edits} edits, 5,000 units, worked out and told`,
  `half in ${ms(share(all, 0.5))}, 95 of 100 in ${ms(share(all, 0.95))}; the whole takes ${ms(whole)} (${(whole / share(all, 0.95)).toFixed(0)}x)`,
  '95th percentile under 16 ms, or 60 times quicker than the whole on a slow machine',
  share(all, 0.95) < 16 || whole > 60 * share(all, 0.95),
);
tell('after all of them, they are those of the whole analysis', String(isRight), 'true', isRight);
tell('made to stand, 5,000 units', `${ms(built)}, ${held.toFixed(0)} MB`, 'no limit set', true);
measureDemo();
showLines();

/** The same in the show that ships, where the whole is worked out in a moment. */
function measureDemo(): void {
  let own = demoShow();
  const small = new StandingAnalysis(own, core.nothingSeen, 0);
  let last = small.parts();
  const times = Array.from({ length: 400 }, () => {
    const device = oneOf(own, 'devices');
    const change = core.changeOf('note', [core.updateRow('devices', device, { note: text(), place: text() })]);
    const changed = change ? rowsOf(change, own.rev + 1) : [];
    const began = performance.now();
    const now = small.advance(changed, own.rev + 1, core.nothingSeen, 0);
    structuredClone(toldDifference(last, now, small.touchedLinks));
    const took = performance.now() - began;
    last = now;
    if (change) own = core.written(own, change, own.rev + 1);
    return took;
  }).slice(100);
  const wholeDemo = share(
    Array.from({ length: 60 }, () => {
      const began = performance.now();
      analyse({ ...own, devices: { ...own.devices } }, core.nothingSeen, 0);
      return performance.now() - began;
    }).slice(20),
    0.5,
  );
  tell(
    'findings of the demo show right again after one edit, 95th percentile',
    `${ms(share(times, 0.95))}; the whole takes ${ms(wholeDemo)}`,
    'under 8 ms',
    share(times, 0.95) < 8,
  );
}
