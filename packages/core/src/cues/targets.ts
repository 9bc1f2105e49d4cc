import {
  rowsBy,
  rowsOf,
  serviceTypeOf,
  typeOf,
  type Command,
  type CueMessage,
  type Device,
  type ServiceType,
  type Show,
} from '../show/index.ts';

/** A service that a controller can send messages to. */
export interface CueTarget {
  readonly key: string;
  readonly target: Device;
  readonly service: ServiceType;
  readonly linked: boolean;
}

/** Every service in a protocol that a controller speaks: those that it has a link to first, then by name. */
export function targetsOf(show: Show, controllerId: string): CueTarget[] {
  const drives: readonly string[] = typeOf(show, show.devices[controllerId])?.drives ?? [];
  const links = new Set(
    (rowsBy(show, 'links', 'controllerId').get(controllerId) ?? []).map(
      (link) => `${link.targetId} ${link.serviceKey}`,
    ),
  );
  return rowsOf(show, 'services')
    .flatMap((row): CueTarget[] => {
      const target = show.devices[row.deviceId];
      const service = serviceTypeOf(show, target, row.key);
      if (!target || !service || target.id === controllerId || !drives.includes(service.protocol)) return [];
      const key = `${target.id} ${service.key}`;
      return [{ key, target, service, linked: links.has(key) }];
    })
    .sort(
      (a, b) =>
        Number(b.linked) - Number(a.linked) || a.target.name.localeCompare(b.target.name, 'en', { numeric: true }),
    );
}

/** A command with the values of its examples, as a message. */
export const messageWith = (targetId: string, serviceKey: string, command: Command): CueMessage => ({
  ...{ targetId, serviceKey, command: command.key, typed: '', delayMs: 0 },
  args: command.args.map(({ example }) => example),
});

/** The first message that a service understands. */
export function firstMessage({ target, service }: Pick<CueTarget, 'target' | 'service'>): CueMessage {
  const [command] = service.commands;
  const none = { targetId: target.id, serviceKey: service.key, command: null, typed: '/', delayMs: 0, args: [] };
  return command ? messageWith(target.id, service.key, command) : none;
}
