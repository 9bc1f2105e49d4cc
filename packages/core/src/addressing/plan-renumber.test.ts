import { describe, expect, test } from 'vitest';
import { applyChange, rowsOf, type Change, type Content, type Show } from '../show/index.ts';
import { adapter, address, device, link, network, service, showOf } from '../show/sample-show.test-data.ts';
import { addressingFacts } from './facts.ts';
import { mustIp } from './ipv4.ts';
import { planChangeNetwork, planRenumber } from './plan-renumber.ts';

const block: Content<'blocks'> = {
  id: 'b',
  networkId: 'net',
  label: 'Cameras',
  kinds: ['camera'],
  first: '10.1.0.31',
  last: '10.1.0.46',
  use: 'place',
};
const show = showOf({
  networks: [
    network({ gateway: '10.1.0.1', poolFrom: '10.1.0.100', poolTo: '10.1.0.120', needsOutside: true }),
    network({ id: 'two', name: 'Two', network: '10.2.0.0' }),
  ],
  blocks: [block],
  devices: [device('h', 'host'), device('d', 'desk'), device('c', 'camera'), device('w', 'camera')],
  interfaces: ['h', 'd', 'c', 'w'].map((id) => adapter(id)),
  addresses: [
    address('h', '10.1.0.200'),
    address('d', '10.1.0.60', { held: true }),
    address('c', '10.1.0.31'),
    address('w', null),
  ],
  services: [service('d', { sendTo: '10.1.0.200' })],
  links: [link('d', { controllerId: 'h', host: '10.1.0.60' })],
});
const after = (at: Show, change: Change | undefined): Show => {
  const applied = change && applyChange(at, change);
  if (!applied?.ok) throw new Error('the change does not apply');
  return applied.show;
};
const ipsOf = (at: Show) => rowsOf(at, 'addresses').map(({ ip }) => ip);
const moved = (ip: string, prefix: number) => {
  const plan = planRenumber(show, 'net', { network: mustIp(ip), prefix });
  if (!plan) throw new Error('no plan');
  return { ...plan, show: after(show, plan.change) };
};

describe('a network gets another range', () => {
  test('same last figures, and everything that names one of them follows', () => {
    const { show: next, keyIn, overlaps, dropped } = moved('10.70.3.0', 24);
    expect(ipsOf(next)).toEqual(['10.70.3.200', '10.70.3.60', '10.70.3.31', null]);
    expect(next.networks['net']).toMatchObject({
      network: '10.70.3.0',
      gateway: '10.70.3.1',
      poolFrom: '10.70.3.100',
      poolTo: '10.70.3.120',
    });
    expect(next.blocks['b']).toMatchObject({ first: '10.70.3.31', last: '10.70.3.46' });
    expect(rowsOf(next, 'services')[0]?.sendTo).toBe('10.70.3.200');
    expect(rowsOf(next, 'links')[0]?.host).toBe('10.70.3.60');
    expect(next.addresses['d-a']?.held).toBe(true);
    expect([keyIn.map(({ id }) => id).sort(), overlaps, dropped]).toEqual([['c', 'd', 'h', 'w'], [], []]);
  });

  test('what has no place in a smaller one waits, and what falls away is named', () => {
    const { show: next, moves, dropped } = moved('10.70.3.0', 26);
    expect(moves.map(({ from, to }) => [from, to])).toEqual([
      ['10.1.0.200', null],
      ['10.1.0.60', '10.70.3.60'],
      ['10.1.0.31', '10.70.3.31'],
    ]);
    expect(next.networks['net']?.poolFrom).toBeNull();
    expect(dropped).toEqual(['the pool 10.1.0.100 to 10.1.0.120']);
    expect(next.addresses['h-a']).toMatchObject({ ip: null, held: false });
  });

  test('a range that another network has is told', () => {
    expect(moved('10.2.0.0', 16).overlaps.map(({ id }) => id)).toEqual(['two']);
    expect(moved('10.3.0.0', 16).overlaps).toEqual([]);
  });

  test('there and back is where it was', () => {
    const plan = planRenumber(moved('10.70.3.0', 24).show, 'net', { network: mustIp('10.1.0.0'), prefix: 24 });
    const back = after(moved('10.70.3.0', 24).show, plan?.change);
    expect([ipsOf(back), back.networks['net']?.gateway]).toEqual([ipsOf(show), '10.1.0.1']);
  });
});

test('units move to another network with their last figures, where those are free', () => {
  const busy = {
    ...show,
    addresses: { ...show.addresses, x: { ...address('w', '10.2.0.31'), id: 'x', networkId: 'two', rev: 1 } },
  };
  const items = addressingFacts(busy).planned.filter(({ network: { id } }) => id === 'net');
  const next = after(busy, planChangeNetwork(busy, items, 'two'));
  expect(rowsOf(next, 'addresses').map(({ ip, networkId }) => [ip, networkId])).toEqual([
    ['10.2.0.200', 'two'],
    ['10.2.0.60', 'two'],
    [null, 'two'],
    [null, 'two'],
    ['10.2.0.31', 'two'],
  ]);
  expect(rowsOf(next, 'services')[0]?.sendTo).toBe('10.2.0.200');
});
