import { addressing, links, show as core, type Show } from '@deep-patch/core';
import { diceOf, randomRig } from '@deep-patch/demo/rigs';
import { casesOf } from '@deep-patch/core/cases';
import { expect, test } from 'vitest';
import { startScheduler, type Scheduler } from '../ether/scheduler.ts';
import { Faults } from '../faults/faults.ts';
import { Site } from '../site/site.ts';
import { settingsOf } from '../units/standin.ts';

const rigs = casesOf(60);
/** A switch that starts again lets frames through after twice its forward delay (IEEE 802.1D table 17-1). */
const treeMs = 40_000;
/** A plain switch hears of no change of the tree: it sends the old way until what it learnt is old (IEEE 802.1D table 7-5). */
const agingMs = 310_000;

/** Where an engineer would look for what each fault stops, wherever on the way it is. */
const stopsAt: Readonly<Record<core.FaultKind, readonly core.LayerName[]>> = {
  power_off: ['cable', 'segment', 'address', 'reply'],
  cable_out: ['cable', 'segment', 'address', 'reply'],
  cable_swapped: ['cable', 'segment', 'address', 'reply'],
  wrong_vlan: ['segment', 'address', 'reply'],
  // behind a router the way there is proven by an echo, which the other owner may answer
  second_unit: ['segment', 'address', 'reply'],
  // a mask that reaches nobody leaves another adapter to be used, which may have no cable or sit elsewhere
  wrong_mask: ['cable', 'segment', 'address', 'reply'],
  dhcp_gone: ['address', 'reply'],
  // where neither the echo nor anything else is answered, it looks as if nothing led back
  firewall_on: ['address', 'port', 'service', 'access', 'message', 'reply'],
  application_closed: ['port', 'service', 'reply'],
  no_show_open: ['service', 'message', 'reply'],
  helper_quit: ['service', 'message', 'reply'],
  old_firmware: ['port', 'service', 'reply'],
  password_changed: ['access', 'reply'],
  wireless_loss: ['segment', 'address', 'port', 'service', 'access', 'message', 'reply'],
  loop: ['segment', 'address', 'reply'],
  factory_reset: ['cable', 'segment', 'address', 'port', 'service', 'access', 'reply'],
};
/** Faults after which a link cannot work if they are at an end of it. */
const always: ReadonlySet<string> = new Set([
  'power_off controller',
  'power_off target',
  'application_closed controller',
]);

type Stops = Readonly<Record<string, string>>;

test(`on ${rigs} random rigs every fault stops what an engineer would expect, and mended it leaves nothing behind`, async () => {
  // fixed, so that chance blocks nothing: RIG_SEED tries others
  const seed = Number(process.env['RIG_SEED'] ?? 726_653_323);
  const cases = new Map<core.FaultKind, number>();
  const stopped = new Set<core.FaultKind>();
  for (let at = 0; at < rigs; at += 1) {
    const rig = randomRig(seed + at);
    const found = await tryFaults(rig.show, rig.passwords, diceOf(seed + at));
    expect([`RIG_SEED=${seed + at}`, found.wrong]).toEqual([`RIG_SEED=${seed + at}`, []]);
    for (const { kind, stops } of found.tried) {
      cases.set(kind, (cases.get(kind) ?? 0) + 1);
      if (stops) stopped.add(kind);
    }
  }
  expect([...cases.values()].reduce((sum, count) => sum + count, 0)).toBeGreaterThan(rigs * 2);
  // those that fit few units come seldom, and the bench's own tests have each of them; a firewall lets answers in
  expect([cases.size >= 10, [...cases]]).toEqual([true, [...cases]]);
  for (const kind of ['power_off', 'cable_out', 'second_unit', 'factory_reset'] as const)
    expect([kind, stopped.has(kind)]).toEqual([kind, true]);
}, 300_000);

async function tryFaults(show: Show, passwords: Readonly<Record<string, string>>, dice: ReturnType<typeof diceOf>) {
  const scheduler = startScheduler(Infinity);
  const site = new Site({ show, passwords }, scheduler, () => 0.5, 0);
  site.power(Object.keys(show.devices), true);
  const tried: { kind: core.FaultKind; stops: boolean }[] = [];
  const wrong: unknown[] = [];
  const faults = new Faults(site);
  const before = await stopsOf(site, show);
  const was = keyedIn(site);
  const working = core.rowsOf(show, 'links').filter(({ id }) => before[id] === 'bottom');
  const link = working.length > 0 ? dice.pick(working) : undefined;
  for (const [role, deviceId] of link ? placesOf(show, link, dice) : [])
    for (const kind of core.faultKinds) {
      const id = trySet(faults, kind, deviceId);
      if (id === undefined) continue;
      await pass(scheduler, mayJoin(show, deviceId) ? treeMs : 1500);
      const during = await stopsOf(site, show);
      faults.clear(id);
      await pass(scheduler, mayJoin(show, deviceId) ? agingMs : 1500);
      const after = await stopsOf(site, show);
      const told = { kind, role, deviceId };
      const hit = Object.keys(before).filter((one) => before[one] === 'bottom' && during[one] !== 'bottom');
      const odd = hit.filter((one) => !stopsAt[kind].some((layer) => layer === during[one]));
      if (odd.length > 0) wrong.push({ ...told, odd, during });
      if (always.has(`${kind} ${role}`) && during[link?.id ?? ''] === 'bottom') wrong.push({ ...told, during });
      if (!core.isEqual(after, before)) wrong.push({ ...told, before, after });
      if (keyedIn(site) !== was) wrong.push({ ...told, settings: 'differ' });
      tried.push({ kind, stops: hit.length > 0 });
    }
  site.load({ show: core.emptyShow({ id: show.id, name: '' }), passwords: {} });
  scheduler.stop();
  return { tried, wrong };
}

/** Both ends of a link and some other unit. */
function placesOf(show: Show, { controllerId, targetId }: core.Link, dice: ReturnType<typeof diceOf>) {
  const others = Object.keys(show.devices).filter((id) => id !== controllerId && id !== targetId);
  const ends = [
    ['controller', controllerId],
    ['target', targetId],
  ] as const;
  return others.length > 0 ? [...ends, ['other', dice.pick(others)] as const] : ends;
}

/** Switches, and units with two cables, which may pass frames on from one to the other: the tree has to settle anew. */
const mayJoin = (show: Show, deviceId: string): boolean =>
  core.typeOf(show, show.devices[deviceId])?.forwards === true ||
  core.rowsOf(show, 'cables').filter((row) => [row.fromDevice, row.toDevice].includes(deviceId)).length > 1;

function trySet(faults: Faults, kind: core.FaultKind, deviceId: string): string | undefined {
  try {
    return faults.set(kind, deviceId).id;
  } catch {
    // it says why such a fault makes no sense at that unit
    return undefined;
  }
}

const pass = (scheduler: Scheduler, ms: number) => new Promise<void>((done) => void scheduler.after(ms, done));

/** Where each link stops, but for those that depend on what a server picks. */
async function stopsOf(site: Site, show: Show): Promise<Stops> {
  const facts = links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));
  const stops: Record<string, string> = {};
  for (const link of core.rowsOf(show, 'links')) {
    if (links.forecast(show, facts, link).chance) continue;
    const measured = await site.sound(link.id);
    stops[link.id] = measured?.layers.find(({ state }) => state === 'fail')?.layer ?? 'bottom';
  }
  return stops;
}

/** What stands in every unit, and what it really has of it; leases come and go. */
const keyedIn = (site: Site): string =>
  JSON.stringify(
    [...site.standins].map(([id, standin]) => [
      id,
      settingsOf(standin),
      standin.host.adapters.map(({ addresses }) => addresses.filter(({ leased }) => !leased)),
    ]),
  );
