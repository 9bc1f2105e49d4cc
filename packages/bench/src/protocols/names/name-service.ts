import { AUTHORITATIVE_ANSWER, decode, encode, type Answer, type Packet } from 'dns-packet';
import { dotted } from '../../ether/dotted.ts';
import { isUp, settingsOf, type Standin } from '../../units/standin.ts';
import { protocols } from '../all.ts';
import { say, type Reader } from '../protocol.ts';
import { goodbyeTo, responseTo, type Offered, type Offers } from './records.ts';

export const namesGroup = 0xe00000fb;
export const namesPort = 5353;
/** Where others may answer too, everybody waits so long, each a little differently (RFC 6762 section 6). */
const [leastDelayMs, mostDelayMs] = [20, 120];

/** Tells what a host and its programs offer to whoever asks the group (RFC 6762, RFC 6763); one responder a machine. */
export function offerNames(standin: Standin): void {
  const { host, closers } = standin;
  host.join(namesGroup);
  const answer = (bytes: Uint8Array) => respond(standin, bytes);
  responders.set(host, [...(responders.get(host) ?? []), answer]);
  offering.set(standin, answer);
  const offered = offersOf(standin);
  closers.push(() => {
    responders.set(
      host,
      (responders.get(host) ?? []).filter((known) => known !== answer),
    );
    if (offering.get(standin) === answer) offering.delete(standin);
    // what comes again at once, as after something was keyed in, was never gone
    if (isUp(standin)) host.scheduler.after(1, () => sayGoodbye(standin, offered));
  });
  // the first one opens the port for all of the machine, and it stays open until the machine goes off
  host.listen(namesPort, ({ bytes }) => {
    for (const each of responders.get(host) ?? []) each(bytes);
  });
}

/** Takes back what is not offered any more, so that nobody aims at it until it would have run out (RFC 6762 section 10.1). */
function sayGoodbye(standin: Standin, offered: Offers): void {
  const left = offering.has(standin) ? offersOf(standin).services : [];
  const answers = goodbyeTo(
    offered.services.filter((gone) => !left.some(({ instance }) => instance === gone.instance)),
  );
  if (answers.length > 0 && isUp(standin)) tell(standin, { answers, additionals: [] });
}

const offering = new WeakMap<Standin, (bytes: Uint8Array) => void>();
const responders = new WeakMap<Standin['host'], readonly ((bytes: Uint8Array) => void)[]>();

function respond(standin: Standin, bytes: Uint8Array): void {
  const query = queryIn(bytes);
  const response = query && responseTo(query, offersOf(standin));
  if (!response) return;
  const { answers, additionals, shared } = response;
  const send = () => tell(standin, { answers, additionals });
  if (!shared) {
    send();
    return;
  }
  const cancel = standin.host.scheduler.after(delayOf(standin.device.id), () => {
    standin.closers.splice(standin.closers.indexOf(cancel), 1);
    send();
  });
  standin.closers.push(cancel);
}

function tell({ host }: Standin, records: Pick<Packet, 'answers' | 'additionals'>): void {
  const packet = encode({ type: 'response', flags: AUTHORITATIVE_ANSWER, ...records });
  void host.sendUdp(namesGroup, { from: namesPort, to: namesPort }, new Uint8Array(packet));
}

/** The same for a unit each time, so that runs are alike. */
function delayOf(id: string): number {
  let hash = 0;
  for (const letter of id) hash = (hash * 31 + letter.charCodeAt(0)) % 997;
  return leastDelayMs + ((mostDelayMs - leastDelayMs) * hash) / 997;
}

function queryIn(bytes: Uint8Array): Packet | undefined {
  try {
    return decode(Buffer.from(bytes));
  } catch {
    return undefined;
  }
}

export const hostNameOf = (name: string): string =>
  `${name.replace(/[^A-Za-z0-9]+/g, '-').replace(/^-|-$/g, '')}.local`;

function offersOf(standin: Standin): Offers {
  const { device, type, host, crowdedOut } = standin;
  const { services, firmware } = settingsOf(standin);
  return {
    host: hostNameOf(device.hostName || device.name),
    ips: host.adapters.flatMap(({ addresses }) => addresses.map(({ ip }) => dotted(ip))),
    services: services.flatMap(({ key, enabled, receivePort }): Offered[] => {
      const own = type.services.find((service) => service.key === key);
      if (!own || !enabled || crowdedOut.has(key)) return [];
      const name = protocols[own.protocol].name[own.transport];
      const instance = `${device.name.replaceAll('.', ' ')}.${name}`;
      return [{ type: name, instance, port: receivePort, text: firmware === null ? '' : `version=${firmware}` }];
    }),
  };
}

/** Questions and answers as a tap tells them. */
export const namesReader: Reader = {
  datagram: ({ bytes, destinationPort }) => (destinationPort === namesPort ? nameWords(bytes) : undefined),
};

function nameWords(bytes: Uint8Array) {
  try {
    const packet = decode(Buffer.from(bytes));
    const questions = (packet.questions ?? []).map(({ name }) => `who offers ${name}?`);
    const answers = (packet.answers ?? []).map((answer: Answer) => answer.name);
    return say('DNS-SD', [...questions, ...answers].slice(0, 4).join(', ') || 'nothing');
  } catch {
    return say('DNS-SD', 'malformed', false);
  }
}
