import type { Service, ServiceType } from '../show/index.ts';

type Rule = Pick<ServiceType, 'replies'>;

/** Does it answer whoever asked, whatever is entered in it? */
export const answersSender = ({ replies }: Rule): boolean => replies === 'sender' || replies === 'subscribers';

/** The addresses entered in a service that get its replies; none where it answers whoever asked. */
export function replyAddresses(type: Rule, { sendTo, alsoTo }: Pick<Service, 'sendTo' | 'alsoTo'>): string[] {
  if (answersSender(type)) return [];
  const list = type.replies === 'list' ? alsoTo : [];
  return [...new Set([...(sendTo === null ? [] : [sendTo]), ...list])];
}

/** As many addresses as a list takes. */
const longest = 16;

/** What is entered so that an address gets the replies too: beside the others where there is room, else in their place. */
export function toldToReply(
  type: Rule,
  service: Pick<Service, 'sendTo' | 'alsoTo'>,
  ip: string | null,
): Partial<Pick<Service, 'sendTo' | 'alsoTo'>> {
  if (answersSender(type) || ip === null || replyAddresses(type, service).includes(ip)) return {};
  const isBeside = type.replies === 'list' && service.sendTo !== null && service.alsoTo.length < longest;
  return isBeside ? { alsoTo: [...service.alsoTo, ip] } : { sendTo: ip };
}
