import { expect, test } from 'vitest';
import { applyChange, filledRow, deviceKinds, type Content, type Show } from '../show/index.ts';
import { adapter, address, device, network, showOf, types, typeWith } from '../show/sample-show.test-data.ts';
import { planPlacement } from './plan-placement.ts';
import { proposeBlocks, type BlockIntent } from './propose-blocks.ts';
import { causesOf, waysOut } from './ways-out.ts';

const block = (id: string, first: string, last: string, kinds: Content<'blocks'>['kinds'] = ['camera']) =>
  filledRow('blocks', { id, networkId: 'net', label: id, kinds, first, last });
/** So many cameras that wait, and units that stand already, as `id type ip`. */
function crowd(waiting: number, standing: readonly string[], more: Partial<Parameters<typeof showOf>[0]> = {}): Show {
  const ids = Array.from({ length: waiting }, (_, at) => `cam-${at + 1}`);
  const there = standing.map((line) => line.split(' ') as [string, string, string]);
  return showOf({
    types,
    networks: [network()],
    devices: [
      ...ids.map((id, at) => device(id, 'camera', { unit: at + 1 })),
      ...there.map(([id, type]) => device(id, type)),
    ],
    interfaces: [...ids, ...there.map(([id]) => id)].map(adapter),
    addresses: [
      ...ids.map((id) => address(id, null)),
      ...there.map(([id, , ip]) => address(id, ip, { held: id.startsWith('held') })),
    ],
    ...more,
  });
}
const told = (show: Show) => {
  const placement = planPlacement(show);
  return { causes: causesOf(show, placement), ways: waysOut(show, placement), left: placement.noRoom.length };
};

test('a full block names who is short, how much room there is and who sits there without belonging', () => {
  const show = crowd(4, ['desk desk 10.1.0.21', 'held-host host 10.1.0.22'], {
    blocks: [block('cams', '10.1.0.20', '10.1.0.23', ['camera', 'amplifier'])],
  });
  const { causes, ways, left } = told(show);
  expect(left).toBe(2);
  expect(causes).toEqual([
    { code: 'block_full', network: 'Control', block: 'cams', units: 4, room: 2, squatters: ['desk', 'held-host'] },
  ]);
  expect(ways.map(({ label }) => label)).toEqual([
    'Widen cams to 10.1.0.20 – 10.1.0.25',
    'Let camera stand outside cams on Control',
    'Take the block cams away',
    'Move desk out of it',
    'Release held-host out of it',
  ]);
  const after = ways.map(({ change }) => {
    const applied = applyChange(show, change);
    return applied.ok ? told(applied.show).left : -1;
  });
  expect(after).toEqual([0, 0, 0, 1, 1]);
});

test('a block grows upwards, and downwards where a neighbour or the pool stands above', () => {
  const wider = (more: Parameters<typeof crowd>[2]) =>
    told(crowd(4, [], more))
      .ways.map(({ label }) => label)
      .find((label) => label.startsWith('Widen cams'));
  const cams = block('cams', '10.1.0.20', '10.1.0.21');
  expect(wider({ blocks: [cams] })).toBe('Widen cams to 10.1.0.20 – 10.1.0.23');
  expect(wider({ blocks: [cams, block('next', '10.1.0.23', '10.1.0.30', ['mixer'])] })).toBe(
    'Widen cams to 10.1.0.19 – 10.1.0.22',
  );
  expect(wider({ blocks: [cams], networks: [network({ poolFrom: '10.1.0.22', poolTo: '10.1.0.40' })] })).toBe(
    'Widen cams to 10.1.0.18 – 10.1.0.21',
  );
  expect(
    wider({
      blocks: [
        cams,
        block('next', '10.1.0.22', '10.1.0.30', ['mixer']),
        block('before', '10.1.0.10', '10.1.0.19', ['lighting']),
      ],
    }),
  ).toBeUndefined();
});

test('a full network is widened by one bit where nothing is in the way and it is ours', () => {
  const small = (patch: Partial<Content<'networks'>>, others: Content<'networks'>[] = []) =>
    told(crowd(8, [], { networks: [network({ prefix: 29, ...patch }), ...others] }));
  const { causes, ways, left } = small({});
  expect([left, causes]).toEqual([
    2,
    [{ code: 'network_full', network: 'Control', block: '', units: 8, room: 6, squatters: [] }],
  ]);
  expect(ways.map(({ label }) => label)).toEqual(['Widen Control to 10.1.0.0/28']);
  expect(small({ owner: 'house' }).ways).toEqual([]);
  expect(small({}, [{ ...network({ id: 'b', prefix: 29 }), network: '10.1.0.8' }]).ways).toEqual([]);
  expect(small({}, [{ ...network({ id: 'b', prefix: 29 }), network: '10.1.0.16' }]).ways).toHaveLength(1);
  // the wider one starts where its border is
  expect(small({ network: '10.1.0.8' }).ways.map(({ label }) => label)).toEqual(['Widen Control to 10.1.0.0/28']);
});

test('where all find room nothing is offered', () => {
  expect(told(crowd(4, [], { blocks: [block('cams', '10.1.0.20', '10.1.0.23')] }))).toEqual({
    causes: [],
    ways: [],
    left: 0,
  });
});

test('blocks are proposed for what is there, in tens, with half as many again to grow, low to high', () => {
  const none = { mode: 'none', ip: null, prefix: null } as const;
  const kinds = deviceKinds.map((kind) => typeWith(kind, { name: kind, kind, factory: none }));
  const proposed = (devices: readonly string[], prefix = 24, more: Partial<BlockIntent> = {}) => {
    let next = 0;
    const show = showOf({ types: kinds, devices: devices.map((kind, at) => device(`${kind}-${at}`, kind)) });
    const subnet = { network: 0x0a010000, prefix };
    const intent = { networkId: 'net', subnet, members: Object.keys(show.devices), ...more };
    return proposeBlocks(show, intent, () => `b${(next += 1)}`).map(
      ({ label, kinds: own, first, last }) => `${label} ${first.slice(7)}-${last.slice(7)}: ${own.join(' ')}`,
    );
  };
  expect(proposed(deviceKinds)).toEqual([
    'Switches 10-19: router switch access-point',
    'Switchers 20-29: switcher',
    'Cameras 30-39: camera',
    'Remotes 40-49: camera-remote fader-bank button-panel tablet phone',
    'Audio 50-59: mixer stage-rack amplifier',
    'LED 60-69: led-processor led-receiver',
    'Projectors 70-79: projector',
    'Lighting 80-89: lighting',
    'Playback 90-99: media playout lyrics recorder timecode caller',
    'Computers 100-109: show-host media-control computer',
  ]);
  const cameras = (count: number) => Array.from({ length: count }, () => 'camera');
  // six need ten places with half as many again, seven need twenty
  expect(proposed(cameras(6))).toEqual(['Cameras 10-19: camera']);
  expect(proposed([...cameras(7), 'computer'])).toEqual([
    'Cameras 10-29: camera',
    'Computers 30-39: show-host media-control computer',
  ]);
  // nobody's room lies in the pool, and who is not on the network needs none
  const pool = { from: 0x0a010000 + 15, to: 0x0a010000 + 44 };
  expect(proposed([...cameras(6), 'computer'], 24, { pool })).toEqual([
    'Cameras 50-59: camera',
    'Computers 60-69: show-host media-control computer',
  ]);
  expect(proposed([...cameras(6), 'computer'], 24, { members: ['camera-0'] })).toEqual(['Cameras 10-19: camera']);
  // what does not fit any more is left out, what is smaller may still
  expect(proposed([...cameras(6), ...Array.from({ length: 9 }, () => 'mixer'), 'computer'], 27)).toEqual([
    'Cameras 10-19: camera',
    'Computers 20-29: show-host media-control computer',
  ]);
  expect(proposed(cameras(1), 29)).toEqual([]);
});
