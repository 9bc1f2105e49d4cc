import { makeSwitch } from './make-type.ts';

export const networkGear = [
  makeSwitch(
    {
      model: 'managed-switch',
      name: 'Managed switch',
      kind: 'switch',
      factoryIp: '10.88.0.2',
      managed: true,
      feedsCables: true,
      factory: { login: 'preset', account: 'admin' },
      afterAddress: ['confirm_page', 'store'],
      startsInSeconds: 90,
      erases: ['VLANs', 'port names'],
    },
    24,
  ),
  makeSwitch(
    { model: 'plain-switch', name: 'Plain switch', kind: 'switch', factory: { mode: 'none' }, adapters: [], ways: [] },
    8,
  ),
  makeSwitch(
    {
      model: 'router',
      name: 'Router with DHCP',
      kind: 'router',
      factoryIp: '10.88.0.1',
      factory: { login: 'preset', account: 'admin' },
      afterAddress: ['confirm_page', 'restart_device'],
      startsInSeconds: 60,
    },
    5,
  ),
  makeSwitch(
    {
      model: 'access-point',
      name: 'Access point',
      kind: 'access-point',
      factoryIp: '10.88.0.3',
      power: [{ feed: 'poe' }, { feed: 'supply' }],
      afterAddress: ['confirm_page', 'restart_device'],
      startsInSeconds: 60,
    },
    16,
  ),
];
