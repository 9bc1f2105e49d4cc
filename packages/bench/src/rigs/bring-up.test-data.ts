import { addressing, bringup, show as core, type Show } from '@deep-patch/core';
import { SiteActs } from '../acts.ts';
import { startScheduler } from '../ether/scheduler.ts';
import { Site } from '../site/site.ts';
import { isUp, settingsOf, type Standin } from '../units/standin.ts';

/** What became of a rig that was set by its sheet, and everything that should not have happened on the way. */
export interface BroughtUp {
  readonly steps: number;
  readonly faults: readonly string[];
  /** Confirmations that passed, and those that did not: what is wrong with the plan itself shows there. */
  readonly confirmed: number;
  readonly unconfirmed: readonly string[];
  readonly asPlanned: number;
  readonly blocked: readonly string[];
  readonly show: Show;
}

export interface Mishaps {
  /** Asked before each step: what goes wrong with it. */
  readonly at: (step: bringup.BringUpStep) => 'failed' | 'skipped' | 'shows' | 'interrupted' | undefined;
}

/** A unit may move on after it was read off, as when a step was left half way: somebody looks again, but not for ever. */
const mostReadings = 3;

/** Sets a rig as delivered on a bench that no clock paces, doing nothing but what the sheet says, step by step. */
export async function bringUpOnBench(
  rig: Show,
  passwords: Readonly<Record<string, string>>,
  mishaps: Mishaps = { at: () => undefined },
): Promise<BroughtUp> {
  const scheduler = startScheduler(Infinity);
  const faults: string[] = [];
  const unconfirmed: string[] = [];
  let confirmed = 0;
  const read = new Set<string>();
  const corrected = new Map<string, number>();
  let [show, steps, at] = [rig, 0, 1];
  try {
    const site = new Site({ show, passwords }, scheduler, () => 0.5, 0);
    const acts = new SiteActs(site, () => 0.5, { found: () => undefined, sounded: () => undefined });
    const all = Object.keys(show.devices);
    site.power(all, true);
    await acts.do({ act: 'factory', deviceIds: all });
    site.power(all, false);
    const computer = bringup.techniciansComputer(show);
    if (computer) {
      site.power([computer.id], true);
      for (const { key } of core.typeOf(show, computer)?.adapters ?? [])
        await acts.do({ act: 'set_computer', deviceId: computer.id, adapter: key, addresses: [] });
    }
    const apply = (change: core.Change | undefined) => {
      if (!change) return;
      const applied = core.applyChange(show, change);
      if (!applied.ok) throw new Error('somebody else moved it');
      show = applied.show;
      // a version that is another is part of the plan, and the site is built anew
      if (change.edits.every(({ table }) => table === 'progress' || table === 'keyedIn'))
        site.renew({ show, passwords });
      else site.load({ show, passwords });
    };
    for (; steps < 400; steps += 1) {
      const plan = bringup.bringUp(show);
      const [step] = plan.steps;
      if (!step) return { steps, faults, confirmed, unconfirmed, ...outcome(site, plan), show };
      const said = { by: 'crew', at: (at += 60_000) };
      const mishap = step.kind === 'computer' ? undefined : mishaps.at(step);
      const lies = mishap === 'shows' && step.kind === 'key_in' && readOff(site, step.deviceId);
      if (mishap === 'failed' || mishap === 'skipped') {
        // what is not joined is off, as the sheet asks: somebody may have begun it
        if (step.kind === 'join') site.power([step.deviceId], false);
        apply(bringup.planLeaveStep(show, step, mishap, '', said));
        continue;
      }
      if (lies && !read.has(step.deviceId)) {
        // somebody looks at it and finds that it is not where the sheet believes it
        read.add(step.deviceId);
        apply(bringup.planShowsOther(show, step.deviceId, lies, said));
        continue;
      }
      try {
        for (const deed of bringup.stepDeeds(show, plan, step))
          if (deed.kind === 'power') site.power([deed.deviceId], deed.on);
          else await acts.do(deed.wanted);
      } catch (error) {
        const own = readOff(site, step.deviceId);
        // where a server or the unit itself picked the address, or nobody wrote down that it was set, somebody reads it off:
        // another one than the sheet believes, or none any more
        const isOther = own ? isElsewhere(step.before, own) : step.before !== 'none';
        const times = corrected.get(step.deviceId) ?? 0;
        if (step.kind === 'key_in' && isOther && times < mostReadings) {
          corrected.set(step.deviceId, times + 1);
          apply(bringup.planShowsOther(show, step.deviceId, own ?? null, said));
          continue;
        }
        if (step.kind === 'update') {
          // set as planned it answers nowhere: the plan itself is wrong there, as where a confirmation fails
          unconfirmed.push(`${step.key}: ${String(error)}`);
          apply(bringup.planLeaveStep(show, step, 'failed', '', said));
          continue;
        }
        faults.push(`${step.key}: ${error instanceof Error ? error.message : String(error)}`);
      }
      await site.settled();
      await new Promise<void>((done) => void scheduler.after(3000, done));
      for (const [id, standin] of site.standins)
        for (const [ip, mac] of standin.host.neighbours.conflicts)
          if (!isPooled(show, ip) && !standin.host.adapters.some((own) => own.mac === mac))
            faults.push(`after ${step.key} ${id} has ${ip.toString(16)} as ${mac} has`);
      const isConfirmed = step.kind !== 'confirm' || acts.confirming?.checks.every(({ state }) => state !== 'fail');
      if (!isConfirmed) unconfirmed.push(`${step.key}: ${JSON.stringify(acts.confirming?.checks)}`);
      if (faults.length > 0) return { steps, faults, confirmed, unconfirmed, ...outcome(site, plan), show };
      // whoever was interrupted finds the step again, and does it a second time
      if (mishap === 'interrupted') continue;
      if (!isConfirmed) {
        apply(bringup.planLeaveStep(show, step, 'failed', '', said));
        continue;
      }
      confirmed += Number(step.kind === 'confirm');
      apply(bringup.planStepDone(show, addressing.addressingFacts(show), plan, step, said));
    }
    faults.push(`it never ends: ${bringup.bringUp(show).steps[0]?.key}`);
    return { steps, faults, confirmed, unconfirmed, asPlanned: 0, blocked: [], show };
  } finally {
    scheduler.stop();
  }
}

const isElsewhere = (believed: bringup.Standing, own: bringup.Place): boolean =>
  typeof believed === 'string' || believed.ip !== own.ip;

/** The address that a unit shows, where it has one. */
const readOff = (site: Site, id: string): bringup.Place | undefined =>
  site.standins.get(id)?.host.adapters.flatMap(({ addresses }) => addresses)[0];

/** A server hands it out: whoever has it by hand as well clashes by plan, whatever the order. */
const isPooled = (show: Show, ip: number): boolean =>
  core
    .rowsOf(show, 'networks')
    .some(
      ({ poolFrom, poolTo }) =>
        poolFrom !== null && poolTo !== null && ip >= addressing.mustIp(poolFrom) && ip <= addressing.mustIp(poolTo),
    );

/** Units that are exactly as planned; of the others why they are not. */
function outcome(site: Site, plan: bringup.BringUp): Pick<BroughtUp, 'asPlanned' | 'blocked'> {
  const blocked = new Set(plan.blocked.map(({ deviceId }) => deviceId));
  const open: string[] = [];
  let asPlanned = 0;
  for (const [id, standin] of site.standins) {
    if (id === plan.computer?.id) continue;
    const { addresses, services, variant } = settingsOf(standin);
    const { planned } = standin;
    const isSame =
      isUp(standin) &&
      Object.entries(essenceOf(planned.addresses)).every(([key, wanted]) =>
        core.isEqual(essenceOf(addresses)[key], wanted),
      ) &&
      planned.services.every((wanted) =>
        isSet(
          standin,
          services.find(({ key }) => key === wanted.key),
          wanted,
        ),
      ) &&
      variant === planned.variant;
    if (isSame) asPlanned += 1;
    else if (!blocked.has(id))
      open.push(
        `${id} is not as planned: ${isUp(standin) ? '' : 'down '}${JSON.stringify([addresses, planned.addresses, variant])}`,
      );
  }
  return { asPlanned, blocked: [...plan.blocked.map(({ deviceId, code }) => `${deviceId} ${code}`), ...open] };
}

type Settings = ReturnType<typeof settingsOf>;
type Service = Settings['services'][number];

/** What somebody who looks at the menu can tell: an adapter asks a server or it does not, however many rows say so. */
const essenceOf = (addresses: Settings['addresses']) =>
  Object.fromEntries(
    Object.entries(addresses)
      .filter(([, list]) => list.length > 0)
      .map(([adapter, list]) => [
        adapter,
        [
          ...list.flatMap(({ method, ip, prefix, gateway }) => (method === 'static' ? [{ ip, prefix, gateway }] : [])),
          ...new Set(list.map(({ method }) => method).filter((method) => method !== 'static')),
        ],
      ]),
  );

/** What is off has no ports, and what asks for no login no account. */
function isSet({ type }: Standin, has: Service | undefined, wanted: Service): boolean {
  const offered = type.services.find(({ key }) => key === wanted.key);
  if (!offered || !has) return !offered;
  if (!wanted.enabled || !has.enabled) return wanted.enabled === has.enabled;
  const told = ({ receivePort, sendPort, sendTo }: Service) => [
    receivePort,
    sendPort,
    sendPort === null ? null : sendTo,
  ];
  const login = ({ account, password }: Service) => [account, password];
  const asks = (wanted.login ?? offered.logins[0]) !== 'none';
  return (
    core.isEqual(told(has), told(wanted)) &&
    core.roleOf(has, offered) === core.roleOf(wanted, offered) &&
    (!asks || core.isEqual(login(has), login(wanted)))
  );
}
