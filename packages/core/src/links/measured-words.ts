import type { MeasuredLayer } from '../show/index.ts';

/** What the bench or the field really saw at one layer. */
export function measuredWords({ layer, code, facts: f }: MeasuredLayer): string {
  const table: Readonly<Record<string, string>> = {
    'cable up': 'both lamps are on',
    'cable down': `no lamp at ${f['who']}`,
    'cable off': `${f['who']} has no power`,
    'segment seen': `${f['ip']} is at ${f['mac']}`,
    'segment routed': `a router leads to ${f['ip']}`,
    'segment unseen': `nobody claims ${f['ip']}`,
    'address answers': `${f['ip']} answers in ${f['ms']} ms`,
    'address silent': `${f['ip']} does not answer`,
    'address no_route': `${f['ip']} is not in its subnet`,
    'address no_address': `${f['who']} has no address`,
    'address two_owners': `two units claim ${f['ip']}`,
    'address other_unit': `${f['who']} answers at ${f['ip']}`,
    'port open': `${f['port']} is open`,
    'port refused': `${f['port']} is closed`,
    'port closed': `${f['port']} is closed: the application does not run`,
    'service helper': `what has to run beside ${f['who']} was quit`,
    'service runs': 'it answers in the right protocol',
    'service off': 'the function is off on the unit',
    'service in_set_up': `${f['who']} is still in its set-up`,
    'service silent': 'nothing came back',
    'service unknown': `the controller cannot speak ${f['protocol']}`,
    'access let_in': 'let in',
    'access refused': 'turned away',
    'access first_sign_in': 'it asks for an administrator first',
    'message acted': `it did: ${f['did']}`,
    'message refused': `it does not know ${f['sent']}`,
    'message none': 'nothing was sent',
    'reply came': `reply in ${f['ms']} ms`,
    'reply missing': `no reply on port ${f['port']}`,
    'reply not_expected': 'no reply expected',
  };
  return table[`${layer} ${code}`] ?? (code === 'not_reached' ? 'not reached' : code);
}
