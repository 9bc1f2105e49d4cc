import type { Duplex } from 'node:stream';
import { show as core, type show } from '@deep-patch/core';
import { undotted } from '../ether/dotted.ts';
import { noteOpening } from '../units/doing.ts';
import type { ServiceSetting } from '../units/settings.ts';
import { isUp, type Standin } from '../units/standin.ts';

const mostUnread = 65_536;
/** Does whoever is at the far end read what it is told? What others did is not kept for somebody who does not. */
export const keepsUp = ({ writableLength }: Duplex): boolean => writableLength < mostUnread;

/**
 * Takes connections of a service at its port. One that is to open them itself listens to nobody: it goes to the address
 * and port that were entered in it, whenever it tries.
 */
export function takeStreams(
  standin: Standin,
  service: ServiceSetting,
  type: show.ServiceType,
  door: (stream: Duplex) => void,
): void {
  const { tcp } = standin.host;
  if (core.roleOf(service, type) === 'waits') {
    noteOpening(standin, service.key, tcp.listen(service.receivePort, door), ['tcp', service.receivePort]);
    return;
  }
  standin.openers.set(type.key, async () => {
    const { sendTo, sendPort } = service;
    if (!isUp(standin) || sendTo === null || sendPort === null) return 'silent';
    const stream = await tcp.connect(undotted(sendTo), sendPort);
    if (typeof stream === 'string') return stream;
    door(stream);
    return 'open';
  });
}
