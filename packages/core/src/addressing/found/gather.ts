import type { FoundHost, FoundSource } from '../../show/index.ts';

/** One clue about a host, as the readers of captures and listings give it. */
export interface Clue {
  readonly by: string;
  readonly mac: string | null;
  readonly ip: string | null;
  readonly prefix?: number;
  readonly name?: string;
  readonly version?: string;
  readonly role?: 'dhcp_server' | 'gateway';
  readonly method?: 'dhcp' | 'self' | 'static';
}

const mostHosts = 20_000;
const mostPerHost = 64;
/** A MAC that sends from more addresses than this is a router that passes on what others sent. */
const mostOwnSources = 4;

interface About {
  readonly source: FoundSource;
  readonly at: number;
}

interface Open {
  mac: string | null;
  readonly ips: Map<string, number | null>;
  /** Addresses known only from the headers of packets, which a router passes on for others. */
  readonly sources: Set<string>;
  readonly names: Set<string>;
  readonly roles: Set<'dhcp_server' | 'gateway'>;
  version: string | null;
  method: FoundHost['method'];
}

/**
 * Puts clues together to hosts, as they come, in bounded memory: one host a MAC, else one an address. Hosts beyond
 * 20,000 are counted and left out.
 */
export class Gatherer {
  private readonly open = new Map<string, Open>();
  private leftOut = 0;

  add(clue: Clue): void {
    const key = clue.mac ?? (clue.ip === null ? null : `ip ${clue.ip}`);
    if (key === null) return;
    const host = this.open.get(key) ?? this.start(key, clue.mac);
    if (!host) return;
    if (clue.ip !== null) {
      if (clue.by === 'ip') bounded(host.sources, clue.ip);
      else if (host.ips.size < mostPerHost) host.ips.set(clue.ip, clue.prefix ?? host.ips.get(clue.ip) ?? null);
    }
    if (clue.name) bounded(host.names, clue.name);
    if (clue.role) host.roles.add(clue.role);
    host.version = clue.version ?? host.version;
    host.method = clue.method ?? host.method;
  }

  /** Hosts with a MAC first claim their addresses; an address that stands alone stays only if nobody has it. */
  hosts(about: About): { hosts: FoundHost[]; leftOut: number } {
    const claimed = new Map<string, Open>();
    for (const host of this.open.values()) {
      if (host.sources.size > mostOwnSources) host.roles.add('gateway');
      else for (const ip of host.sources) if (!host.ips.has(ip)) host.ips.set(ip, null);
      if (host.mac) for (const ip of host.ips.keys()) claimed.set(ip, host);
    }
    const kept = [...this.open].filter(([, host]) => {
      const [only] = host.ips.keys();
      const owner = host.mac === null && only !== undefined ? claimed.get(only) : undefined;
      // what was said of a bare address belongs to the host that turned out to have it
      for (const role of owner ? host.roles : []) owner?.roles.add(role);
      for (const name of owner ? host.names : []) owner?.names.add(name);
      return owner === undefined;
    });
    return { hosts: kept.map(([id, host]) => closed(id, host, about)), leftOut: this.leftOut };
  }

  private start(key: string, mac: string | null): Open | undefined {
    if (this.open.size >= mostHosts) {
      this.leftOut += 1;
      return undefined;
    }
    const host: Open = {
      mac,
      ips: new Map(),
      sources: new Set(),
      names: new Set(),
      roles: new Set(),
      version: null,
      method: null,
    };
    this.open.set(key, host);
    return host;
  }
}

function bounded(set: Set<string>, value: string): void {
  if (set.size < mostPerHost) set.add(value);
}

function closed(id: string, { mac, ips, names, roles, version, method }: Open, about: About): FoundHost {
  const isSelf = [...ips.keys()].some((ip) => ip.startsWith('169.254.'));
  return {
    id,
    mac,
    ips: [...ips].map(([ip, prefix]) => ({ ip, prefix })),
    names: [...names],
    version,
    method: method ?? (isSelf ? 'self' : null),
    roles: [...roles],
    ...about,
  };
}

export function gatherHosts(clues: Iterable<Clue>, about: About) {
  const gatherer = new Gatherer();
  for (const clue of clues) gatherer.add(clue);
  return gatherer.hosts(about);
}
