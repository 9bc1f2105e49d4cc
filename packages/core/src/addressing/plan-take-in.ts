import { deviceEdits, type GearRow } from '../rig/index.ts';
import {
  changeOf,
  contentWith,
  insertRow,
  rowsOf,
  type Change,
  type Content,
  type Edit,
  type Show,
} from '../show/index.ts';
import { contains, formatIp, mustIp, overlaps, subnetOf, type Subnet } from './ipv4.ts';

/**
 * Takes the rows of a gear list in as one change; rows without a type or a name are left out. An address joins the
 * network that holds it; where none does, one is made around it. Units without an address join the only network.
 */
export function planTakeIn(show: Show, rows: readonly GearRow[], newId: () => string): Change | undefined {
  const ready = rows.flatMap(({ type, ...row }) => (type && row.name ? [{ ...row, type }] : []));
  const networks = networksFor(show, ready, newId);
  const all = [...rowsOf(show, 'networks'), ...networks];
  const edits = ready.flatMap(({ address, hostName, serial, ...row }): Edit[] => {
    const own = deviceEdits({ ...row, more: { hostName, serial } }, newId);
    const first = own.find(({ table }) => table === 'interfaces')?.id;
    const on = address ? holderOf(all, mustIp(address.ip)) : all.length === 1 ? all[0] : undefined;
    if (first === undefined || !on) return own;
    const joined = contentWith('addresses', {
      id: newId(),
      interfaceId: first,
      networkId: on.id,
      ip: address?.ip ?? null,
      prefix: address?.prefix != null && address.prefix !== on.prefix ? address.prefix : null,
      gateway: null,
      held: false,
    });
    return [...own, insertRow('addresses', joined)];
  });
  const label = `Take in ${ready.length} ${ready.length === 1 ? 'unit' : 'units'}`;
  return changeOf(label, [...networks.map((row) => insertRow('networks', row)), ...edits]);
}

type Ranged = Pick<Content<'networks'>, 'id' | 'network' | 'prefix'>;

const subnetOfRow = ({ network, prefix }: Ranged): Subnet => ({ network: mustIp(network), prefix });

/** The narrowest network around an address. */
const holderOf = <Row extends Ranged>(networks: readonly Row[], ip: number): Row | undefined =>
  networks.filter((row) => contains(subnetOfRow(row), ip)).sort((a, b) => b.prefix - a.prefix)[0];

/** Networks that a gear list needs and the show does not have yet: by the mask of the list, else as small as usual. */
export function networksFor(
  show: Show,
  rows: readonly Pick<GearRow, 'address'>[],
  newId: () => string,
): Content<'networks'>[] {
  const made: Content<'networks'>[] = [];
  for (const { address } of rows) {
    const all = [...rowsOf(show, 'networks'), ...made];
    if (!address || holderOf(all, mustIp(address.ip))) continue;
    const { network, prefix } = freeSubnet(all, mustIp(address.ip), address.prefix ?? usualPrefix);
    made.push(
      contentWith('networks', {
        id: newId(),
        name: `Network ${formatIp(network)}`,
        network: formatIp(network),
        prefix,
        vlan: null,
        purpose: '',
        gateway: null,
        poolFrom: null,
        poolTo: null,
      }),
    );
  }
  return made;
}

const usualPrefix = 24;

/** As wide as asked for, or as narrow as it takes to overlap none that is there. */
function freeSubnet(others: readonly Ranged[], ip: number, wanted: number): Subnet {
  for (let prefix = wanted; prefix < 30; prefix += 1) {
    const subnet = subnetOf(ip, prefix);
    if (!others.some((row) => overlaps(subnetOfRow(row), subnet))) return subnet;
  }
  return subnetOf(ip, 30);
}
