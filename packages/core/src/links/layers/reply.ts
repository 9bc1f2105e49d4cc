import { formatIp, likelySlip } from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { fail, pass, type Layer } from '../layer.ts';

/**
 * Does the answer come back? Over TCP it uses the same connection. Over UDP the target sends to the address and port
 * entered in it, or back to where the datagram came from when it has no such fields.
 */
export const reply: Layer = ({ service, serviceType, link, command, controller, target, from, sameMachine }) => {
  if (command && !command.reply) return pass('none_expected');
  if (serviceType.transport === 'tcp') return pass('same_connection');
  if (service.sendPort === null) return pass('to_sender');
  const ip = sameMachine ? '127.0.0.1' : from.planned?.ip == null ? '' : formatIp(from.planned.ip);
  const facts = {
    hears: link.replyPort ?? '',
    sends: service.sendPort,
    sendTo: service.sendTo ?? '',
    ip,
    controller: controller.name,
    target: target.name,
    slip: service.sendTo && ip ? (likelySlip(service.sendTo, ip) ?? '') : '',
  };
  const toTarget = changeOf(`Send the replies of ${target.name} to ${ip}`, [
    updateRow('services', service, { sendTo: ip || null }),
  ]);
  if (service.sendTo === null) return fail('no_way_back', facts, [fixWith(`Send replies to ${ip}`, toTarget)]);
  if (service.sendTo !== ip) return fail('replies_elsewhere', facts, [fixWith(`Send replies to ${ip}`, toTarget)]);
  if (link.replyPort === service.sendPort) return pass('agreed', facts);
  const hear = changeOf(`Listen for replies on ${service.sendPort}`, [
    updateRow('links', link, { replyPort: service.sendPort }),
  ]);
  return fail('other_reply_port', facts, [fixWith(`Listen on ${service.sendPort}`, hear)]);
};
