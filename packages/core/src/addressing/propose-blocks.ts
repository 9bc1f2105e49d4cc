import { contentWith, groupBy, rowsOf, typeOf, type Content, type DeviceKind, type Show } from '../show/index.ts';
import { formatIp, hostRange, type Subnet } from './ipv4.ts';

/** What usually stands together, low to high; computers come last so that gear has room beneath them. */
const order: readonly { label: string; kinds: readonly DeviceKind[] }[] = [
  { label: 'Switches', kinds: ['router', 'switch', 'access-point'] },
  { label: 'Switchers', kinds: ['switcher'] },
  { label: 'Cameras', kinds: ['camera'] },
  { label: 'Remotes', kinds: ['camera-remote', 'fader-bank', 'button-panel', 'tablet', 'phone'] },
  { label: 'Audio', kinds: ['mixer', 'stage-rack', 'amplifier'] },
  { label: 'LED', kinds: ['led-processor', 'led-receiver'] },
  { label: 'Projectors', kinds: ['projector'] },
  { label: 'Lighting', kinds: ['lighting'] },
  { label: 'Playback', kinds: ['media', 'playout', 'lyrics', 'recorder', 'timecode', 'caller'] },
  { label: 'Computers', kinds: ['show-host', 'media-control', 'computer'] },
];

/**
 * Blocks for the kinds on this job: each starts on a ten, so that unit 3 can end in 3, and is as many tens wide as
 * its units need with half as many again to grow. Undefined tens are left out when the network is too small.
 */
export function proposeBlocks(show: Show, networkId: string, subnet: Subnet, newId: () => string): Content<'blocks'>[] {
  const { first, last } = hostRange(subnet);
  const counts = groupBy(rowsOf(show, 'devices'), (device) => typeOf(show, device)?.kind ?? 'computer');
  const blocks: Content<'blocks'>[] = [];
  let from = subnet.network + 10;
  for (const { label, kinds } of order) {
    const units = kinds.reduce((sum, kind) => sum + (counts.get(kind)?.length ?? 0), 0);
    const width = Math.ceil((units * 1.5 + 1) / 10) * 10;
    if (units === 0 || from + width - 1 > last || from < first) continue;
    const [start, end] = [formatIp(from), formatIp(from + width - 1)];
    blocks.push(contentWith('blocks', { id: newId(), networkId, label, kinds: [...kinds], first: start, last: end }));
    from += width;
  }
  return blocks;
}
