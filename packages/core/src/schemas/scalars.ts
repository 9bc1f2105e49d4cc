import { z } from 'zod';
import { issueWords } from './issue-words.ts';
import { hostNamePattern, limits } from './limits.ts';
import { loginMethods, powerFeeds, systems } from './words.ts';

// every schema of the house is made of these
z.config({ customError: issueWords });

/** Ids are made outside core (the server's or the browser's random source) and never change. */
export const idSchema = z.string().regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'An id has up to 40 of a-z, 0-9 and -');
const upTo = (most: number) => z.string().max(most, `At most ${most} characters`);
export const nameSchema = z
  .string()
  .trim()
  .min(1, 'Give it a name')
  .max(limits.name, `At most ${limits.name} characters`);
export const labelText = upTo(limits.name);
export const shortText = upTo(limits.text);
export const noteText = upTo(limits.note);
export const portSchema = z
  .int('A port is a whole number')
  .min(1, 'Ports start at 1')
  .max(limits.port, `Ports end at ${limits.port}`);
export const prefixSchema = z.int('A prefix is a whole number').min(1, 'From 1 to 32').max(32, 'From 1 to 32');
/** A dotted quad as `formatIp` writes it; what people type goes through `readIpEntry` first. */
export const ipSchema = z.ipv4('An IPv4 address has four numbers from 0 to 255');
export const macSchema = z.string().regex(/^([0-9a-f]{2}:){5}[0-9a-f]{2}$/, 'A MAC address is six pairs of hex digits');
export const hostNameSchema = z
  .string()
  .regex(hostNamePattern, 'A host name has up to 63 of a-z, 0-9 and -, none at its ends');
/** A day as `2026-11-25`. */
export const daySchema = z.iso.date('A day is written as 2026-11-25');
export const count = (most: number) => z.int('A whole number').min(0, 'Not below 0').max(most, `At most ${most}`);

/** Revisions count changes of a show; the database keeps them in four bytes. */
export const revisionSchema = z
  .int()
  .min(0)
  .max(2 ** 31 - 1);

export const systemSchema = z.enum(systems);
export const loginSchema = z.enum(loginMethods);
export const feedSchema = z.enum(powerFeeds);
/** A VLAN by its number (IEEE 802.1Q section 9.6). */
export const vlanSchema = z.int().min(1).max(limits.vlan);
/** Values of a message, in the order of its arguments. */
export const argumentsSchema = z.array(z.union([z.number(), z.string().max(200), z.boolean()])).max(8);
