import type { MeasuredLayer } from '../show/index.ts';

const words: Readonly<Record<string, string>> = {
  not_reached: 'not reached',
  not_told: 'sent; nothing tells how it went',
};

/** What the bench or the field really saw at one layer. */
export function measuredWords({ layer, code, facts: f }: MeasuredLayer): string {
  const table: Readonly<Record<string, string>> = {
    'cable up': 'both lamps are on',
    'cable down': `no lamp at ${f['who']}`,
    'cable no_service': `${f['who']} has no such service`,
    'cable off': `${f['who']} has no power`,
    'segment seen': `${f['ip']} is at ${f['mac']}`,
    'segment routed': `a router leads to ${f['ip']}`,
    'segment unseen': `nobody claims ${f['ip']}`,
    'address quiet': `${f['ip']} takes what is sent, and does not answer an echo`,
    'address answers': `${f['ip']} answers in ${f['ms']} ms`,
    'address silent': `${f['ip']} does not answer`,
    'address no_route': `${f['ip']} is not in its subnet`,
    'address no_address': `${f['who']} has no address`,
    'address two_owners': `two units claim ${f['ip']}`,
    'address other_unit': `${f['who']} answers at ${f['ip']}`,
    'port open': `${f['port']} is open`,
    'port refused': `${f['port']} is closed`,
    'port silent': `nothing answers on ${f['port']}`,
    'service closed': `the application of ${f['who']} is closed: nothing is sent`,
    'service no_show': `${f['who']} has no show open: nothing is sent`,
    'service helper': `what has to run beside ${f['who']} was quit`,
    'service runs': 'it answers in the right protocol',
    'service in_set_up': `${f['who']} is still in its set-up`,
    'service silent': 'nothing came back',
    'service unknown': `the controller cannot speak ${f['protocol']}`,
    'access let_in': 'let in',
    'access refused': 'turned away',
    'access first_sign_in': 'it asks for an administrator first',
    'message answered': `it says: ${f['text']}`,
    'message refused': `it does not know ${f['sent']}`,
    'message none': 'nothing was sent',
    'reply came': `reply in ${f['ms']} ms`,
    'reply missing': `no reply on port ${f['port']}`,
    'reply elsewhere': `the reply went to ${f['to']}`,
    'reply not_expected': 'no reply expected',
  };
  return table[`${layer} ${code}`] ?? words[code] ?? code;
}
