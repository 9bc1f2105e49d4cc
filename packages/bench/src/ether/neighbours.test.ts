import type { Arp, Frame } from '@deep-patch/codecs';
import { describe, expect, test } from 'vitest';
import { Neighbours } from './neighbours.ts';
import type { Scheduler } from './scheduler.ts';
import type { Adapter } from './ways.ts';

/** Time that passes only when a test lets it. */
function clockwork(): Scheduler & { pass: (ms: number) => Promise<void> } {
  let now = 0;
  let events: { due: number; run: () => void }[] = [];
  return {
    now: () => now,
    after: (ms, run) => {
      const event = { due: now + ms, run };
      events.push(event);
      return () => (events = events.filter((other) => other !== event));
    },
    light: (ms: number, run: () => void) => void events.push({ due: now + ms, run }),
    catchUp: () => undefined,
    stop: () => (events = []),
    pass: async (ms) => {
      const end = now + ms;
      for (;;) {
        const next = events.filter(({ due }) => due <= end).sort((a, b) => a.due - b.due)[0];
        if (!next) break;
        events = events.filter((other) => other !== next);
        now = next.due;
        next.run();
        await Promise.resolve();
      }
      now = end;
    },
  };
}

const ip = (last: number) => 0x0a000000 + last;
const mac = (last: number) => `02:00:00:00:00:0${last}`;
const arp = (from: number, sender: number, target: number, asks = true): Arp => ({
  kind: 'arp',
  asks,
  senderMac: mac(from),
  senderIp: sender === 0 ? 0 : ip(sender),
  targetIp: ip(target),
});

/** One machine with an untagged address 1 and a tagged address 2, and what it sends. */
function lab() {
  const scheduler = clockwork();
  const adapter: Adapter = {
    key: 'lan',
    mac: mac(1),
    port: { cable: undefined, isPowered: () => true, receive: () => undefined },
    addresses: [
      { ip: ip(1), prefix: 24, gateway: null, tag: null },
      { ip: ip(2), prefix: 24, gateway: null, tag: 30 },
    ],
  };
  const sent: Frame[] = [];
  const neighbours = new Neighbours(scheduler, [adapter], (_from, frame) => sent.push(frame));
  const own = adapter.addresses[0] as Adapter['addresses'][number];
  const way = (next: number, from = own) => ({ adapter, own: from, next: ip(next) });
  const said = () => sent.splice(0).map(({ to, vlan, body }) => ({ to, vlan, ...(body as Arp) }));
  return { adapter, neighbours, way, wait: scheduler.pass, said };
}
const everybody = 'ff:ff:ff:ff:ff:ff';

describe('asking', () => {
  test('whoever answers first is known from then on, and asked for no more', async () => {
    const { adapter, neighbours, way, said } = lab();
    const asked = neighbours.macOf(way(9));
    expect(said()).toMatchObject([{ to: everybody, vlan: null, asks: true, senderIp: ip(1), targetIp: ip(9) }]);
    neighbours.take(adapter, arp(9, 9, 1, false), null);
    expect([await asked, await neighbours.macOf(way(9)), said()]).toEqual([mac(9), mac(9), []]);
  });

  test('after the whole wait two answers are two owners, and none is nobody', async () => {
    const { adapter, neighbours, way, wait } = lab();
    const asked = neighbours.ask(way(9), true);
    for (const from of [8, 9]) neighbours.take(adapter, arp(from, 9, 1, false), null);
    await wait(400);
    expect(await asked).toEqual([mac(8), mac(9)]);
    const [all, first] = [neighbours.ask(way(7), true), neighbours.macOf(way(7))];
    await wait(400);
    expect([await all, await first]).toEqual([[], undefined]);
  });

  test('what one interface knows the other one does not', async () => {
    const { adapter, neighbours, way } = lab();
    neighbours.take(adapter, arp(9, 9, 1, false), null);
    neighbours.take(adapter, arp(8, 9, 2, false), 30);
    const tagged = adapter.addresses[1] as Adapter['addresses'][number];
    expect([await neighbours.macOf(way(9)), await neighbours.macOf(way(9, tagged))]).toEqual([mac(9), mac(8)]);
  });

  test('a question tells news of somebody who is known, and introduces nobody', async () => {
    const { adapter, neighbours, way, wait } = lab();
    const nobody = async (last: number) => {
      const asked = neighbours.macOf(way(last));
      await wait(400);
      return asked;
    };
    neighbours.take(adapter, arp(7, 7, 5), null);
    expect(await nobody(7)).toBeUndefined();
    neighbours.take(adapter, arp(9, 9, 1, false), null);
    neighbours.take(adapter, arp(6, 9, 5), null);
    expect(await neighbours.macOf(way(9))).toBe(mac(6));
    neighbours.forget();
    expect(await nobody(9)).toBeUndefined();
  });
});

describe('its own addresses', () => {
  test('it answers for each on its own VLAN only', () => {
    const { adapter, neighbours, said } = lab();
    neighbours.take(adapter, arp(9, 9, 1), null);
    neighbours.take(adapter, arp(9, 9, 2), 30);
    neighbours.take(adapter, arp(9, 9, 2), null);
    neighbours.take(adapter, arp(9, 9, 1), 30);
    neighbours.take(adapter, arp(9, 9, 3), null);
    expect(said()).toMatchObject([
      { to: mac(9), vlan: null, asks: false, senderIp: ip(1), targetIp: ip(9) },
      { to: mac(9), vlan: 30, asks: false, senderIp: ip(2), targetIp: ip(9) },
    ]);
  });

  test('they are announced twice, unless they are others by then', async () => {
    const { adapter, neighbours, wait, said } = lab();
    neighbours.announce(adapter);
    expect(said().map(({ vlan, senderIp, targetIp }) => [vlan, senderIp, targetIp])).toEqual([
      [null, ip(1), ip(1)],
      [30, ip(2), ip(2)],
    ]);
    await wait(2100);
    expect(said()).toHaveLength(2);
    await wait(5000);
    neighbours.announce(adapter);
    adapter.addresses = [];
    said();
    await wait(2100);
    expect(said()).toEqual([]);
  });

  test('somebody else who claims one is noted, and answered at most every ten seconds', async () => {
    const { adapter, neighbours, wait, said } = lab();
    neighbours.take(adapter, arp(1, 1, 1), null);
    expect([...neighbours.conflicts]).toEqual([]);
    said();
    neighbours.take(adapter, arp(9, 1, 5), null);
    neighbours.take(adapter, arp(9, 1, 5), null);
    expect([...neighbours.conflicts]).toEqual([[ip(1), mac(9)]]);
    expect(said()).toMatchObject([{ to: everybody, senderIp: ip(1), targetIp: ip(1) }]);
    await wait(10_001);
    neighbours.take(adapter, arp(9, 1, 5), null);
    expect(said()).toHaveLength(1);
    // on another VLAN it is another's address
    neighbours.forget();
    neighbours.take(adapter, arp(9, 1, 5), 30);
    expect([...neighbours.conflicts]).toEqual([]);
  });
});

describe('probing', () => {
  const probe = async (...heard: readonly (readonly [Arp, number | null])[]) => {
    const { adapter, neighbours, said, wait } = lab();
    const asked = neighbours.isTaken(adapter, ip(9), 100, 30);
    expect(said()).toMatchObject([{ vlan: 30, asks: true, senderIp: 0, targetIp: ip(9) }]);
    for (const [message, vlan] of heard) neighbours.take(adapter, message, vlan);
    await wait(100);
    return asked;
  };

  test('an answer, a claim or another probe in the same place takes it; anything elsewhere does not', async () => {
    expect(await probe()).toBe(false);
    expect(await probe([arp(9, 9, 1, false), 30])).toBe(true);
    expect(await probe([arp(9, 9, 9), 30])).toBe(true);
    expect(await probe([arp(9, 0, 9), 30])).toBe(true);
    expect(await probe([arp(1, 0, 9), 30])).toBe(false);
    expect(await probe([arp(9, 0, 9), null])).toBe(false);
    expect(await probe([arp(9, 9, 1, false), null])).toBe(false);
    expect(await probe([arp(9, 8, 1, false), 30])).toBe(false);
    expect(await probe([arp(9, 0, 8), 30])).toBe(false);
  });

  test('what is heard after the wait concerns nobody', async () => {
    const { adapter, neighbours, wait } = lab();
    const asked = neighbours.isTaken(adapter, ip(9), 50);
    await wait(50);
    expect(await asked).toBe(false);
    expect(() => neighbours.take(adapter, arp(9, 9, 1, false), null)).not.toThrow();
  });
});
