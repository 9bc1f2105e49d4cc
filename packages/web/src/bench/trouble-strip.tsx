import { show as core, type contract, type Show } from '@deep-patch/core';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';
import { useBenchPath } from './use-bench-path.ts';

/** What units report by themselves that is wrong with them; a unit without power reports nothing. */
const troubles: Partial<Readonly<Record<contract.StandinState['status'], string>>> = {
  clash: 'another unit has its address',
  storm: 'frames run in circles',
  fault: 'it stopped by itself',
};

const mostNamed = 8;

/** The cables that frames run round by, as the switches on them found out. */
function circleWords(show: Show, states: readonly contract.StandinState[]): string[] {
  const round = new Map(states.map(({ deviceId, circling }) => [deviceId, new Set(circling)]));
  const rows = core
    .rowsOf(show, 'cables')
    .filter(
      ({ fromDevice, fromSocket, toDevice, toSocket }) =>
        round.get(fromDevice)?.has(fromSocket) || round.get(toDevice)?.has(toSocket),
    );
  const known = new Set(
    rows.flatMap((row) => [`${row.fromDevice} ${row.fromSocket}`, `${row.toDevice} ${row.toSocket}`]),
  );
  const strange = states.filter(({ deviceId, circling }) => circling.some((key) => !known.has(`${deviceId} ${key}`)));
  return [
    ...rows.map(
      (row) => `${endWords(show, row.fromDevice, row.fromSocket)} to ${endWords(show, row.toDevice, row.toSocket)}`,
    ),
    ...strange.map(({ deviceId }) => `a cable at ${show.devices[deviceId]?.name ?? ''} that the plan does not have`),
  ];
}

function endWords(show: Show, deviceId: string, socket: string): string {
  return `${show.devices[deviceId]?.name ?? ''} ${core.socketLabel(show, deviceId, socket)}`;
}

/** The errors that units report, before somebody builds on them. */
export function TroubleStrip({ states }: { states: readonly contract.StandinState[] }) {
  const show = useShow();
  const path = useBenchPath();
  const ill = states.flatMap((state) => {
    const what = [
      troubles[state.status] ?? [],
      state.powered && state.helper?.runs === false ? `${state.helper.name} was quit: its controls do nothing` : [],
      state.menu.flatMap(([label, value]) => (value.endsWith('is in use') ? [`${label}: ${value}`] : [])),
    ].flat();
    const name = show.devices[state.deviceId]?.name ?? '';
    return what.length > 0 ? [{ id: state.deviceId, name, what: what.join(', ') }] : [];
  });
  ill.sort(core.byName);
  const circle = circleWords(show, states);
  if (ill.length === 0) return null;
  return (
    <section aria-label="Errors that units report" className="border-b border-rule bg-base-200 px-4.5 py-2">
      <ul className="grid gap-y-0.5">
        {[...core.groupBy(ill, ({ what }) => what)].map(([what, units]) => (
          <li key={what} className="flex items-baseline gap-1.5">
            <Mark state="fail" size={11} />
            <span>
              <span className="text-mute">{what}:</span>{' '}
              {units.slice(0, mostNamed).map(({ id, name }, at) => (
                <Fragment key={id}>
                  {at > 0 && ', '}
                  <Link className="font-medium hover:underline" to={path(id)}>
                    {name}
                  </Link>
                </Fragment>
              ))}
              {units.length > mostNamed && <span className="text-mute"> and {units.length - mostNamed} more</span>}
            </span>
          </li>
        ))}
        {circle.length > 0 && (
          <li className="pl-4.5">
            <span className="text-mute">In the circle:</span> {circle.join(', ')}.{' '}
            <span className="text-mute">Take one of them out, or let managed switches cut it.</span>
          </li>
        )}
      </ul>
    </section>
  );
}
