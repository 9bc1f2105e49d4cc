import { keyed, nameList, oneOr } from '../../findings/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { heldLoops } from '../held-loops.ts';
import { endWords, runWords } from '../run-words.ts';

type Held = { names: string[]; runs: string[]; shut: string; plain: string[] };

/** Circles that spanning tree cuts (C44): which socket it keeps shut, and who on the way does not take part. */
export const loopHeld = cablingRule<{ loop_held: Held }>(
  {
    loop_held: (f) => [
      `${nameList(f.names)} are joined in a circle, and spanning tree keeps ${f.shut} shut.`,
      `When another run of the circle goes, it opens${f.plain.length > 0 ? ` after some seconds, since ${nameList(f.plain)} ${oneOr(f.plain.length, 'runs', 'run')} no spanning tree and the lamp stays lit` : ' at once'}: ${nameList(f.runs)}.`,
      'Leave it on in every managed switch of the circle.',
    ],
  },
  (found, show, cabling) =>
    heldLoops(show, cabling.domains()).map(({ runs, shut, devices, plain }) => {
      const nameOf = (id: string) => show.devices[id]?.name ?? id;
      const details = {
        names: devices.map(nameOf),
        runs: runs.flatMap((id) => show.cables[id] ?? []).map((cable) => runWords(show, cable)),
        shut: endWords(show, shut.deviceId, shut.socket),
        plain: plain.map(nameOf),
      };
      const subjects = runs.map((id) => ({ table: 'cables' as const, id }));
      return keyed(found('loop_held', 'note', subjects, details), [...runs].sort().join(' '));
    }),
);
