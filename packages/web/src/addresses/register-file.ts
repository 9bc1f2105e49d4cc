import { writeCsv } from '@deep-patch/codecs';
import { addressing, type Analysis } from '@deep-patch/core';
import { foundWords } from './found-words.ts';

const heads = [
  'unit',
  'name',
  'adapter',
  'network',
  'address',
  'mask',
  'gateway',
  'method',
  'mac',
  'as delivered',
  'as found',
];

/** The register of all networks as CSV: one line an address, in the order of networks and addresses. */
export function registerCsv({ addressing: facts, found }: Analysis): string {
  const lines = facts.networks.flatMap(({ planned }) =>
    [...planned]
      .sort((a, b) => (a.ip ?? Infinity) - (b.ip ?? Infinity))
      .map((item) => {
        const { address, device, network, type, interface: row } = item;
        const seen = found.items.get(address.id);
        return [
          device.unit,
          device.name,
          type.adapters.find(({ key }) => key === row.adapter)?.label ?? row.adapter,
          network.name,
          address.ip,
          addressing.formatIp(addressing.maskOf(item.prefix)),
          address.gateway ?? network.gateway,
          address.method,
          row.mac,
          addressing.deliveredWords(type),
          seen && seen.state !== 'not_looked' ? foundWords(seen) : '',
        ];
      }),
  );
  return writeCsv([heads, ...lines]);
}
