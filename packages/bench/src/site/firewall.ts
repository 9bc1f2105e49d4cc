import { clientPort } from '../ether/dhcp-client.ts';
import type { Inbound } from '../ether/host.ts';
import { settingsOf, type Standin } from '../units/standin.ts';

/** A firewall lets in what somebody allowed it to, program by program and port by port; an echo is never on the list. */
export function admits(standins: Iterable<Standin>, computer: Standin, { transport, port }: Inbound): boolean {
  if (!computer.memory.firewall) return true;
  // systems let the answers to their own client in, which come from an address that it did not ask
  if (transport === 'udp' && port === clientPort) return true;
  const here = [...standins].filter((other) => other === computer || other.computer === computer);
  return here.some((standin) =>
    settingsOf(standin).services.some(
      ({ key, receivePort }) =>
        standin.memory.allowed.has(key) &&
        receivePort === port &&
        standin.type.services.find((service) => service.key === key)?.transport === transport,
    ),
  );
}
