import { give, heldAgainst, holdStored } from '../../units/contents.ts';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, type Standin } from '../../units/standin.ts';
import { answers } from '../answers.ts';

/** Simulated time that one thing takes on its way. */
const itemMs = 400;

/**
 * Everything of one unit overwrites what another has, over the network between them. Whoever chooses the wrong direction
 * loses a mix; nothing asks twice. Throws a plain Error where they do not meet, or where one is lost on the way.
 */
export async function synchronise(
  site: Surroundings,
  from: Standin,
  to: Standin,
  tell: (done: number) => void,
): Promise<void> {
  await meet(site, from, to);
  const items = heldAgainst(from, to);
  holdStored(to);
  for (const [at, { what }] of items.entries()) {
    tell(at);
    await new Promise<void>((done) => void site.scheduler.after(itemMs, done));
    const lost = [from, to].find((standin) => !isUp(standin));
    if (lost)
      throw new Error(
        `${lost.device.name} went off after ${at} of ${items.length}: ${to.device.name} holds half of each now. Synchronise again`,
      );
    give(from, to, what);
  }
}

/** They have to be on and reach each other, if they are not on one computer. */
export async function meet(site: Surroundings, from: Standin, to: Standin): Promise<void> {
  await site.settled();
  for (const { device, memory } of [from, to].filter(
    (standin) => !isUp(standin) || standin.memory.application === 'closed',
  ))
    throw new Error(`${device.name} ${memory.application === 'closed' ? 'is closed' : 'is not switched on'}`);
  if (from.host === to.host || (await answers(from, to))) return;
  throw new Error(`${from.device.name} does not reach ${to.device.name}: set both first, and look at their link`);
}
