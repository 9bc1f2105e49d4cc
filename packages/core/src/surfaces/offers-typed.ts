import { commandFrom } from '../links/index.ts';
import type { Assignment } from '../show/index.ts';
import type { Offer } from './meanings.ts';

/**
 * What a message that somebody typed would do, of everything that is offered: a function with its values, of each target
 * that understands it. Empty for what is no message.
 */
export function offersTyped<Offered extends Offer>(
  offers: readonly Offered[],
  text: string,
): { readonly offer: Offered; readonly args: Assignment['args'] }[] {
  if (!/^(\/|(GET|PUT|POST) )|\s/.test(text.trim())) return [];
  const services = new Map(offers.map((offer) => [`${offer.target.id} ${offer.service.key}`, offer]));
  return [...services.values()].flatMap(({ target, service }) => {
    const found = commandFrom(service, text);
    const offer = offers.find(
      (own) => own.target.id === target.id && own.service.key === service.key && own.command.key === found?.command.key,
    );
    return found && offer ? [{ offer, args: [...found.args] }] : [];
  });
}
