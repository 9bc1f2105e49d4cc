import { fixWith } from '../../findings/index.ts';
import { changeOf, kindWords, loginOf, typeOf, updateRow, type DeviceKind } from '../../show/index.ts';
import type { Ends } from '../ends.ts';
import { layerOf, type SideBySide } from '../layer.ts';
import { some } from '../some.ts';

type Logins = {
  readonly login: string;
  readonly left: string;
  readonly right: string;
  readonly controller: string;
  readonly target: string;
  readonly account: string;
};
type Passes = { open: Logins; same: Logins };
type Stops = {
  not_open_for: { readonly controller: string; readonly target: string; readonly kind: string };
  missing: Logins;
  account_differs: Logins;
  password_differs: Logins;
  open_but_filled: Logins;
  not_required: Logins;
  left_open: Logins;
};

const sides = (f: Logins, between: string): SideBySide => ({
  left: some(f.left, 'no login entered'),
  right: some(f.right, 'no login asked'),
  between,
});
const filled = (f: Logins) => sides(f, 'filled in, not asked for');

/**
 * Credentials are the same on both sides, or absent on both (C25). Of the protocols here only HTTP has a login. A
 * password without an account is a login with an empty name (RFC 7617 section 2). Passwords are compared by the id of
 * their secret.
 */
export const access = layerOf<Passes, Stops>(
  {
    passes: {
      open: (f) => sides(f, 'no login'),
      same: (f) => sides(f, `${f.login}, same on both sides`),
    },
    stops: {
      not_open_for: {
        sides: (f) => ({ left: f.kind, right: 'not opened for it', between: 'kept out' }),
        said: (f) => [
          `${f.target} is not opened for ${f.kind} clients such as ${f.controller}.`,
          'It turns that kind away until somebody opens access for it there.',
          'Open it at the target, and restart what it asks to be restarted.',
        ],
      },
      missing: {
        sides: (f) => sides(f, `${f.login} asked, nothing entered`),
        said: (f) => [
          `${f.target} asks for a login and ${f.controller} has none.`,
          'It will be turned away.',
          'Enter the login of the target.',
        ],
      },
      account_differs: {
        sides: (f) => sides(f, 'accounts differ'),
        said: (f) => [
          `${f.controller} logs in under another account than ${f.target} knows.`,
          'It will be turned away.',
          f.account ? `Use the account ${f.account}.` : 'Leave the account empty.',
        ],
      },
      password_differs: {
        sides: (f) => sides(f, 'passwords differ'),
        said: (f) => [
          'The two passwords differ.',
          `${f.target} turns ${f.controller} away. Everything below waits on this.`,
          'Send the target’s login to the controller.',
        ],
      },
      open_but_filled: {
        sides: filled,
        said: (f) => [
          `${f.controller} sends a login that ${f.target} does not ask for.`,
          'Some units turn that away.',
          'Leave both fields empty, or set a login on the target.',
        ],
      },
      not_required: {
        sides: filled,
        said: (f) => [
          `${f.controller} sends a login that ${f.target} does not ask for.`,
          'Some units turn that away.',
          'Leave both fields empty.',
        ],
      },
      left_open: {
        sides: (f) => sides(f, `${f.login} offered, left open`),
        said: (f) => [
          `Anybody on the network may control ${f.target}.`,
          'It offers a login and none is set.',
          'Set an account and a password on it.',
        ],
      },
    },
  },
  (ends, { pass, risky, fail }) => {
    const { service, serviceType, link, controller, target } = ends;
    const kind = typeOf(ends.show, controller)?.kind;
    if (kind && serviceType.needsOpening?.includes(kind) && !service.openFor.includes(kind))
      return fail('not_open_for', { controller: controller.name, target: target.name, kind: kindWords(kind) }, [
        openFix(ends, kind),
      ]);
    const login = serviceType.protocol === 'http' ? loginOf(service, serviceType) : 'none';
    const facts = {
      login,
      left: sideOf(link.account, link.secretId),
      right: sideOf(service.account, service.secretId),
      controller: controller.name,
      target: target.name,
      account: service.account ?? '',
    };
    const required = login !== 'none' && (service.account !== null || service.secretId !== null);
    const isFilled = link.account !== null || link.secretId !== null;
    if (!required && login !== 'none')
      return isFilled ? risky('open_but_filled', facts, [empty(ends)]) : risky('left_open', facts);
    if (!required) return isFilled ? risky('not_required', facts, [empty(ends)]) : pass('open', facts);
    if (!isFilled) return fail('missing', facts, [copyFix(ends)]);
    if ((link.account ?? '') !== (service.account ?? '')) return fail('account_differs', facts, [copyFix(ends)]);
    if (link.secretId !== service.secretId) return fail('password_differs', facts, [copyFix(ends)]);
    return pass('same', facts);
  },
);

function openFix({ target, service }: Ends, kind: DeviceKind) {
  const openFor = [...service.openFor, kind];
  const change = changeOf(`Open ${target.name} for ${kindWords(kind)} clients`, [
    updateRow('services', service, { openFor }),
  ]);
  return fixWith(`Open ${target.name} for ${kindWords(kind)} clients`, change);
}

const sideOf = (account: string | null, secretId: string | null): string =>
  account === null && secretId === null
    ? ''
    : `user ${account ?? 'none'} · ${secretId ? 'password set' : 'no password'}`;

const slotOf = ({ link, controller }: Ends): string => (link.slot === null ? controller.name : `slot ${link.slot}`);

function copyFix(ends: Ends) {
  const { link, service, controller, target } = ends;
  const { account, secretId } = service;
  const change = changeOf(`Give ${controller.name} the login of ${target.name}`, [
    updateRow('links', link, { account, secretId }),
  ]);
  return fixWith(`Send the login of ${target.name} to ${slotOf(ends)}`, change);
}

function empty(ends: Ends) {
  const { link, controller } = ends;
  const change = changeOf(`Empty the login in ${controller.name}`, [
    updateRow('links', link, { account: null, secretId: null }),
  ]);
  return fixWith(`Empty the login in ${slotOf(ends)}`, change);
}
