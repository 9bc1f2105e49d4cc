import { contentWith, groupBy, typeOf, type Content, type DeviceKind, type Show } from '../show/index.ts';
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

export interface BlockIntent {
  readonly networkId: string;
  readonly subnet: Subnet;
  /** Units that are on the network, or will be: others need no room there. */
  readonly members: readonly string[];
  readonly pool?: { readonly from: number; readonly to: number } | null;
}

/**
 * Blocks for the kinds on this network, past its pool: each starts on a ten, so that unit 3 can end in 3, and is as many tens wide as
 * its units need with half as many again to grow. Undefined tens are left out when the network is too small.
 */
export function proposeBlocks(
  show: Show,
  { networkId, subnet, members, pool = null }: BlockIntent,
  newId: () => string,
): Content<'blocks'>[] {
  const { first, last } = hostRange(subnet);
  const counts = groupBy(
    members.flatMap((id) => show.devices[id] ?? []),
    (device) => typeOf(show, device)?.kind ?? 'computer',
  );
  const blocks: Content<'blocks'>[] = [];
  let from = subnet.network + 10;
  const pastPool = (width: number): void => {
    if (pool && from <= pool.to && from + width - 1 >= pool.from) from = nextTen(pool.to + 1, subnet.network);
  };
  for (const { label, kinds } of order) {
    const units = kinds.reduce((sum, kind) => sum + (counts.get(kind)?.length ?? 0), 0);
    const width = Math.ceil((units * 1.5 + 1) / 10) * 10;
    if (units > 0) pastPool(width);
    if (units === 0 || from + width - 1 > last || from < first) continue;
    const [start, end] = [formatIp(from), formatIp(from + width - 1)];
    blocks.push(contentWith('blocks', { id: newId(), networkId, label, kinds: [...kinds], first: start, last: end }));
    from += width;
  }
  return blocks;
}

/** The next address whose place in its network is a ten. */
const nextTen = (ip: number, network: number): number => network + Math.ceil((ip - network) / 10) * 10;
