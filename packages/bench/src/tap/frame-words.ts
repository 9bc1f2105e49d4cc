import { decode, type Answer } from 'dns-packet';
import {
  midiWords,
  oscWords,
  readDhcpMessage,
  readOsc,
  readRtpMidi,
  readWake,
  SlipReader,
  type Frame,
  type Icmp,
  type Ip,
  type OscPacket,
  type Tcp,
  type Udp,
} from '@deep-patch/codecs';
import { dotted } from '../standins/standin.ts';

/** What a frame says, for people: the protocol, the message, and whether it went well as far as it tells. */
export interface FrameWords {
  readonly protocol: string;
  /** Made only when somebody reads it: most lines of a full network pass by unread. */
  readonly text: string | (() => string);
  readonly ok: boolean;
  readonly osc?: OscPacket;
}

const say = (protocol: string, text: string, ok = true) => ({ protocol, text, ok });
const [dhcpServer, dhcpClient, names] = [67, 68, 5353];
const mostRequests = 500;
/** Running time code would drown everything else: a line for each second of it. */
const quartersASecond = 100;

/** Reads frames one by one; it remembers the open requests of HTTP, so that an answer is told with what it answers. */
export class FrameReader {
  private readonly requests = new Map<string, string>();
  private quarters = 0;

  read({ body, vlan }: Frame): FrameWords | undefined {
    if (body.kind === 'arp') return arpWords(body, vlan);
    if (body.kind !== 'ip') return undefined;
    const { payload } = body;
    if (payload.kind === 'udp') {
      const words = udpWords(payload);
      const isQuarter = typeof words.text === 'string' && words.text.startsWith('quarter-frame');
      if (!isQuarter) return words;
      this.quarters += 1;
      return this.quarters % quartersASecond === 1 ? say('MIDI', 'time code is running') : undefined;
    }
    return payload.kind === 'tcp' ? this.tcpWords(body, payload) : icmpWords(payload);
  }

  private tcpWords({ source, destination }: Ip, { bytes, sourcePort, destinationPort, flags }: Tcp) {
    const key = [`${source}:${sourcePort}`, `${destination}:${destinationPort}`].sort().join(' ');
    if (bytes.length === 0)
      return flags.includes('rst') && !this.requests.delete(key)
        ? say('TCP', `port ${sourcePort} refuses`, false)
        : undefined;
    if (bytes[0] === 0xc0) return slipWords(bytes);
    const head = Buffer.from(bytes.subarray(0, 400)).toString('latin1');
    const line = head.split('\r\n')[0] ?? '';
    if (/^(GET|PUT|POST|DELETE|HEAD|OPTIONS) /.test(line)) {
      if (this.requests.size >= mostRequests) this.requests.clear();
      const request = line.replace(/ HTTP\/1\.\d$/, '');
      this.requests.set(key, request);
      return say('HTTP', request);
    }
    const status = /^HTTP\/1\.\d (\d{3})/.exec(line)?.[1];
    if (status !== undefined) {
      const request = this.requests.get(key);
      return say('HTTP', `${status}${request ? ` to ${request}` : ''}`, Number(status) < 400);
    }
    return /^[\x20-\x7e]+$/.test(line) && !this.requests.has(key) ? say('text', line) : undefined;
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

function icmpWords(payload: Icmp): FrameWords {
  if (payload.type === 'port-unreachable') return say('ICMP', `port ${payload.destinationPort} is closed`, false);
  return say('ICMP', payload.type === 'echo' ? 'are you there?' : 'here I am');
}

function udpWords({ bytes, sourcePort, destinationPort }: Udp): FrameWords {
  if ([sourcePort, destinationPort].every((port) => port === dhcpServer || port === dhcpClient))
    return dhcpWords(bytes);
  if (destinationPort === names) return nameWords(bytes);
  const [first, second = 0] = bytes;
  if ((first === 0xff && second === 0xff) || (first !== undefined && first >> 6 === 2 && (second & 127) === 97)) {
    const mac = readWake(bytes);
    return mac ? say('wake', `wake up, ${mac}`) : midiLine(bytes);
  }
  return first === 0x2f || first === 0x23
    ? oscLine(bytes)
    : say('UDP', `${bytes.length} bytes to port ${destinationPort}`);
}

function oscLine(bytes: Uint8Array): FrameWords {
  const read = readOsc(bytes);
  if (!read.ok) return say('OSC', `malformed at byte ${read.at}: ${read.fault}`, false);
  const { packet } = read;
  return { protocol: 'OSC', text: () => oscWords(packet), ok: true, osc: packet };
}

function slipWords(bytes: Uint8Array): FrameWords {
  const [packet] = new SlipReader().push(bytes);
  return packet ? oscLine(packet) : say('TCP', `${bytes.length} bytes`);
}

function midiLine(bytes: Uint8Array): FrameWords {
  const read = readRtpMidi(bytes);
  if (!read.ok) return say('MIDI', `malformed at byte ${read.at}: ${read.fault}`, false);
  const { packet } = read;
  if (packet.kind === 'midi')
    return say('MIDI', packet.messages.map(({ bytes: message }) => midiWords(message)).join('; '));
  const name = 'name' in packet && packet.name ? ` “${packet.name}”` : '';
  return say('MIDI', `session: ${packet.kind}${name}`, packet.kind !== 'refuse');
}

function dhcpWords(bytes: Uint8Array): FrameWords {
  const message = readDhcpMessage(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
  if (!message) return say('DHCP', 'malformed', false);
  const ip = message.yourIp || message.requestedIp || 0;
  const who = message.hostName ? ` from ${message.hostName}` : '';
  return say('DHCP', `${message.type}${ip ? ` ${dotted(ip)}` : ''}${who}`, message.type !== 'nak');
}

function nameWords(bytes: Uint8Array): FrameWords {
  try {
    const packet = decode(Buffer.from(bytes));
    const questions = (packet.questions ?? []).map(({ name }) => `who offers ${name}?`);
    const answers = (packet.answers ?? []).map((answer: Answer) => answer.name);
    return say('DNS-SD', [...questions, ...answers].slice(0, 4).join(', ') || 'nothing');
  } catch {
    return say('DNS-SD', 'malformed', false);
  }
}
