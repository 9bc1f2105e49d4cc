import type { contract } from '@deep-patch/core';
import { requestWeb } from '../protocols/http/web-client.ts';
import { isUp, settingsOf, type Standin } from '../units/standin.ts';
import { undotted } from '../ether/dotted.ts';

type Check = contract.ConfirmCheck;
const pass = { state: 'pass', facts: {} } as const;
const fail = (facts: Check['facts'] = {}) => ({ state: 'fail', facts }) as const;
/** What nobody can ask, or what there is nothing to ask of. */
const waits = (why: string) => ({ state: 'waits', facts: { why } }) as const;

/** Asked of a unit from the technician's computer: whether everything that was keyed in is in force, and nothing else. */
export async function confirmUnit(
  computer: Standin,
  unit: Standin,
  ip: string,
  before: string | null,
): Promise<Check[]> {
  const at = undotted(ip);
  const answers = await reachesAt(computer, unit, at);
  return [
    { key: 'answers', ...(answers ? pass : fail({ ip })) },
    { key: 'silent_before', ...(await silentBefore(computer, unit, before, ip)) },
    { key: 'version', ...versionOf(unit) },
    ...(await logins(computer, unit, answers ? at : undefined)),
  ];
}

/** An answer counts only if the unit itself got the question: somebody else may have its address. */
async function reachesAt({ host }: Standin, unit: Standin, ip: number): Promise<boolean> {
  for (let attempt = 0; attempt < 3; attempt += 1) {
    let came = false;
    const stop = unit.host.watchTaken(({ payload }) => (came ||= payload.kind === 'icmp' && payload.type === 'echo'));
    const ms = await host.ping(ip);
    stop();
    if (ms !== undefined && came) return true;
    host.doubt(ip);
  }
  return false;
}

async function silentBefore(computer: Standin, unit: Standin, before: string | null, ip: string) {
  if (before === null || before === ip) return waits('nothing');
  const was = undotted(before);
  if (unit.host.owns(was)) return fail({ ip: before });
  const isNear = computer.host.adapterFor(was) !== undefined && !computer.host.leavesByGateway(was);
  if (!isNear) return waits('away');
  return (await reachesAt(computer, unit, was)) ? fail({ ip: before }) : pass;
}

function versionOf(unit: Standin) {
  const has = settingsOf(unit).firmware;
  const wanted = unit.planned.firmware;
  if (wanted === null || has === null) return waits('unknown');
  return has === wanted ? pass : fail({ has, wanted });
}

/** Whoever does not know the password is turned away, and whoever does is let in (need 4.8). */
async function logins(computer: Standin, unit: Standin, ip: number | undefined): Promise<Check[]> {
  const service = settingsOf(unit).services.find(
    ({ key, enabled, login, account, password }) =>
      enabled && login !== 'none' && (account !== null || password !== undefined) && isWeb(unit, key),
  );
  if (!service || ip === undefined || !isUp(unit))
    return [
      { key: 'wrong_login', ...waits('none') },
      { key: 'right_login', ...waits('none') },
    ];
  const username = service.account ?? '';
  const ask = (password: string) =>
    requestWeb(computer.host, {
      ...{ ip, port: service.receivePort, method: 'GET', path: '/', body: {}, agent: computer.device.name },
      login: { username, password },
    });
  const [wrong, right] = [await ask(`${service.password ?? ''}?`), await ask(service.password ?? '')];
  const isTurnedAway = typeof wrong === 'object' && wrong.status === 401;
  const isLetIn = typeof right === 'object' && right.status !== 401 && right.status !== 403;
  return [
    { key: 'wrong_login', ...(isTurnedAway ? pass : fail()) },
    { key: 'right_login', ...(isLetIn ? pass : fail()) },
  ];
}

const isWeb = ({ type }: Standin, key: string): boolean =>
  type.services.some((service) => service.key === key && service.protocol === 'http');
