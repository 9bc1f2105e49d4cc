import { counted, nameList, type Finding, type Words } from '../findings/index.ts';
import { roleTexts } from '../rig/index.ts';

/** What, why and what to do for each finding of the cables. */
export function cablingWords({ code, facts: f, fixes }: Finding): Words {
  if (code === 'wrong_socket') {
    const role = roleTexts[f['role'] as keyof typeof roleTexts];
    return {
      what: `${f['name']} is plugged into ${f['socket']}, which is for ${role}${f['variant'] ? ` in the variant “${f['variant']}”` : ''}.`,
      why: `It is planned on ${f['on']}, and nothing of that network comes out of this socket.`,
      fix: fixes.length > 0 ? 'Plug it into the socket shown.' : 'Use another socket, or another network.',
    };
  }
  if (code === 'sockets_short')
    return {
      what: `${counted(f['needed'], 'unit waits', 'units wait')} for a cable and the switches have ${counted(f['free'], 'free socket')}: ${nameList(f['names'])}.`,
      why: `${counted(f['short'], 'of them finds', 'of them find')} no socket.`,
      fix: 'Plan another switch, or a larger one.',
    };
  if (code === 'too_long')
    return {
      what: `The ${f['medium']} run from ${f['from']} to ${f['to']} is ${f['lengthM']} m long; ${f['mostM']} m is the most.`,
      why: 'No link comes up on it, or one that loses what it carries.',
      fix: fixes.length > 0 ? 'Lay fibre, or put a switch half way.' : 'Put a switch half way.',
    };
  if (code === 'loop') {
    const around = f['names'] as readonly string[];
    return {
      what:
        around.length === 1
          ? `A cable leads from ${around[0]} back to ${around[0]}.`
          : `${f['count']} cables run in a circle: ${nameList(around)}.`,
      why: 'Nothing on the way cuts it, so whatever is sent to everybody runs round and fills every cable there.',
      fix: 'Take one cable of the circle out, or let managed switches cut it.',
    };
  }
  return { what: code, why: '', fix: '' };
}
