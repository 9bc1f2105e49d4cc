import type { Sighting } from '../capture/sighting.ts';
import type { Listed } from './listed.ts';
import { ipPattern, macPattern, tidyIp, tidyMac, tidyPrefix } from './tidy.ts';

interface Adapter {
  mac: string | null;
  addresses: { ip: string; prefix: number | undefined; method: Sighting['method'] }[];
  gateways: string[];
  dhcpServer: string | null;
  method: Sighting['method'];
}

/** What a line says, by its label. Letters outside ASCII are left open, since consoles often garble them. */
const labels: readonly (readonly [Field, RegExp])[] = [
  ['host', /^(host ?name|nom de l.h.te|nombre de host|computer name)$/],
  [
    'mac',
    /^(physical address|physi(kali)?sche adresse|adresse physique|direcci.{1,2}n f.{1,2}sica|ethernet address|hardware address)$/,
  ],
  [
    'self',
    /^(autoconfiguration ipv4 address|ipv4-adresse \(auto.*|adresse d.autoconfiguration ipv4|direcci.{1,2}n ipv4 de configuraci.{1,2}n autom.{1,2}tica)$/,
  ],
  ['ip', /^((ipv4|ip)[ -](address|adresse)|adresse (ip|ipv4)|direcci.{1,2}n (ip|ipv4))$/],
  ['mask', /^(subnet mask|subnetzmaske|subnetmask|masque de sous-r.{1,2}seau|m.{1,2}scara de subred)$/],
  ['gateway', /^(default gateway|standardgateway|passerelle par d.{1,2}faut|puerta de enlace predeterminada|router)$/],
  ['dhcp', /^(dhcp enabled|dhcp aktiviert|dhcp activ.{1,2}|dhcp habilitado)$/],
  ['server', /^(dhcp server|dhcp-server|serveur dhcp|servidor dhcp)$/],
];
type Field = 'host' | 'mac' | 'self' | 'ip' | 'mask' | 'gateway' | 'dhcp' | 'server';

const yes = /^(yes|ja|oui|s.{0,2})$/i;
/** `Label . . . : value`, with or without the row of points. */
const labelled = /^\s*([^:]*?)[ .]*\s?:\s*(.*)$/;
/** A new adapter: a heading without indentation that ends in a colon, the port of a service, or the first line of its block in BSD and `ip` style. */
const heading =
  /^hardware port:|^(?:\S.*\S|\S)\s?:\s*$|^(?:\d+: )?[a-z][\w.@-]*: (?:<|flags)|^[a-z][\w.-]*\s+Link encap:/i;

/** `eth0@if5  UP  10.61.20.5/24 …` or `eth0  UP  02:1e:…`: one adapter a line, as `ip -br` prints it. */
const brief = /^([a-z][\w.-]*)(?:@\S+)?\s+(?:UP|DOWN|UNKNOWN|DORMANT|LOWERLAYERDOWN|NOTPRESENT|TESTING)\s(.*)$/i;
/** A further value of the field above, far to the right. */
const continued = /^\s{8,}(\S+)\s*$/;

/**
 * Adapters as the usual commands of computers list them: labelled lines in English, German, French or Spanish, the
 * interface listings of BSD kind, and those of `ip address`, brief or not. Undefined where the text is nothing of that kind.
 */
export function readAdapters(lines: readonly string[]): Listed | undefined {
  const understood = new Set<number>();
  const adapters: Adapter[] = [];
  let host: string | undefined;
  let open: Adapter | undefined;
  let isLabelled = false;
  let last: Field | undefined;
  const byName = new Map<string, Adapter>();
  const adapter = () => {
    if (!open) adapters.push((open = fresh()));
    return open;
  };
  const named = (name: string) => {
    open = byName.get(name);
    byName.set(name, adapter());
    return adapter();
  };
  for (const [at, line] of lines.entries()) {
    const short = brief.exec(line);
    const more = last && continued.exec(line)?.[1];
    if (
      short?.[1] !== undefined ? takeBrief(named(short[1]), short[2] ?? '') : more && takeMore(adapter(), last, more)
    ) {
      understood.add(at);
      continue;
    }
    last = undefined;
    if (heading.test(line)) {
      open = undefined;
      understood.add(at);
    }
    if (/^(manual|dhcp) (using dhcp )?configuration$/i.test(line.trim())) {
      open = undefined;
      adapter().method = /dhcp/i.test(line) ? 'dhcp' : 'static';
      understood.add(at);
      continue;
    }
    const field = fieldOf(line);
    if (field?.name === 'host') {
      host ??= field.value || undefined;
      understood.add(at);
    } else if (field) {
      isLabelled = true;
      last = field.name;
      if (take(adapter(), field.name, field.value) || saysNothing(field.value)) understood.add(at);
    } else if (readInterfaceLine(adapter, line)) understood.add(at);
  }
  const sightings = adapters.flatMap((each) => sightingsOf(each, host));
  // a MAC alone, without a label that says so, may as well stand in a neighbour table
  const isListing = isLabelled || byName.size > 0 || sightings.some(({ ip }) => ip !== null);
  return isListing && sightings.length > 0 ? { sightings, understood } : undefined;
}

/** Nothing, or an address of IPv6: there is nothing to read of it here. */
const saysNothing = (value: string): boolean =>
  /^(|n\/a|none|\(null\)|[\da-f:]*::[\da-f:%.\w]*)(\(.*\))?$/i.test(value);

/** A further gateway or address; the first one may have been of IPv6. */
const takeMore = (adapter: Adapter, field: Field | undefined, value: string): boolean =>
  field !== undefined && (saysNothing(value) || (/^\d/.test(value) && take(adapter, field, value)));

function takeBrief(adapter: Adapter, rest: string): boolean {
  const mac = macPattern.exec(rest)?.[0];
  if (mac !== undefined && !rest.includes('/')) adapter.mac = tidyMac(mac);
  for (const word of rest.split(/\s+/)) {
    const [bare = '', prefix = ''] = word.split('/');
    const ip = tidyIp(bare);
    if (ip !== null) adapter.addresses.push({ ip, prefix: tidyPrefix(prefix), method: undefined });
  }
  return true;
}

const fresh = (): Adapter => ({ mac: null, addresses: [], gateways: [], dhcpServer: null, method: undefined });

function fieldOf(line: string): { name: Field; value: string } | undefined {
  const match = labelled.exec(line);
  if (!match) return undefined;
  const label = (match[1] ?? '')
    .replace(/[ .]+$/, '')
    .trim()
    .toLowerCase();
  const name = labels.find(([, pattern]) => pattern.test(label))?.[0];
  return name && { name, value: (match[2] ?? '').trim() };
}

/** False where the value of the field says nothing. */
function take(adapter: Adapter, field: Field, value: string): boolean {
  const ip = tidyIp(ipPattern.exec(value)?.[1] ?? '');
  switch (field) {
    case 'mac':
      adapter.mac = tidyMac(value);
      return adapter.mac !== null;
    case 'dhcp':
      adapter.method = yes.test(value) ? 'dhcp' : 'static';
      return true;
    case 'mask': {
      const prefix = tidyPrefix(value);
      const last = adapter.addresses.at(-1);
      if (last) last.prefix ??= prefix;
      return prefix !== undefined;
    }
    case 'gateway':
      adapter.gateways.push(...(ip ? [ip] : []));
      return ip !== null;
    case 'server':
      adapter.dhcpServer = ip;
      return ip !== null;
    default:
      if (ip) adapter.addresses.push({ ip, prefix: undefined, method: field === 'self' ? 'self' : undefined });
      return ip !== null;
  }
}

/** `inet 10.1.0.5/24`, `inet 10.1.0.5 netmask 0xffffff00`, `inet addr:10.1.0.5 Mask:255.255.255.0`, `ether 02:…`. */
function readInterfaceLine(adapter: () => Adapter, line: string): boolean {
  const mac = /\b(?:ether|link\/ether|HWaddr)\s+(\S+)/i.exec(line)?.[1];
  if (mac && macPattern.test(mac)) adapter().mac = tidyMac(mac);
  const inet = /\binet (?:addr:\s?)?(\d{1,3}(?:\.\d{1,3}){3})(?:\/(\d{1,2}))?(?:.*?(?:netmask |Mask:)(\S+))?/i.exec(
    line,
  );
  const ip = tidyIp(inet?.[1] ?? '');
  // the own loopback and IPv6 are understood, and nothing to take in
  if (!ip) return mac !== undefined || inet !== null || /^\s*(inet6|link\/loopback)\b/.test(line);
  const method = /\bdynamic\b/.test(line) ? 'dhcp' : undefined;
  adapter().addresses.push({ ip, prefix: tidyPrefix(inet?.[2] ?? inet?.[3] ?? ''), method });
  return true;
}

function sightingsOf({ mac, addresses, gateways, dhcpServer, method }: Adapter, host: string | undefined): Sighting[] {
  const about = (ip: string | null, prefix?: number, how?: Sighting['method']): Sighting => ({
    by: 'listing',
    mac,
    ip,
    ...(prefix === undefined ? {} : { prefix }),
    ...(host ? { name: host } : {}),
    ...(how ? { method: how } : {}),
  });
  const own = addresses.map(({ ip, prefix, method: how }) => about(ip, prefix, how ?? method));
  const without = own.length === 0 && mac ? [about(null)] : [];
  const others = [
    ...gateways.map((ip) => ({ by: 'listing', mac: null, ip, role: 'gateway' }) as const),
    ...(dhcpServer ? [{ by: 'listing', mac: null, ip: dhcpServer, role: 'dhcp_server' } as const] : []),
  ];
  return own.length > 0 ? [...own, ...others] : without;
}
