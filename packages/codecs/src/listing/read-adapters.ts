import type { Sighting } from '../capture/sighting.ts';
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
/** A new adapter: a heading without indentation that ends in a colon, or the first line of its block in BSD and `ip` style. */
const heading = /^(?:\S.*\S|\S)\s?:\s*$|^(?:\d+: )?[a-z][\w.@-]*: (?:<|flags)|^[a-z][\w.-]*\s+Link encap:/i;

/**
 * Adapters as the usual commands of computers list them: labelled lines in English, German, French or Spanish, the
 * interface listings of BSD kind, and those of `ip address`. Undefined where the text is nothing of that kind.
 */
export function readAdapters(lines: readonly string[]): Sighting[] | undefined {
  const adapters: Adapter[] = [];
  let host: string | undefined;
  let open: Adapter | undefined;
  let isLabelled = false;
  const adapter = () => {
    if (!open) adapters.push((open = fresh()));
    return open;
  };
  for (const line of lines) {
    if (heading.test(line)) open = undefined;
    if (/^(manual|dhcp) (using dhcp )?configuration$/i.test(line.trim())) {
      open = undefined;
      adapter().method = /dhcp/i.test(line) ? 'dhcp' : 'static';
      continue;
    }
    const field = fieldOf(line);
    if (field?.name === 'host') host ??= field.value || undefined;
    else if (field) {
      isLabelled = true;
      take(adapter(), field.name, field.value);
    } else readInterfaceLine(adapter, line);
  }
  const found = adapters.flatMap((each) => sightingsOf(each, host));
  // a MAC alone, without a label that says so, may as well stand in a neighbour table
  return isLabelled || found.some(({ ip }) => ip !== null) ? nonEmpty(found) : undefined;
}

const nonEmpty = (found: Sighting[]): Sighting[] | undefined => (found.length > 0 ? found : undefined);

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

function take(adapter: Adapter, field: Field, value: string): void {
  const ip = tidyIp(ipPattern.exec(value)?.[1] ?? '');
  if (field === 'mac') adapter.mac = tidyMac(value);
  else if (field === 'dhcp') adapter.method = yes.test(value) ? 'dhcp' : 'static';
  else if (field === 'mask') {
    const last = adapter.addresses.at(-1);
    if (last) last.prefix ??= tidyPrefix(value);
  } else if (field === 'gateway') adapter.gateways.push(...(ip ? [ip] : []));
  else if (field === 'server') adapter.dhcpServer = ip;
  else if (ip) adapter.addresses.push({ ip, prefix: undefined, method: field === 'self' ? 'self' : undefined });
}

/** `inet 10.1.0.5/24`, `inet 10.1.0.5 netmask 0xffffff00`, `inet addr:10.1.0.5 Mask:255.255.255.0`, `ether 02:…`. */
function readInterfaceLine(adapter: () => Adapter, line: string): void {
  const mac = /\b(?:ether|link\/ether|HWaddr)\s+(\S+)/i.exec(line)?.[1];
  if (mac && macPattern.test(mac)) adapter().mac = tidyMac(mac);
  const inet = /\binet (?:addr:\s?)?(\d{1,3}(?:\.\d{1,3}){3})(?:\/(\d{1,2}))?(?:.*?(?:netmask |Mask:)(\S+))?/i.exec(
    line,
  );
  const ip = tidyIp(inet?.[1] ?? '');
  if (!ip) return;
  const method = /\bdynamic\b/.test(line) ? 'dhcp' : undefined;
  adapter().addresses.push({ ip, prefix: tidyPrefix(inet?.[2] ?? inet?.[3] ?? ''), method });
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
