import { show as core, type Show } from '@deep-patch/core';
import { clientPort } from '../ether/dhcp-client.ts';
import type { Inbound } from '../ether/host.ts';
import { settingsOf, type Standin } from '../units/standin.ts';
import type { Surroundings } from '../units/surroundings.ts';

/** Allows the ports at which a controller listens for replies. */
export const repliesKey = 'replies';

/** A firewall lets in what somebody allowed it to, program by program and port by port; an echo is never on the list. */
export function admits(
  { standins, plan }: Pick<Surroundings, 'standins' | 'plan'>,
  computer: Standin,
  { transport, port }: Inbound,
): boolean {
  if (!computer.memory.firewall) return true;
  // systems let the answers to their own client in, which come from an address that it did not ask
  if (transport === 'udp' && port === clientPort) return true;
  const here = [...standins.values()].filter((other) => other === computer || other.computer === computer);
  return here.some(
    (standin) =>
      servesAt(standin, transport, port) || (transport === 'udp' && hearsRepliesAt(plan.show, standin, port)),
  );
}

function servesAt(standin: Standin, transport: Inbound['transport'], port: number): boolean {
  const { memory, type } = standin;
  return settingsOf(standin).services.some(({ key, receivePort }) => {
    const service = memory.allowed.has(key) ? type.services.find((each) => each.key === key) : undefined;
    // a session of network MIDI is let in at both of its ports
    const last = service?.protocol === 'midi' ? receivePort + 1 : receivePort;
    return service?.transport === transport && port >= receivePort && port <= last;
  });
}

const hearsRepliesAt = (show: Show, { memory, device }: Standin, port: number): boolean =>
  memory.allowed.has(repliesKey) &&
  (core.rowsBy(show, 'links', 'controllerId').get(device.id) ?? []).some(({ replyPort }) => replyPort === port);
