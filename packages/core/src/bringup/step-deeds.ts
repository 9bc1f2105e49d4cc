import { formatIp } from '../addressing/index.ts';
import type { BenchAct } from '../contract/index.ts';
import { interfacesOf, rowsBy, typeOf, type Show } from '../show/index.ts';
import type { BringUp, BringUpStep } from './bring-up.ts';
import type { Place } from './unit-now.ts';

/** What is asked of the bench to do a step there: power, or an act. */
export type Deed =
  | { readonly kind: 'power'; readonly deviceId: string; readonly on: boolean }
  | { readonly kind: 'act'; readonly wanted: BenchAct };

const act = (wanted: BenchAct): Deed => ({ kind: 'act', wanted });
const given = ({ ip, prefix }: Place) => ({ ip: formatIp(ip), prefix, gateway: null });

/** A step in terms of the bench, exactly as the sheet says it: the computer included, which is part of the bench. */
export function stepDeeds(show: Show, plan: Pick<BringUp, 'units'>, step: BringUpStep): Deed[] {
  const { deviceId, kind, access, acts } = step;
  const ways = access.map(({ way }) => way);
  switch (kind) {
    case 'computer':
      return computerDeeds(show, step);
    case 'join':
      return [{ kind: 'power', deviceId, on: true }];
    case 'part':
      return [{ kind: 'power', deviceId, on: false }];
    case 'sign_in':
      return [act({ act: 'make_administrator', deviceId })];
    case 'key_in':
      return [act({ act: 'set_as_planned', deviceId, ways, meantime: null })];
    case 'meantime':
      return meantimeDeeds(show, step, ways);
    case 'restart':
    case 'meantime_restart':
    case 'register_restart':
      return acts.map((each) => act({ act: 'commit', deviceId, step: each.act }));
    case 'update': {
      const firmware = plan.units.get(deviceId)?.update?.version;
      return firmware === undefined ? [] : [act({ act: 'update', deviceId, firmware })];
    }
    case 'register':
      return [act({ act: 'look_up_again', deviceId })];
    case 'confirm':
      return confirmDeeds(show, step);
    default:
      return [];
  }
}

/** At its own planned address the computer has the gateway that is planned there; anywhere else it has none. */
function gatewayAt(show: Show, deviceId: string, place: Place): string | null {
  const ip = formatIp(place.ip);
  const row = interfacesOf(show, deviceId)
    .flatMap(({ id }) => rowsBy(show, 'addresses', 'interfaceId').get(id) ?? [])
    .find((address) => address.ip === ip);
  return row ? (row.gateway ?? show.networks[row.networkId]?.gateway ?? null) : null;
}

function computerDeeds(show: Show, { deviceId, computer }: BringUpStep): Deed[] {
  if (!computer) return [];
  const { socket, cable, held } = computer;
  const to = cable === 'as_planned' ? null : cable;
  return [
    ...(to === undefined ? [] : [act({ act: 'lead_cable', deviceId, socket, to: to && { ...to } })]),
    ...held.map(({ adapter, places }) =>
      act({
        ...{ act: 'set_computer', deviceId, adapter },
        addresses: places.map((place) => ({ ...given(place), gateway: gatewayAt(show, deviceId, place) })),
      }),
    ),
  ];
}

function meantimeDeeds(
  show: Show,
  { deviceId, place }: BringUpStep,
  ways: BringUpStep['access'][number]['way'][],
): Deed[] {
  const adapter = typeOf(show, show.devices[deviceId])?.adapters[0]?.key;
  if (!place || adapter === undefined) return [];
  return [act({ act: 'set_as_planned', deviceId, ways, meantime: { adapter, ...given(place) } })];
}

function confirmDeeds(show: Show, { deviceId, place }: BringUpStep): Deed[] {
  if (!place) return [];
  const factory = typeOf(show, show.devices[deviceId])?.factory.ip ?? null;
  return [act({ act: 'confirm', deviceId, ip: formatIp(place.ip), before: factory })];
}
