import { finding, fixWith } from '../../findings/index.ts';
import { changeOf, updateRow, type Show } from '../../show/index.ts';
import type { AddressingFacts } from '../facts.ts';
import { formatIp, maskOf } from '../ipv4.ts';

/** Two masks on one network (need 2.6): each end then draws the border of the subnet elsewhere. */
export const maskDiffers = (_show: Show, facts: AddressingFacts) =>
  facts.planned
    .filter(({ prefix, network }) => prefix !== network.prefix)
    .map(({ address, device, network, prefix }) =>
      finding(
        'addressing',
        'mask_differs',
        'risky',
        [{ table: 'addresses', id: address.id }],
        {
          name: device.name,
          on: network.name,
          mask: formatIp(maskOf(prefix)),
          wanted: formatIp(maskOf(network.prefix)),
        },
        [
          fixWith(
            `Use ${formatIp(maskOf(network.prefix))}`,
            changeOf(`Mask of ${device.name} as on ${network.name}`, [
              updateRow('addresses', address, { prefix: null }),
            ]),
          ),
        ],
      ),
    );
