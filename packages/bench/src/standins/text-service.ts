import type { Duplex } from 'node:stream';
import type { show } from '@deep-patch/core';
import type { ServiceSetting } from '../setup.ts';
import { fitInAddress, matchCommand } from './match-command.ts';
import { act, deed, filled, guarded, isUp, type Standin } from './standin.ts';

const longestLine = 1024;

/** Opens a line-based control: one command a line, one answer a line, ended by a line feed with or without a return. */
export function openText(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  standin.closers.push(() => standin.host.tcp.close(service.receivePort));
  const door = (stream: Duplex) => {
    let held = '';
    stream.on('end', () => stream.end());
    stream.on('data', (chunk: Buffer) => {
      if (!isUp(standin)) return;
      const lines = (held + chunk.toString('utf8')).split(/\r?\n/);
      held = (lines.pop() ?? '').slice(0, longestLine);
      for (const line of lines)
        guarded(standin, () => {
          standin.memory.heard += 1;
          stream.write(`${obey(standin, type, line.slice(0, longestLine).trim())}\r\n`);
        });
    });
  };
  standin.streamDoors.set(service.key, door);
  const opened = standin.host.tcp.listen(service.receivePort, door);
  if (!opened) standin.crowdedOut.add(service.key);
}

function obey(standin: Standin, type: show.ServiceType, line: string): string {
  const match = matchCommand(type.commands, line, undefined, ' ');
  if (!match || match.rest.length > 0 || !fitInAddress(match)) {
    standin.report({ from: 'stream', protocol: 'text', text: `“${line}” means nothing here`, ok: false });
    return 'error unknown command';
  }
  if (!act(standin, match.command, match.values)) return 'error no show is open';
  const { reply } = match.command;
  return reply ? filled(reply.address, match.values) : `ok ${deed(match.command, match.values)}`;
}
