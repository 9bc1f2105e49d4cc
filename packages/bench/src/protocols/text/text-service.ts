import type { Duplex } from 'node:stream';
import type { show } from '@deep-patch/core';
import type { ServiceSetting } from '../../units/settings.ts';
import { decoded, fitInAddress, matchCommand } from '../../units/match-command.ts';
import { act, count, deed, filled, guarded } from '../../units/doing.ts';
import { isUp, type Standin } from '../../units/standin.ts';
import { keepsUp, takeStreams } from '../take-streams.ts';

const longestLine = 16_384;

/** Opens a line-based control: one command a line, one answer a line, ended by a line feed with or without a return. */
export function openText(standin: Standin, service: ServiceSetting, type: show.ServiceType): void {
  const open = new Set<Duplex>();
  standin.tellers.set(type.key, ({ reply }, values) => {
    if (reply) for (const stream of open) stream.write(`${oneLine(filled(reply.address, values))}\r\n`);
  });
  takeStreams(standin, service, type, (stream) => {
    let held = '';
    open.add(stream);
    stream.on('close', () => open.delete(stream));
    stream.on('end', () => stream.end());
    stream.on('data', (chunk: Buffer) => {
      if (!isUp(standin)) return;
      const lines = (held + chunk.toString('utf8')).split(/\r?\n/);
      held = (lines.pop() ?? '').slice(0, longestLine);
      for (const line of lines)
        guarded(standin, () => {
          count(standin, type.key, 'heard');
          const { answer, toAll } = obey(standin, type, line.slice(0, longestLine).trim());
          // whoever has a connection open hears what somebody else did
          for (const each of toAll ? open : [stream]) if (each === stream || keepsUp(each)) each.write(`${answer}\r\n`);
        });
    });
  });
}

interface Answer {
  readonly answer: string;
  readonly toAll: boolean;
}

function obey(standin: Standin, type: show.ServiceType, line: string): Answer {
  const match = matchCommand(type.commands, line, { between: ' ', decode: decoded });
  if (!match || match.rest.length > 0 || !fitInAddress(match)) {
    standin.report({ from: 'stream', protocol: 'text', text: `“${line}” means nothing here`, ok: false });
    return { answer: 'error unknown command', toAll: false };
  }
  if (!act(standin, type.key, match.command, match.values)) return { answer: 'error no show is open', toAll: false };
  const { reply } = match.command;
  return {
    answer: oneLine(reply ? filled(reply.address, match.values) : `ok ${deed(match.command, match.values)}`),
    toAll: reply !== null,
  };
}

/** An answer is one line, whatever a value holds. */
const oneLine = (text: string): string => text.replace(/[\r\n]+/g, ' ');
