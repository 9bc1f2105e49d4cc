import { changeOf, updateRow, type Change, type Cue, type CueMessage, type Show } from '../show/index.ts';
import { cuesInOrder } from './order.ts';

/** One place in which something would be replaced. */
export interface Replaced {
  readonly cue: Cue;
  readonly at: number;
  readonly before: string;
  readonly after: string;
}

export interface Wanted {
  readonly find: string;
  readonly by: string;
  /** Capitals count. */
  readonly exact: boolean;
}

/** The texts of messages in which something is found, with what they would be (C54's counterpart for what is there). */
export function findInMessages(show: Show, wanted: Wanted): Replaced[] {
  return cuesInOrder(show).flatMap((cue) =>
    cue.messages.flatMap((message, at) => {
      const after = replacedIn(message, wanted);
      return after === message ? [] : [{ cue, at, before: textOf(message), after: textOf(after) }];
    }),
  );
}

const textOf = ({ typed, args }: CueMessage): string => typed || args.map(String).join(', ');

export function planReplace(show: Show, wanted: Wanted): Change | undefined {
  const cues = [...new Set(findInMessages(show, wanted).map(({ cue }) => cue))];
  const edits = cues.map((cue) =>
    updateRow('cues', cue, { messages: cue.messages.map((message) => replacedIn(message, wanted)) }),
  );
  return changeOf(`Replace “${wanted.find}” in ${cues.length} cues`.slice(0, 200), edits);
}

/** The same object where nothing is found. A number becomes a number again where what comes out is one. */
function replacedIn(message: CueMessage, { find, by, exact }: Wanted): CueMessage {
  if (find === '') return message;
  const pattern = new RegExp(find.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'), exact ? 'g' : 'gi');
  const swap = (text: string) => text.replace(pattern, () => by);
  const args = message.args.map((value) => {
    if (typeof value === 'boolean') return value;
    const text = swap(String(value));
    if (text === String(value)) return value;
    return typeof value === 'number' && text !== '' && Number.isFinite(Number(text))
      ? Number(text)
      : text.slice(0, 200);
  });
  const typed = swap(message.typed).slice(0, 200);
  const isSame = typed === message.typed && args.every((value, at) => value === message.args[at]);
  return isSame ? message : { ...message, args, typed };
}
