import { likelySlip } from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, hostOf, serviceTypeOf, updateRow, type Service } from '../../show/index.ts';
import { fail, pass, type Layer } from '../layer.ts';
import type { Ends } from '../ends.ts';

/**
 * The target's receiving port is the controller's sending port, never the other way about (C20, C21). A clash is
 * two services of one unit on one transport and port.
 */
export const port: Layer = (ends) => {
  const { link, service, serviceType, controller, target } = ends;
  const transport = serviceType.transport.toUpperCase();
  const facts = {
    transport,
    asks: link.port,
    listens: service.receivePort,
    sends: service.sendPort ?? '',
    controller: controller.name,
    target: target.name,
  };
  const clash = clashing(ends);
  if (clash) return fail('two_listeners', { ...facts, other: clash });
  if (link.port === service.receivePort) return pass('agreed', facts);
  const slip = likelySlip(String(link.port), String(service.receivePort)) ?? '';
  const toDefault = service.receivePort !== serviceType.receivePort && link.port === serviceType.receivePort;
  const code =
    link.port === service.sendPort ? 'interchanged' : toDefault ? 'still_default' : slip ? 'slip' : 'other_port';
  const change = changeOf(`Send ${controller.name} to port ${service.receivePort}`, [
    updateRow('links', link, right(ends)),
  ]);
  return fail(code, { ...facts, slip }, [fixWith(`Send to ${service.receivePort}`, change)]);
};

/** When both numbers were swapped, both are put right in one go. */
function right({ link, service }: Ends) {
  const swapped = link.port === service.sendPort && link.replyPort === service.receivePort;
  return swapped ? { port: service.receivePort, replyPort: service.sendPort } : { port: service.receivePort };
}

/** Another service on the same machine, of whatever program, that listens on the same transport and port. */
function clashing({ show, facts, service, serviceType, target }: Ends): string | undefined {
  const typeOfService = ({ deviceId, key }: Service) => serviceTypeOf(show, show.devices[deviceId], key);
  const other = facts.servicesOn
    .get(hostOf(show, target).id)
    ?.find(
      (candidate) =>
        candidate.id !== service.id &&
        candidate.enabled &&
        candidate.receivePort === service.receivePort &&
        typeOfService(candidate)?.transport === serviceType.transport,
    );
  if (!other) return undefined;
  const label = typeOfService(other)?.label;
  return other.deviceId === target.id ? label : `${label} of ${show.devices[other.deviceId]?.name}`;
}
