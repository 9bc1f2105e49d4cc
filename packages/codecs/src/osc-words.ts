import type { OscArg, OscPacket } from './osc.ts';

/** A packet as people read it in a log: address, then values with their tags where these are not plain. */
export function oscWords(packet: OscPacket): string {
  if ('elements' in packet) return `bundle (${packet.elements.map(oscWords).join('; ')})`;
  return [packet.address, ...packet.args.map(argWords)].join(' ');
}

function argWords(arg: OscArg): string {
  switch (arg.type) {
    case 'i':
    case 'h':
    case 't':
      return String(arg.value);
    case 'f':
    case 'd':
      return Number.isInteger(arg.value) ? arg.value.toFixed(1) : String(Number(arg.value.toPrecision(7)));
    case 's':
    case 'S':
    case 'c':
      return `"${arg.value}"`;
    case 'b':
    case 'r':
    case 'm':
      return `${arg.type}:${[...arg.value.slice(0, 8)].map((byte) => byte.toString(16).padStart(2, '0')).join('')}`;
    case '[':
      return `[${arg.value.map(argWords).join(' ')}]`;
    default:
      return arg.type;
  }
}
