import { show as core, wordsOf } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { held } from '../../test/held-workspace.ts';
import { entriesOf, matching } from './find-entries.ts';

const find = (typed: string) => matching(entriesOf(held.show, held.analysis), typed);
const [withMac] = core.rowsOf(held.show, 'interfaces').filter(({ mac }) => mac !== null);
const mac = withMac?.mac ?? expect.fail('no MAC in the demo');

test.each([mac, mac.toUpperCase(), mac.replaceAll(':', '-'), mac.replaceAll(':', ''), mac.slice(0, 11)])(
  'a unit is found by its MAC however it is written: %s',
  (typed) => {
    expect(find(typed).map(({ path }) => path)).toContain(`rig/${withMac?.deviceId}`);
  },
);

test('ports, findings, screens by other words, and what is named so comes before what only mentions it', () => {
  const [service] = core.rowsOf(held.show, 'services').filter(({ enabled }) => enabled);
  const ports = find(String(service?.receivePort)).filter(({ kind }) => kind === 'Ports');
  expect(ports.map(({ path }) => path)).toContain(`rig/${service?.deviceId}`);
  expect(find('subnet').map(({ label }) => label)).toContain('Addresses');
  const [finding] = held.analysis.findings;
  const what = finding ? wordsOf(finding).what : expect.fail('nothing wrong in the demo');
  expect(find(what)).toContainEqual(expect.objectContaining({ kind: 'Findings', label: what }));
  const unit = core.devicesByName(held.show)[0] ?? expect.fail('no unit');
  expect(find(unit.name)[0]).toMatchObject({ kind: 'Devices', label: unit.name });
  expect(find('no such thing anywhere')).toEqual([]);
});
