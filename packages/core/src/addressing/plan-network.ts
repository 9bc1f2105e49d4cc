import {
  changeOf,
  contentWith,
  insertRow,
  updateRow,
  type Change,
  type Content,
  type Interface,
  type Network,
  type Show,
  indexBy,
  interfacesOf,
  rowsBy,
} from '../show/index.ts';
import { formatIp, subnetOf } from './ipv4.ts';

export interface NetworkIntent {
  readonly id: string;
  readonly name: string;
  readonly ip: number;
  readonly prefix: number;
  readonly vlan: number | null;
  readonly purpose: string;
  /** Interfaces that join at once; their addresses wait to be placed. */
  readonly join: readonly { readonly id: string; readonly interfaceId: string }[];
  readonly blocks: readonly Content<'blocks'>[];
}

/** Makes a network from any address inside it: the host bits of what was typed are cleared. */
export function planNetwork(intent: NetworkIntent): Change {
  const { id, name, prefix, vlan, purpose, blocks } = intent;
  const network = formatIp(subnetOf(intent.ip, prefix).network);
  const row = contentWith('networks', {
    id,
    name,
    network,
    prefix,
    vlan,
    purpose,
    gateway: null,
    poolFrom: null,
    poolTo: null,
  });
  const joined = intent.join.map((join) =>
    insertRow(
      'addresses',
      contentWith('addresses', { ...join, networkId: id, ip: null, prefix: null, gateway: null, held: false }),
    ),
  );
  return {
    label: `Add network ${name} ${network}/${prefix}`,
    edits: [insertRow('networks', row), ...blocks.map((block) => insertRow('blocks', block)), ...joined],
  };
}

export const planNetworkEdit = (network: Network, patch: Partial<Content<'networks'>>): Change | undefined =>
  changeOf(`Change network ${network.name}`, [updateRow('networks', network, patch)]);

/** The first adapter of each unit that is on no network yet; further adapters are put on one by hand. */
export const looseInterfaces = (show: Show): readonly Interface[] => loosePerUnit(show).get('all') ?? [];

/** The same under one key. */
export const loosePerUnit = indexBy('devices', ({ id }, show) => {
  const own = interfacesOf(show, id);
  const addresses = rowsBy(show, 'addresses', 'interfaceId');
  const [first] = own;
  return first && !own.some((its) => addresses.has(its.id)) ? [['all', first]] : [];
});
