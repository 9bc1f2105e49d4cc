import {
  MtcReader,
  readDhcpMessage,
  readWake,
  type Frame,
  type Icmp,
  type Ip,
  type Tcp,
  type Udp,
} from '@deep-patch/codecs';
import { dotted } from '../ether/dotted.ts';
import { protocols } from '../protocols/all.ts';
import { namesReader } from '../protocols/names/name-service.ts';
import { say, type Conversation, type Reader, type Running, type Words } from '../protocols/protocol.ts';

/** In this order a frame is tried: what has a port of its own first. */
const readers: readonly Reader[] = [
  { datagram: dhcpWords },
  namesReader,
  ...Object.values(protocols).map(({ decode }) => decode),
  { datagram: wakeWords },
];

const datagramReaders = readers.flatMap(({ datagram }) => datagram ?? []);

const isDhcp = (port: number): boolean => port === 67 || port === 68;
const mostConversations = 500;
const aSecond = 1000;

export const datagramOf = ({ body }: Frame): Udp | undefined =>
  body.kind === 'ip' && body.payload.kind === 'udp' ? body.payload : undefined;

/** What a datagram says by itself, whatever came before: read again it says the same. */
export const wordsOf = (payload: Udp): Words => udpWords(payload);

interface Stream {
  readonly reader: MtcReader;
  said: string;
  /** When it was told last. */
  at: number;
}

/** Reads frames one by one; it remembers the open requests of HTTP, so that an answer is told with what it answers. */
export class FrameReader {
  private readonly conversations = new Map<string, Conversation>();
  /** What runs between two machines, and how far it has come. */
  private readonly streams = new Map<string, Stream>();

  /** Undefined for what is not worth a line; `at` is in milliseconds. */
  read({ body, vlan }: Frame, at: number): Words | undefined {
    if (body.kind === 'arp') return arpWords(body, vlan);
    if (body.kind !== 'ip') return undefined;
    const { payload } = body;
    if (payload.kind === 'udp') {
      const words = udpWords(payload);
      return words.running === undefined ? words : this.follow(body, words, words.running, at);
    }
    return payload.kind === 'tcp' ? this.tcpWords(body, payload) : icmpWords(payload);
  }

  private follow({ source, destination }: Ip, words: Words, running: Running, at: number): Words | undefined {
    const key = `${source} ${destination} ${running.as}`;
    const stream = this.streamAt(key);
    stream.said = running.follow(stream.reader, stream.said);
    if (stream.said === '' || at - stream.at < aSecond) return undefined;
    stream.at = at;
    return { ...say(words.protocol, stream.said), running };
  }

  private streamAt(key: string): Stream {
    const known = this.streams.get(key);
    if (known) return known;
    if (this.streams.size >= mostConversations) this.streams.clear();
    const fresh: Stream = { reader: new MtcReader(), said: '', at: -Infinity };
    this.streams.set(key, fresh);
    return fresh;
  }

  private tcpWords({ source, destination }: Ip, { bytes, sourcePort, destinationPort, flags }: Tcp) {
    const key = [`${source}:${sourcePort}`, `${destination}:${destinationPort}`].sort().join(' ');
    if (bytes.length === 0)
      return flags.includes('rst') && !this.conversations.delete(key)
        ? say('TCP', `port ${sourcePort} refuses`, false)
        : undefined;
    const conversation = this.conversationAt(key);
    for (const { stream } of readers) {
      const words = stream?.(bytes, conversation);
      if (words) return words;
    }
    return undefined;
  }

  private conversationAt(key: string): Conversation {
    const known = this.conversations.get(key);
    if (known) return known;
    if (this.conversations.size >= mostConversations) this.conversations.clear();
    const fresh = { asked: undefined };
    this.conversations.set(key, fresh);
    return fresh;
  }
}

const arpWords = (
  { asks, senderIp, targetIp, senderMac }: Extract<Frame['body'], { kind: 'arp' }>,
  vlan: number | null,
) => {
  const where = vlan === null ? '' : ` on VLAN ${vlan}`;
  if (!asks) return say('ARP', `${dotted(senderIp)} is at ${senderMac}${where}`);
  if (senderIp === targetIp) return say('ARP', `here is ${dotted(senderIp)}${where}`);
  return say('ARP', `${senderIp === 0 ? 'is anybody' : 'who has'} ${dotted(targetIp)}?${where}`);
};

function icmpWords(payload: Icmp): Words {
  if (payload.type === 'port-unreachable') return say('ICMP', `port ${payload.destinationPort} is closed`, false);
  return say('ICMP', payload.type === 'echo' ? 'are you there?' : 'here I am');
}

function udpWords(payload: Udp): Words {
  for (const read of datagramReaders) {
    const words = read(payload);
    if (words) return words;
  }
  return say('UDP', `${payload.bytes.length} bytes to port ${payload.destinationPort}`);
}

function wakeWords({ bytes }: Udp): Words | undefined {
  const mac = readWake(bytes);
  return mac === undefined ? undefined : say('wake', `wake up, ${mac}`);
}

function dhcpWords({ bytes, sourcePort, destinationPort }: Udp): Words | undefined {
  if (!isDhcp(sourcePort) || !isDhcp(destinationPort)) return undefined;
  const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  if (!message) return say('DHCP', 'malformed', false);
  const ip = message.yourIp || message.requestedIp || 0;
  const who = message.hostName ? ` from ${message.hostName}` : '';
  return say('DHCP', `${message.type}${ip ? ` ${dotted(ip)}` : ''}${who}`, message.type !== 'nak');
}
