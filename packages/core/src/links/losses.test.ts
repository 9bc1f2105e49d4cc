import { expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { rowsOf, type Content } from '../show/index.ts';
import {
  adapter,
  address,
  cable,
  device,
  link,
  network,
  service,
  showOf,
  types,
  typeWith,
} from '../show/sample-show.test-data.ts';
import { forecastAll, linkFacts, lossesOf, stopsWithout } from './index.ts';

const twoAdapters = typeWith('pair', {
  ...{ name: 'Pair', kind: 'show-host', factory: { mode: 'none', ip: null, prefix: null }, drives: ['osc'] },
  adapters: ['one', 'two'].map((key) => ({ key, label: key })),
  sockets: ['one', 'two'].map((key) => ({ key, label: key, adapter: key })),
});

test('a controller with a second address in the same network goes on by it when the first run goes', () => {
  const on = (key: string, ip: string): Content<'addresses'> => ({
    ...address('host', ip),
    id: `host-${key}-a`,
    interfaceId: `host-${key}`,
  });
  const show = showOf({
    types: [...types.filter(({ id }) => id !== 'host'), twoAdapters],
    networks: [network()],
    devices: [device('host', 'pair'), device('desk', 'desk'), device('hub', 'switch')],
    interfaces: [
      ...['one', 'two'].map((key) => ({ id: `host-${key}`, deviceId: 'host', adapter: key, mac: null })),
      adapter('desk'),
    ],
    addresses: [on('one', '10.1.0.2'), on('two', '10.1.0.3'), address('desk', '10.1.0.60')],
    cables: [
      { ...cable('host', 'p-1'), id: 'first', fromSocket: 'one' },
      { ...cable('host', 'p-2'), id: 'second', fromSocket: 'two' },
      cable('desk', 'p-3'),
    ],
    services: [service('desk', { sendPort: null, sendTo: null })],
    links: [link('desk', { replyPort: null, command: null, args: [] })],
  });
  const facts = linkFacts(show, addressingFacts(show), () => ({ change: undefined }));
  const links = rowsOf(show, 'links');
  const tried = Object.keys(show.cables).filter((id) => stopsWithout(show, facts, new Set([id]), links).length > 0);
  const worked = lossesOf(show, facts, forecastAll(show, facts)).flatMap(({ kind, id }) =>
    kind === 'run' ? [id] : [],
  );
  expect([forecastAll(show, facts).map(({ stopsAt }) => stopsAt?.code), tried.sort(), worked.sort()]).toEqual([
    [undefined],
    ['c-desk'],
    ['c-desk'],
  ]);
});
