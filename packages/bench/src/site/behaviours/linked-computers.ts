import { writeOsc } from '@deep-patch/codecs';
import type { Surroundings } from '../../units/surroundings.ts';
import { isUp, serviceOf, settingsOf, type Standin } from '../../units/standin.ts';

const nothing = '—';
const numberOf = (item: string | undefined): string => (item === undefined || item === nothing ? '0' : item);
const firstPart = (version: string | null): string => version?.split('.')[0] ?? '';

/**
 * Presentation computers that are linked move together: whoever is told to go to an item tells the others, and each
 * of those follows only from the same item. They are in one named group, and their versions agree in the first figure.
 */
export function moveTogether(site: Surroundings, own: Standin): void {
  let before = numberOf(own.memory.face.get('item'));
  own.guards.push((command, values) => command.key !== 'follow' || values.get('from') === before);
  own.followers.push((command) => {
    const now = numberOf(own.memory.face.get('item'));
    const from = before;
    before = now;
    if (command.key !== 'go-to' || now === from) return;
    for (const other of site.standins.values()) if (isLinked(own, other)) tell(own, other, from, now);
  });
}

function isLinked(own: Standin, other: Standin): boolean {
  if (other === own || !isUp(other) || other.type.model !== own.type.model) return false;
  if (other.device.peers !== own.device.peers) return false;
  const [a, b] = [own, other].map((standin) => firstPart(settingsOf(standin).firmware));
  return other.device.features.includes('linked') && a === b;
}

function tell(own: Standin, other: Standin, from: string, to: string): void {
  const ip = Object.values(other.planned.addresses)
    .flat()
    .flatMap((setting) => setting.ip ?? [])[0];
  const port = serviceOf(other, 'osc')?.receivePort;
  if (ip === undefined || port === undefined) return;
  const message = { address: `/slides/follow/${from}/${to}`, args: [] };
  void own.host.sendUdp(ip, { from: port, to: port }, writeOsc(message));
}
