import { show as core } from '@deep-patch/core';
import type { Surroundings } from '../../units/surroundings.ts';
import type { Standin } from '../../units/standin.ts';
import { requestWeb } from '../../protocols/http/web-client.ts';

const frameMs = 40;

/**
 * A switcher looks up the address of each playout machine once, when it starts or when somebody keys the entry in
 * again; a machine that was not there then stays away. Taking an input on air starts the machine that feeds it (the
 * entry's number is its input), so many frames later as the take delay says.
 */
export function startsPlayout(site: Surroundings, switcher: Standin): void {
  const { memory, followers } = switcher;
  const entries = core
    .rowsOf(site.plan.show, 'links')
    .filter(({ controllerId }) => controllerId === switcher.device.id);
  void lookUp(site, switcher, entries);
  followers.push((command, values) => {
    if (command.key !== 'cut') return;
    const entry = entries.find(({ slot }) => String(slot) === values.get('input'));
    const ip = entry && memory.lookedUp.get(entry.id);
    if (!entry || ip === undefined || ip === null) return;
    const frames = parseInt(memory.face.get('take delay') ?? '', 10) || 0;
    site.scheduler.after(frames * frameMs, () => void start(switcher, entry, ip));
  });
}

async function lookUp(
  site: Surroundings,
  { host, memory, closers }: Standin,
  entries: readonly core.Link[],
): Promise<void> {
  let wanted = true;
  closers.push(() => (wanted = false));
  await site.settled();
  for (const { id, host: typed, port, targetId } of entries) {
    const target = site.standins.get(targetId);
    if (!wanted || !target) continue;
    if (!memory.lookedUp.has(id)) {
      const ip = typed === null ? plannedIp(target) : numberOf(typed);
      const stream = ip === undefined ? 'silent' : await host.tcp.connect(ip, port);
      if (typeof stream !== 'string') stream.end();
      memory.lookedUp.set(id, ip === undefined || typeof stream === 'string' ? null : ip);
    }
    memory.face.set(target.device.name, memory.lookedUp.get(id) === null ? 'not found' : 'connected');
  }
}

const plannedIp = ({ planned }: Standin): number | undefined =>
  Object.values(planned.addresses)
    .flat()
    .flatMap(({ ip }) => ip ?? [])[0];
const numberOf = (ip: string): number => ip.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);

async function start({ host, device }: Standin, { port }: core.Link, ip: number): Promise<void> {
  await requestWeb(host, {
    ip,
    port,
    method: 'POST',
    path: '/clips/1/play',
    body: {},
    login: undefined,
    agent: device.name,
  });
}
