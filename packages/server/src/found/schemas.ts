import { z } from 'zod';

const ip = z.ipv4();
const mac = z.string().regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/, 'A MAC address is six pairs of hex digits');

const hostSchema = z.strictObject({
  id: z.string().min(1).max(60),
  mac: mac.nullable(),
  ips: z.array(z.strictObject({ ip, prefix: z.int().min(1).max(32).nullable() })).max(64),
  names: z.array(z.string().max(80)).max(64),
  version: z.string().max(80).nullable(),
  method: z.enum(['dhcp', 'self', 'static']).nullable(),
  roles: z.array(z.enum(['dhcp_server', 'gateway'])).max(2),
  source: z.enum(['capture', 'listing', 'table', 'person']),
  at: z.number().min(0).max(8.64e15, 'A moment in milliseconds since 1970'),
});

/** Hosts that somebody looked at and takes in as found. */
export const foundSchema = z.strictObject({
  hosts: z
    .array(hostSchema)
    .min(1, 'There is no host in it')
    .max(20_000, 'At most 20,000 hosts at once')
    .superRefine((hosts, context) => {
      const known = new Set<string>();
      for (const [at, { id }] of hosts.entries()) {
        if (known.has(id))
          context.addIssue({ code: 'custom', path: [at, 'id'], message: 'An earlier host has this id' });
        known.add(id);
      }
    }),
});
