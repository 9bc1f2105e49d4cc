import { show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';
import { agentOf } from '../../protocols/http/agent.ts';
import { requestWeb } from '../../protocols/http/web-client.ts';
import { loseEntry } from './look-up-once.ts';

const frameMs = 40;

/**
 * Taking an input on air starts the machine that feeds it (the entry's number is its input), so many frames later as
 * the take delay says: only a machine that the switcher has found. One that does not take the order is lost.
 */
export function startsPlayout(site: Surroundings, switcher: Standin): void {
  const { memory, followers } = switcher;
  const entries = core
    .rowsOf(site.plan.show, 'links')
    .filter(({ controllerId }) => controllerId === switcher.device.id);
  followers.push((command, values) => {
    if (command.key !== 'cut') return;
    const entry = entries.find(({ slot }) => String(slot) === values.get('input'));
    const ip = entry && memory.lookedUp.get(entry.id)?.ip;
    if (!entry || ip === undefined || ip === null) return;
    const frames = parseInt(memory.face.get('take delay') ?? '', 10) || 0;
    site.scheduler.after(frames * frameMs, () => {
      void start(switcher, entry, ip).then((answer) => {
        const target = site.standins.get(entry.targetId);
        if (typeof answer === 'string' && target) loseEntry(switcher, target, entry);
      });
    });
  });
}

async function start(switcher: Standin, { port }: core.Link, ip: number) {
  return requestWeb(switcher.host, {
    ip,
    port,
    method: 'POST',
    path: '/clips/1/play',
    body: {},
    login: undefined,
    agent: agentOf(switcher),
  });
}
