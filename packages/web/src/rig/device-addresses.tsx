import { addressing, show as core, type show } from '@deep-patch/core';
import { Link } from 'react-router';
import { useSteadyIds } from '../live/steady-ids.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';

/** The adapters of a unit with their addresses; an adapter on no network can be put on one here. */
export function DeviceAddresses({ device }: { device: show.Device }) {
  const show = useShow();
  const { save, showId } = useWorkspace();
  const steady = useSteadyIds();
  const type = core.typeOf(show, device);
  const networks = core.rowsOf(show, 'networks').sort(core.byName);
  const interfaces = core.interfacesOf(show, device.id);
  if (interfaces.length === 0) return null;
  return (
    <section className="grid gap-1">
      <h3 className="text-xs font-semibold text-mute">Addresses</h3>
      {interfaces.map((row) => {
        const label = type?.adapters.find(({ key }) => key === row.adapter)?.label ?? row.adapter;
        const own = core.rowsOf(show, 'addresses').filter((address) => address.interfaceId === row.id);
        return (
          <div key={row.id} className="flex flex-wrap items-center gap-x-3 gap-y-1">
            <span className="w-20 text-mute">{label}</span>
            {own.map((address) => (
              <Link
                key={address.id}
                to={`/shows/${showId}/addresses/${address.networkId}/${address.id}`}
                className="link link-hover"
              >
                <code>{address.ip ?? 'waits'}</code>{' '}
                <span className="text-xs text-mute">{show.networks[address.networkId]?.name}</span>
              </Link>
            ))}
            {own.length === 0 && (
              <select
                aria-label={`Network of ${label}`}
                className="select select-xs w-44 border-line bg-base-100"
                value=""
                onChange={(event) =>
                  void save(
                    addressing.planJoin(show, {
                      id: steady.begin()(),
                      interfaceId: row.id,
                      networkId: event.target.value,
                    }),
                  ).then((isIn) => isIn && steady.renew())
                }
              >
                <option value="" disabled>
                  {networks.length > 0 ? 'Put on a network' : 'Add a network first'}
                </option>
                {networks.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            )}
          </div>
        );
      })}
    </section>
  );
}
