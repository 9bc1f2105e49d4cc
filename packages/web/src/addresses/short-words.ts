import type { findings } from '@deep-patch/core';

const words: Readonly<Record<string, string>> = {
  duplicate_ip: 'two units on it',
  network_address: 'names the network itself',
  broadcast_address: 'means everybody',
  outside_subnet: 'outside the network',
  unusable_kind: 'no unit can use it',
  mask_differs: 'another mask',
  two_adapters: 'two adapters on one network',
  on_gateway: 'the gateway’s address',
  in_pool: 'inside the automatic pool',
  on_factory: 'a factory address',
  not_granted: 'not granted to us',
  on_reserved: 'kept free for others',
  second_needs_fixed: 'needs fixed addresses',
  no_server: 'nobody hands one out',
  found_elsewhere: 'found elsewhere',
  found_two_owners: 'two found on it',
  found_as_delivered: 'still as delivered',
  found_self_assigned: 'made one up',
  found_no_address: 'seen without address',
  found_mask: 'found with another mask',
  found_mac: 'MAC not written down',
  found_missing: 'not found',
};

/** A finding in the room of a table cell; the whole sentence stands in the panel. */
export const shortWords = ({ code }: findings.Finding): string => words[code] ?? code;
