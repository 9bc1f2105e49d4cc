import { nameList, type Finding, type Words } from '../findings/index.ts';
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
      what: `${f['needed']} units wait for a cable and the switches have ${f['free']} free ${f['free'] === 1 ? 'socket' : 'sockets'}: ${nameList(f['names'])}.`,
      why: `${f['short']} of them find no socket.`,
      fix: 'Plan another switch, or a larger one.',
    };
  if (code === 'too_long')
    return {
      what: `The ${f['medium']} run from ${f['from']} to ${f['to']} is ${f['lengthM']} m long; ${f['mostM']} m is the most.`,
      why: 'No link comes up on it, or one that loses what it carries.',
      fix: fixes.length > 0 ? 'Lay fibre, or put a switch half way.' : 'Put a switch half way.',
    };
  return { what: code, why: '', fix: '' };
}
