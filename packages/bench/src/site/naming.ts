import type { Frame } from '@deep-patch/codecs';
import { undotted } from '../ether/dotted.ts';
import { isOutside } from '../ether/outside.ts';
import type { Names } from '../tap/tap.ts';
import type { Standin } from '../units/standin.ts';

const outsideName = 'outside tool';

/** Tells whose frames are: by MAC addresses, which are worked out once, and behind a router by IP addresses. */
export class Naming {
  private readonly byPair = new Map<string, Map<string, Names>>();
  private readonly byMac: ReadonlyMap<string, Standin>;
  private readonly standins: ReadonlyMap<string, Standin>;

  constructor(standins: ReadonlyMap<string, Standin>, byMac: ReadonlyMap<string, Standin>) {
    this.standins = standins;
    this.byMac = byMac;
  }

  /** After a new plan. */
  forget(): void {
    this.byPair.clear();
  }

  ofFrame({ from, to, body }: Frame): Names {
    const known = this.byPair.get(from)?.get(to);
    if (known) return known;
    const sender = this.byMac.get(from);
    const taker = this.byMac.get(to);
    const isFixed = (sender !== undefined || isOutside(from)) && (taker !== undefined || isOutside(to) || isForAll(to));
    const names = {
      ...this.named('from', sender ?? (body.kind === 'ip' ? this.at(body.source) : undefined), from),
      ...this.named('to', taker ?? (body.kind === 'ip' ? this.at(body.destination) : undefined), to),
    };
    if (isFixed) this.keep(from, to, names);
    return names;
  }

  /** What a stand-in itself tells of a message. */
  ofReport(standin: Standin, from: string): Names {
    const sender = /^\d+(\.\d+){3}$/.test(from) ? this.at(undotted(from)) : undefined;
    return { from, ...(sender && this.named('from', sender, from)), to: standin.device.name, toId: standin.device.id };
  }

  /** The machine that has an address now. */
  at(ip: number): Standin | undefined {
    for (const standin of this.standins.values())
      if (!standin.computer && standin.host.adapters.some(({ addresses }) => addresses.some((own) => own.ip === ip)))
        return standin;
    return undefined;
  }

  private named<End extends 'from' | 'to'>(end: End, unit: Standin | undefined, mac: string): Pick<Names, End> {
    const name = unit?.device.name ?? (isOutside(mac) ? outsideName : isForAll(mac) ? 'everybody' : mac);
    return { [end]: name, ...(unit ? { [`${end}Id`]: unit.device.id } : {}) } as Pick<Names, End>;
  }

  private keep(from: string, to: string, names: Names): void {
    const row = this.byPair.get(from) ?? new Map<string, Names>();
    this.byPair.set(from, row.set(to, names));
  }
}

const isForAll = (mac: string): boolean => /^(ff|01)/.test(mac);
