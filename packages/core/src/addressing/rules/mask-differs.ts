import { fixWith, each } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { addressingRule } from '../addressing-rule.ts';
import { formatIp, maskOf } from '../ipv4.ts';

/** Two masks on one network (need 2.6): each end then draws the border of the subnet elsewhere. */
export const maskDiffers = addressingRule<{ mask_differs: { name: string; on: string; mask: string; wanted: string } }>(
  {
    mask_differs: (f) => [
      `${f.name} has the mask ${f.mask}, the rest of ${f.on} has ${f.wanted}.`,
      'The two sides draw the border of the network in different places: some units answer, others seem gone.',
      `Give it ${f.wanted}.`,
    ],
  },
  each(
    (_show, { byId }) => byId,
    (found, { address, device, network, prefix }) => {
      if (prefix === network.prefix) return [];
      const wanted = formatIp(maskOf(network.prefix));
      const details = { name: device.name, on: network.name, mask: formatIp(maskOf(prefix)), wanted };
      const change = changeOf(`Mask of ${device.name} as on ${network.name}`, [
        updateRow('addresses', address, { prefix: null }),
      ]);
      return [
        found('mask_differs', 'risky', [{ table: 'addresses', id: address.id }], details, [
          fixWith(`Use ${wanted}`, change),
        ]),
      ];
    },
  ),
);
