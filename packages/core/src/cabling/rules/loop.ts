import { fixWith, keyed, nameList } from '../../findings/index.ts';
import { planRemove, type Cable, type Show } from '../../show/index.ts';
import { cablingRule } from '../cabling-rule.ts';
import { loopKey } from '../domains/circles.ts';

/** Cables in a circle that nothing cuts (C44): one of them has to go, and any of them will do. */
export const circle = cablingRule<{ loop: { names: string[]; count: number } }>(
  {
    loop: ({ names, count }) => [
      names.length === 1
        ? `A cable leads from ${names[0]} back to ${names[0]}.`
        : `${count} cables run in a circle: ${nameList(names)}.`,
      'Nothing on the way cuts it, so whatever is sent to everybody runs round and fills every cable there.',
      'Take one cable of the circle out, or let managed switches cut it.',
    ],
  },
  (found, show, cabling) =>
    cabling.domains().loops.map((loop) => {
      const names = loop.devices.map((id) => show.devices[id]?.name ?? id);
      const spare = loop.spare.flatMap((id) => show.cables[id] ?? []);
      const label = `Take out ${nameList(spare.map((cable) => cableName(show, cable)))}`;
      const subjects = loop.devices.map((id) => ({ table: 'devices' as const, id }));
      const fix = fixWith(label, planRemove(show, 'cables', loop.spare, label));
      return keyed(found('loop', 'stops', subjects, { names, count: loop.cables.length }, [fix]), loopKey(loop));
    }),
);

function cableName(show: Show, { fromDevice, toDevice }: Cable): string {
  const [from, to] = [fromDevice, toDevice].map((id) => show.devices[id]?.name ?? id);
  return from === to ? `the cable at ${from}` : `the cable from ${from} to ${to}`;
}
