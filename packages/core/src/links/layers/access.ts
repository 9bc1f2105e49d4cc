import { fixWith } from '../../findings/index.ts';
import { changeOf, loginOf, updateRow } from '../../show/index.ts';
import { fail, pass, risky, type Layer } from '../layer.ts';
import type { Ends } from '../ends.ts';

/** Credentials are the same on both sides, or absent on both (C25). Passwords are compared by the id of their secret. */
export const access: Layer = (ends) => {
  const { service, serviceType, link, controller, target } = ends;
  const login = loginOf(service, serviceType);
  const facts = {
    login,
    left: sideOf(link.account, link.secretId),
    right: sideOf(service.account, service.secretId),
    controller: controller.name,
    target: target.name,
    account: service.account ?? '',
  };
  const required = login !== 'none' && (service.account !== null || service.secretId !== null);
  const filled = link.account !== null || link.secretId !== null;
  if (!required) {
    if (login !== 'none') return filled ? risky('open_but_filled', facts, [copyFix(ends)]) : risky('left_open', facts);
    return filled ? risky('not_required', facts, [copyFix(ends)]) : pass('open', facts);
  }
  if (!filled) return fail('missing', facts, [copyFix(ends)]);
  if (link.account !== service.account) return fail('account_differs', facts, [copyFix(ends)]);
  if (link.secretId !== service.secretId) return fail('password_differs', facts, [copyFix(ends)]);
  return pass('same', facts);
};

const sideOf = (account: string | null, secretId: string | null): string =>
  account === null && secretId === null
    ? ''
    : `user ${account ?? 'none'} · ${secretId ? 'password set' : 'no password'}`;

function copyFix({ link, service, controller, target }: Ends) {
  const { account, secretId } = service;
  const change = changeOf(`Give ${controller.name} the login of ${target.name}`, [
    updateRow('links', link, { account, secretId }),
  ]);
  const slot = link.slot === null ? controller.name : `slot ${link.slot}`;
  return fixWith(
    account || secretId ? `Send the login of ${target.name} to ${slot}` : `Empty the login in ${slot}`,
    change,
  );
}
