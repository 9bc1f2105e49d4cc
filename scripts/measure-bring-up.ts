// The ordered work of setting 500 units that are delivered in eight networks: npm run measure -- bring-up
import { addressing, bringup, show as core, type Show } from '@deep-patch/core';
import { crowd } from './crowd.ts';
import { measureLines } from './measure-lines.ts';

const { tell, show: showLines } = measureLines();
const [units = 500] = process.argv.slice(2).map(Number);

/** The crowd, of which every unit is reached by its page alone, in one of eight networks, and a computer beside it. */
function asDelivered(show: Show): Show {
  const camera = show.types['pan-tilt-camera'];
  if (!camera) throw new Error('no camera');
  const makes = Array.from({ length: 8 }, (_, at): core.DeviceType => ({
    ...camera,
    ...{ id: `make-${at}`, model: `make-${at}`, ways: [{ way: 'web', note: '', alone: false }] },
    factory: {
      ...camera.factory,
      mode: 'static',
      ip: `10.${90 + at}.0.40`,
      prefix: 24,
      linkLocal6: false,
      login: 'none',
    },
  }));
  const devices = Object.values(show.devices).map((device, at) =>
    core.typeOf(show, device)?.kind === 'switch' ? device : { ...device, typeId: `make-${at % 8}` },
  );
  const rows = { ...show, types: { ...withoutOwn(show.types), ...byId(makes) }, devices: byId(devices), links: {} };
  const book = {
    ...core.contentWith('devices', {
      id: 'book',
      typeId: 'technician-computer',
      name: 'Book',
      unit: null,
      place: '',
      firmware: null,
      note: '',
    }),
    rev: 1,
  };
  const its = { id: 'book-i', deviceId: 'book', adapter: 'lan', mac: null, rev: 1 };
  const at = {
    ...core.contentWith('addresses', {
      id: 'book-a',
      interfaceId: 'book-i',
      networkId: 'net',
      ip: '10.40.200.1',
      prefix: null,
      gateway: null,
      held: false,
    }),
    rev: 1,
  };
  const plug = freeSocket(show);
  const cable = {
    ...core.contentWith('cables', {
      id: 'book-c',
      fromDevice: 'book',
      fromSocket: 'port-1',
      ...plug,
      medium: 'copper',
      lengthM: 5,
    }),
    rev: 1,
  };
  return {
    ...rows,
    cables: { ...rows.cables, 'book-c': cable },
    devices: { ...rows.devices, book },
    interfaces: { ...rows.interfaces, 'book-i': its },
    addresses: { ...rows.addresses, 'book-a': at },
  };
}

/** Its switches have no address that anybody plans: as delivered they have none either. */
const withoutOwn = (types: Show['types']): Show['types'] =>
  byId(
    Object.values(types).map((type) =>
      type.forwards ? { ...type, factory: { ...type.factory, mode: 'none' as const, ip: null, prefix: null } } : type,
    ),
  );

/** A socket of a switch into which nothing is plugged. */
function freeSocket(show: Show): { toDevice: string; toSocket: string } {
  const used = new Set(
    core
      .rowsOf(show, 'cables')
      .flatMap((run) => [`${run.fromDevice} ${run.fromSocket}`, `${run.toDevice} ${run.toSocket}`]),
  );
  for (const device of core.rowsOf(show, 'devices').reverse())
    for (const { key, connector } of core.typeOf(show, device)?.forwards
      ? (core.typeOf(show, device)?.sockets ?? [])
      : [])
      if (connector === 'rj45' && !used.has(`${device.id} ${key}`)) return { toDevice: device.id, toSocket: key };
  throw new Error('every socket is in use');
}

const byId = <Row extends { readonly id: string }>(list: readonly Row[]): Record<string, Row> =>
  Object.fromEntries(list.map((row) => [row.id, row]));

function timed<Result>(work: () => Result): readonly [Result, number] {
  const began = performance.now();
  const result = work();
  return [result, performance.now() - began];
}

const show = asDelivered(crowd(units));
const facts = addressing.addressingFacts(show);
const [, copyMs] = timed(() => structuredClone(show));
const [plan, ms] = timed(() => bringup.bringUp(show));
const [step] = plan.steps;
const change = step && bringup.planStepDone(show, facts, plan, step, { by: 'crew', at: 1 });
const applied = change && core.applyChange(show, change);
if (!applied?.ok) throw new Error('nothing to do');
const [, again] = timed(() => bringup.bringUp(applied.show));

tell(
  `${plan.steps.length} steps for ${units} units in their order`,
  `${ms.toFixed(0)} ms, ${(ms / copyMs).toFixed(0)}x a copy`,
  'under 1 s',
  ms < 1000,
);
tell(
  'changes of the computer’s address',
  `${plan.changes}, bound ${plan.bound}, ${plan.exact ? 'every order ruled out' : 'not every order tried'}`,
  'at most a tenth above',
  plan.changes <= plan.bound * 1.1,
);
tell('planned again after one step', `${again.toFixed(0)} ms`, 'under 1 s', again < 1000);
tell(
  'units that are not in the order',
  `${plan.blocked.length} ${[...new Set(plan.blocked.map(({ code }) => code))].join(' ')}`,
);
showLines();
