import { broadcastOf, formatIp, likelySlip, mustIp, subnetOf } from '../../addressing/index.ts';
import { fixWith } from '../../findings/index.ts';
import { changeOf, hostOf, rowsBy, updateRow } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import { isLoopback } from '../entry.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { listenerName } from '../listeners.ts';
import { answersSender, toldToReply } from '../replies.ts';
import { some } from '../some.ts';

type ReplyWords = {
  readonly hears: number | '';
  readonly sends: number | '';
  readonly sendTo: string;
  readonly ip: string;
  readonly controller: string;
  readonly target: string;
};
type Passes = {
  none_expected: { target: string };
  same_connection: { target: string };
  same_session: { target: string };
  to_sender: ReplyWords;
  agreed: ReplyWords;
};
type Stops = {
  no_way_back: ReplyWords;
  replies_elsewhere: ReplyWords & { slip: string; other: string };
  other_reply_port: ReplyWords & { slip: string };
  reply_port_taken: ReplyWords & { other: string };
};

const byItself: SideBySide = { left: 'same connection', right: 'same connection', between: 'comes back by itself' };
const sides = (f: ReplyWords, between: string): SideBySide => ({
  left: `hears on ${some(f.hears, 'no port')}`,
  right: f.sendTo ? `sends to ${f.sendTo}:${some(f.sends, 'the sender’s port')}` : `sends to nobody, port ${f.sends}`,
  between,
});

/**
 * Does the answer come back? Over TCP it uses the same connection, in a MIDI session the session. Over UDP the target
 * sends to the address and port entered in it, or back to where the datagram came from when it has no such fields.
 */
export const reply = layerOf<Passes, Stops>(
  {
    passes: {
      none_expected: () => ({ left: '—', right: '—', between: 'no answer expected' }),
      same_connection: () => byItself,
      same_session: () => ({ ...byItself, left: 'same session', right: 'same session' }),
      to_sender: () => ({ left: 'own sending port', right: 'back to the sender', between: 'comes back by itself' }),
      agreed: (f) => sides(f, 'same port'),
    },
    stops: {
      no_way_back: {
        sides: (f) => sides(f, 'no address entered'),
        said: (f) => [
          `${f.target} was not told where to send replies.`,
          'Commands work, but nothing comes back to light a lamp.',
          'Enter the controller’s address in it.',
        ],
      },
      replies_elsewhere: {
        sides: (f) => sides(f, 'goes elsewhere'),
        said: (f) => [
          `${f.target} sends replies to ${f.sendTo}; ${f.controller} is at ${some(f.ip, 'no fixed address')}.`,
          f.other
            ? `It replies to one address only, and that one belongs to ${f.other}, which controls it too.`
            : f.slip
              ? `One figure is ${f.slip}.`
              : 'It holds an older address, or that of somebody who does not control it.',
          f.other
            ? `Decide which of the two is to see its replies. ${f.controller} controls it all the same, without lamps.`
            : 'Enter the controller’s address in it.',
        ],
      },
      other_reply_port: {
        sides: (f) => sides(f, 'different ports'),
        said: (f) => [
          `${f.target} sends replies to port ${f.sends}; ${f.controller} hears on ${some(f.hears, 'none')}.`,
          f.slip
            ? `One figure is ${f.slip}: the replies arrive at a closed door.`
            : 'The replies arrive at a closed door.',
          `Listen on ${f.sends}.`,
        ],
      },
      reply_port_taken: {
        sides: (f) => sides(f, `${f.other} has it`),
        said: (f) => [
          `${f.controller} wants to hear replies on ${some(f.hears)}, but ${f.other} has that port there.`,
          'A port belongs to whoever opens it first.',
          'Use a port that is free on both sides.',
        ],
      },
    },
  },
  (ends, { pass, fail }) => {
    const { service, serviceType, link, command, target, replyTo } = ends;
    const toSender = answersSender(serviceType);
    const isMute = command ? !command.reply : serviceType.commands.length === 0;
    if (isMute) return pass('none_expected', { target: target.name });
    if (serviceType.transport === 'tcp') return pass('same_connection', { target: target.name });
    if (serviceType.protocol === 'midi') return pass('same_session', { target: target.name });
    const facts = replyWords(ends);
    if (!toSender && replyTo === null && service.sendPort !== null)
      return fail('no_way_back', facts, [facts.ip ? replyHere(ends, facts.ip) : undefined]);
    if (replyTo !== null && !arrives(ends, mustIp(replyTo))) {
      const slip = facts.ip ? (likelySlip(replyTo, facts.ip) ?? '') : '';
      return fail('replies_elsewhere', { ...facts, slip, other: otherController(ends) }, [
        facts.ip ? replyHere(ends, facts.ip) : undefined,
      ]);
    }
    if (service.sendPort !== null && link.replyPort !== service.sendPort) {
      const slip = likelySlip(String(link.replyPort ?? ''), String(service.sendPort)) ?? '';
      const hear = changeOf(`Listen for replies on ${service.sendPort}`, [
        updateRow('links', link, { replyPort: service.sendPort }),
      ]);
      return fail('other_reply_port', { ...facts, slip }, [fixWith(`Listen on ${service.sendPort}`, hear)]);
    }
    const other = whoHears(ends);
    if (other !== undefined) return fail('reply_port_taken', { ...facts, other });
    return replyTo === null && service.sendPort === null ? pass('to_sender', facts) : pass('agreed', facts);
  },
);

function replyWords(ends: Ends): ReplyWords {
  const { service, serviceType, link, controller, target, sameMachine, there, replyTo } = ends;
  const source = there?.source;
  const ip = sameMachine ? '127.0.0.1' : source && source.from === source.to ? formatIp(source.from) : '';
  return {
    hears: link.replyPort ?? '',
    sends: service.sendPort ?? '',
    sendTo: answersSender(serviceType) ? 'whoever asks' : (replyTo ?? ''),
    ip,
    controller: controller.name,
    target: target.name,
  };
}

function replyHere({ service, serviceType, target }: Ends, ip: string) {
  const change = changeOf(`Send the replies of ${target.name} to ${ip}`, [
    updateRow('services', service, toldToReply(serviceType, service, ip)),
  ]);
  return fixWith(`Send replies to ${ip}`, change);
}

/** Another controller of the same unit, that gets the replies. */
function otherController({ show, answer, target }: Ends): string {
  const there = (rowsBy(show, 'links', 'targetId').get(target.id) ?? []).flatMap((other) => {
    const controller = show.devices[other.controllerId];
    return controller && hostOf(show, controller).id === answer?.arrivedAt ? [controller.name] : [];
  });
  return there[0] ?? '';
}

/** Does what the target sends to an address reach the controller, at whichever of its addresses? */
function arrives(ends: Ends, ip: number): boolean {
  const { show, controller, there, answer } = ends;
  if (!answer) return ends.sameMachine && isLoopback(ip);
  // an address that a server handed out may be the one that was entered, and may not
  const source = there?.source;
  if (source && source.from !== source.to && ip >= source.from && ip <= source.to) return false;
  return answer.arrivedAt === hostOf(show, controller).id || isToAll(ends, ip);
}

/** Sent to everybody in a subnet, and the controller hears it (RFC 919); the sender itself hears it whatever floods the cables. */
function isToAll({ from, to, cabling, sameMachine }: Ends, ip: number): boolean {
  const domains = cabling.domains();
  const everybody = ip === mustIp('255.255.255.255');
  const hears = (held: { from: number; prefix: number }) =>
    everybody || (held.prefix < 31 && broadcastOf(subnetOf(held.from, held.prefix)) === ip);
  const out = (to.machine?.held ?? []).filter(hears);
  // what it sends itself it hears wherever its lamp is lit
  if (sameMachine) return out.some(({ lit }) => lit);
  return (from.machine?.held ?? []).some(
    ({ domain, ...held }) =>
      hears(held) && domain !== undefined && out.some((other) => other.domain === domain) && !domains.loopIn(domain),
  );
}

/** Somebody on the controller's machine who already has the port that the reply comes to. */
function whoHears({ show, facts, link, controller }: Ends): string | undefined {
  if (link.replyPort === null) return undefined;
  const listener = facts.listeners.at(hostOf(show, controller).id, 'udp', link.replyPort);
  return listener && listenerName(controller, listener);
}
