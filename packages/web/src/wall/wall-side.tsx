import { wall as core, type findings, type show } from '@deep-patch/core';
import { FindingCard } from '../parts/finding-card.tsx';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';

const names: Readonly<Record<core.WallLayer, string>> = {
  ...{ wiring: 'Wiring', receivers: 'Receivers', program: 'Set-up program', stored: 'Stored', player: 'Player' },
  content: 'Content',
};
const unseen: Readonly<Record<core.WallLayer, string>> = {
  wiring: 'divide it, and draw the strings',
  receivers: 'write down what they count',
  program: 'write down what it has entered',
  stored: 'store it once the picture is right',
  player: 'write down what it has entered',
  content: 'say which part of the desktop is sent',
};

/** One layer before the next: the first that is not right is opened, and everything after it waits. */
export function WallLayers({
  wall,
  findings: all,
}: {
  readonly wall: show.Wall;
  readonly findings: readonly findings.Finding[];
}) {
  const lines = core.layerLines(wall, all);
  const open = lines.find(({ state }) => state === 'fail');
  return (
    <section className="grid gap-2" aria-label="One layer before the next">
      <h2 className="text-[13px] text-mute">one layer before the next</h2>
      <ul className="grid gap-1">
        {lines.map(({ layer, state, findings: own }) => (
          <li key={layer} className="grid grid-cols-[1.2rem_8.5rem_minmax(0,1fr)] items-baseline gap-1 text-[13px]">
            <Mark state={state === 'pass' ? 'pass' : state === 'fail' ? 'fail' : 'waits'} size={12} />
            <b className={state === 'waits' ? 'font-normal text-mute' : ''}>{names[layer]}</b>
            <span className={state === 'waits' ? 'text-mute' : ''}>
              {state === 'pass'
                ? 'as planned'
                : state === 'waits'
                  ? 'waits'
                  : state === 'fail'
                    ? own.length === 1
                      ? 'one thing to mend'
                      : `${own.length} things to mend`
                    : unseen[layer]}
            </span>
          </li>
        ))}
      </ul>
      {open?.findings.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
    </section>
  );
}

/** What is printed on the panels and follows from the wall, against three places where it is entered. */
export function ComparedTable({ wall, panel }: { readonly wall: show.Wall; readonly panel: core.Panel }) {
  const cell = (value: string | undefined, isOther: boolean) => (
    <td className={`key-num px-2.5 py-1 ${isOther ? 'text-error' : ''}`}>
      {value ?? '—'} {isOther && <Mark state="fail" size={11} />}
    </td>
  );
  return (
    <table className="w-full text-[13px]">
      <HeadRow heads={['', 'wall', 'program', 'profile', 'player']} />
      <tbody>
        {core.compared(wall, panel).map(({ field, wall: own, program, profile, player, differs }) => (
          <tr key={field} className="border-t border-rule">
            <th scope="row" className="px-2.5 py-1 text-left font-normal text-mute">
              {core.fieldWords[field]}
            </th>
            <td className="key-num px-2.5 py-1">{own}</td>
            {cell(program, differs.includes('program'))}
            {cell(profile, differs.includes('profile'))}
            {cell(player, differs.includes('player'))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
