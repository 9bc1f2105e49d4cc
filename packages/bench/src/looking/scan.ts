import { decode, encode, type Answer } from 'dns-packet';
import { type contract, addressing, show as core, type Show } from '@deep-patch/core';
import { dotted, undotted } from '../ether/dotted.ts';
import { protocols } from '../protocols/all.ts';
import { namesGroup, namesPort } from '../protocols/names/name-service.ts';
import type { Wire, WireAdapter } from './wire.ts';

/** No sweep asks more addresses of one adapter: those of a /22. */
const mostAddresses = 1022;
const atOnce = 32;
const namesWaitMs = 1200;
const mostProbes = 8;

export interface ScanProgress {
  readonly done: number;
  readonly total: number;
  readonly found: number;
}
export interface ScanRequest {
  readonly wire: Wire;
  /** What the computer that scans is called. */
  readonly name: string;
  /** TCP ports that services of this show listen on. */
  readonly ports: readonly number[];
  readonly at: number;
  readonly tell: (progress: ScanProgress) => void;
  readonly isStopped: () => boolean;
}

export interface Scanned {
  readonly hosts: core.FoundHost[];
  /** Subnets that were asked to the end, each by one address in it: whoever is not among the hosts is not there. */
  readonly swept: readonly core.SweptSubnet[];
}

/**
 * Looks for units from one computer, which it finds as well: asks the group what is offered (DNS-SD), asks for every
 * address of its own subnets (ARP), and tries known ports of whoever answered. Bounded, in small steps, and it stops
 * when told to.
 */
export async function scan(request: ScanRequest): Promise<Scanned> {
  const { wire, tell, isStopped } = request;
  const gatherer = new addressing.Gatherer();
  const macs = new Map<number, string>();
  const stopNames = await hearNames(wire, (clue) =>
    gatherer.add({ ...clue, mac: macs.get(undotted(clue.ip)) ?? null }),
  );
  const own = wire.adapters();
  // whoever scans is on the network as well
  for (const { ip, prefix, mac } of own) gatherer.add({ by: 'own', mac, ip: dotted(ip), prefix, name: request.name });
  const asked = own.flatMap(addressesOf);
  let found = 0;
  await askForNames(wire);
  await wire.wait(namesWaitMs);
  for (let at = 0; at < asked.length && !isStopped(); at += atOnce) {
    await Promise.all(
      asked.slice(at, at + atOnce).map(async ({ ip, prefix }) => {
        for (const mac of await wire.whoHas(ip)) {
          found += 1;
          macs.set(ip, mac);
          gatherer.add({ by: 'arp', mac, ip: dotted(ip), prefix });
        }
      }),
    );
    tell({ done: Math.min(asked.length, at + atOnce), total: asked.length, found });
  }
  for (const [ip, mac] of macs) if (!isStopped()) await probe(request, gatherer, ip, mac);
  // once more, now that it is known who has which address
  if (!isStopped()) {
    await askForNames(wire);
    await wire.wait(namesWaitMs);
  }
  stopNames?.();
  const { hosts } = gatherer.hosts({ source: 'scan', at: request.at });
  const swept = isStopped() ? [] : own.filter(({ prefix }) => hostsIn(prefix) <= mostAddresses);
  return { hosts, swept: swept.map(({ ip, prefix }) => ({ ip: dotted(ip), prefix })) };
}

/** How many hosts a subnet has room for. */
const hostsIn = (prefix: number): number => 2 ** (32 - prefix) - 2;

function addressesOf({ ip, prefix }: WireAdapter): { ip: number; prefix: number }[] {
  const size = 2 ** (32 - prefix);
  const first = ip - (ip % size) + 1;
  const count = Math.max(0, Math.min(mostAddresses, hostsIn(prefix)));
  // its own address is asked for too: somebody else may have it
  return Array.from({ length: count }, (_, at) => ({ ip: first + at, prefix }));
}

interface NameClue {
  readonly by: 'mdns';
  readonly ip: string;
  readonly name: string;
  readonly version?: string;
}

async function askForNames(wire: Wire): Promise<void> {
  const questions = Object.values(protocols)
    .flatMap(({ name: { udp, tcp } }) => [udp, tcp])
    .map((name) => ({ name, type: 'PTR' as const }));
  const bytes = new Uint8Array(encode({ type: 'query', questions }));
  await wire.send(namesGroup, { from: namesPort, to: namesPort }, bytes);
}

function hearNames(wire: Wire, onClue: (clue: NameClue) => void): Promise<(() => void) | undefined> {
  return wire.listen(namesPort, namesGroup, (bytes) => {
    for (const clue of cluesOf(bytes)) onClue(clue);
  });
}

/** The name of an instance, its address and the version in its text record. Damaged answers tell nothing. */
function cluesOf(bytes: Uint8Array): NameClue[] {
  try {
    const { answers = [], additionals = [] } = decode(Buffer.from(bytes));
    const records: Answer[] = [...answers, ...additionals];
    const instance = records.find(({ type }) => type === 'SRV');
    const name = instance?.name.split('._')[0]?.slice(0, 63);
    const version = records.flatMap(versionOf)[0];
    return records.flatMap((record): NameClue[] =>
      record.type === 'A' && name
        ? [{ by: 'mdns', ip: record.data, name, ...(version === undefined ? {} : { version }) }]
        : [],
    );
  } catch {
    return [];
  }
}

function versionOf(record: Answer): string[] {
  if (record.type !== 'TXT') return [];
  const data: readonly (string | Buffer)[] = Array.isArray(record.data) ? record.data : [record.data];
  return data.flatMap((text) => /^version=(.{1,20})$/.exec(text.toString())?.[1] ?? []);
}

/** Tries known ports of one unit; what answers as HTTP tells who it is by that. */
async function probe(
  { wire, ports }: ScanRequest,
  gatherer: addressing.Gatherer,
  ip: number,
  mac: string,
): Promise<void> {
  if ((await wire.ping(ip)) === undefined) return;
  for (const port of ports.slice(0, mostProbes)) {
    const stream = await wire.open(ip, port);
    if (typeof stream === 'string') continue;
    stream.end();
    gatherer.add({ by: 'probe', mac, ip: dotted(ip) });
  }
}

/**
 * Networks of the plan that no adapter of the computer reaches, with the setting that would (C18): a unit outside
 * every own subnet is never found, however long one looks.
 */
export function outsideOf(show: Show, own: readonly WireAdapter[], adapter: string): contract.ScanState['outside'] {
  return core.rowsOf(show, 'networks').flatMap((network) => {
    const [base, { prefix }] = [undotted(network.network), network];
    const size = 2 ** (32 - prefix);
    const isIn = (ip: number) => ip >= base && ip < base + size;
    const units = core.rowsOf(show, 'addresses').filter(({ networkId }) => networkId === network.id);
    if (units.length === 0 || own.some(({ ip }) => isIn(ip))) return [];
    if (network.owner === 'house')
      return [
        { network: network.name, units: units.length, setting: network.contact || 'ask the house for an address' },
      ];
    const taken = new Set(core.rowsOf(show, 'addresses').flatMap(({ ip }) => (ip === null ? [] : [undotted(ip)])));
    let free = base + size - 2;
    while (free > base + 1 && taken.has(free)) free -= 1;
    return [{ network: network.name, units: units.length, setting: `${adapter}: ${dotted(free)} /${prefix}` }];
  });
}
