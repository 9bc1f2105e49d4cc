import { decode, encode, type Answer, type Packet } from 'dns-packet';
import type { show } from '@deep-patch/core';
import { protocols } from '../all.ts';
import { say, type Reader } from '../protocol.ts';
import type { ServiceSetting } from '../../units/settings.ts';
import { dotted } from '../../ether/dotted.ts';
import { settingsOf, type Standin } from '../../units/standin.ts';

export const namesGroup = 0xe00000fb;
export const namesPort = 5353;
const ttl = 120;

type Offer = readonly [ServiceSetting, show.ServiceType];

/** Tells what a host and its programs offer to whoever asks the group (RFC 6762, RFC 6763); one responder a machine. */
export function offerNames(standin: Standin): void {
  const { host, closers } = standin;
  host.join(namesGroup);
  const offers = settingsOf(standin).services.flatMap((service): Offer[] => {
    const type = standin.type.services.find(({ key }) => key === service.key);
    return type && service.enabled && !standin.crowdedOut.has(service.key) ? [[service, type]] : [];
  });
  const answer = (bytes: Uint8Array) => {
    const asked = questionsOf(bytes);
    const answers = offers.flatMap((offer) => recordsOf(standin, offer, asked));
    if (answers.length > 0) send(standin, { type: 'response', answers, additionals: addressesOf(standin) });
  };
  responders.set(host, [...(responders.get(host) ?? []), answer]);
  closers.push(() =>
    responders.set(
      host,
      (responders.get(host) ?? []).filter((known) => known !== answer),
    ),
  );
  // the first one opens the port for all of the machine, and it stays open until the machine goes off
  host.listen(namesPort, ({ bytes }) => {
    for (const respond of responders.get(host) ?? []) respond(bytes);
  });
}

const responders = new WeakMap<Standin['host'], readonly ((bytes: Uint8Array) => void)[]>();

function questionsOf(bytes: Uint8Array): ReadonlySet<string> {
  try {
    const packet = decode(Buffer.from(bytes));
    return new Set(packet.type === 'query' ? (packet.questions ?? []).map(({ name }) => name.toLowerCase()) : []);
  } catch {
    return new Set();
  }
}

const instanceOf = ({ device }: Standin, name: string): string => `${device.name.replaceAll('.', ' ')}.${name}`;
export const hostNameOf = (name: string): string =>
  `${name.replace(/[^A-Za-z0-9]+/g, '-').replace(/^-|-$/g, '')}.local`;

function recordsOf(standin: Standin, [service, type]: Offer, asked: ReadonlySet<string>): Answer[] {
  const name = protocols[type.protocol].name[type.transport];
  if (!asked.has(name) && !asked.has('_services._dns-sd._udp.local')) return [];
  const instance = instanceOf(standin, name);
  const { firmware } = settingsOf(standin);
  return [
    { name, type: 'PTR', ttl, data: instance },
    {
      name: instance,
      type: 'SRV',
      ttl,
      data: { port: service.receivePort, target: hostNameOf(standin.device.name), priority: 0, weight: 0 },
    },
    { name: instance, type: 'TXT', ttl, data: firmware === null ? [''] : [`version=${firmware}`] },
  ];
}

function addressesOf({ host, device }: Standin): Answer[] {
  return host.adapters.flatMap(({ addresses }) =>
    addresses.map(({ ip }): Answer => ({ name: hostNameOf(device.name), type: 'A', ttl, data: dotted(ip) })),
  );
}

function send({ host }: Standin, packet: Packet): void {
  void host.sendUdp(namesGroup, { from: namesPort, to: namesPort }, new Uint8Array(encode(packet)));
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
