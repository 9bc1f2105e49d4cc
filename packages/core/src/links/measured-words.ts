import type { MeasuredLayer } from '../show/index.ts';

type Facts = MeasuredLayer['facts'];

/** Measured to a tenth of a millisecond: what is shorter does not take none. */
export const milliseconds = (ms: string | number | null | undefined): string =>
  typeof ms === 'number' && ms < 0.1 ? 'less than 0.1 ms' : `${ms} ms`;

/** How the round trip varies, where several were made. */
function variationWords({ least, greatest, lost }: Facts): string {
  if (least === undefined) return '';
  const spread = least === greatest ? ', each time the same' : `, between ${least} and ${greatest}`;
  return Number(lost) > 0 ? `${spread}; ${lost} of 5 never came back` : spread;
}

/** What is said of each code, by layer; what holds for any layer stands under its code alone. */
export const measuredTable: Readonly<Record<string, (f: Facts) => string>> = {
  not_reached: () => 'not reached',
  not_told: () => 'sent; nothing tells how it went',
  not_asked: () => 'not asked: a watch sends no command',
  'cable up': () => 'both lamps are on',
  'cable down': (f) => `no lamp at ${f['who']}`,
  'cable no_service': (f) => `${f['who']} has no such service`,
  'cable off': (f) => `${f['who']} has no power`,
  'segment seen': (f) => `${f['ip']} is at ${f['mac']}`,
  'segment routed': (f) => `a router leads to ${f['ip']}`,
  'segment unseen': (f) => `nobody claims ${f['ip']}`,
  'address quiet': (f) => `${f['ip']} takes what is sent, and does not answer an echo`,
  'address answers': (f) => `${f['ip']} answers in ${milliseconds(f['ms'])}${variationWords(f)}`,
  'address nobody': (f) => `nobody answers for ${f['ip']}: no unit has it there`,
  'address silent': (f) => `${f['ip']} does not answer`,
  'address no_route': (f) => `${f['ip']} is not in its subnet`,
  'address no_address': (f) => `${f['who']} has no address`,
  'address two_owners': (f) => `two units claim ${f['ip']}`,
  'address other_unit': (f) => `${f['who']} answers at ${f['ip']}`,
  'port open': (f) => `${f['port']} is open`,
  'port refused': (f) => `${f['port']} is closed`,
  'port not_opened': (f) => `nobody opened ${f['port']}`,
  'port silent': (f) => `nothing answers on ${f['port']}`,
  'service closed': (f) => `the application of ${f['who']} is closed: nothing is sent`,
  'service no_show': (f) => `${f['who']} has no show open: nothing is sent`,
  'service helper': (f) => `what has to run beside ${f['who']} was quit`,
  'service runs': () => 'it answers in the right protocol',
  'service in_set_up': (f) => `${f['who']} is still in its set-up`,
  'service looked_up': (f) => `${f['who']} looked ${f['what']} up once, when it was not there: key the entry in again`,
  'service silent': () => 'nothing came back',
  'service unknown': (f) => `the controller cannot speak ${f['protocol']}`,
  'access let_in': () => 'let in',
  'access refused': () => 'turned away',
  'access first_sign_in': () => 'it asks for an administrator first',
  'access not_open_for': () => 'not opened for this kind of client',
  'message answered': (f) => `it says: ${f['text']}`,
  'message refused': (f) => `it does not know ${f['sent']}`,
  'message none': () => 'nothing was sent',
  'reply came': (f) => `reply in ${milliseconds(f['ms'])}`,
  'reply missing': (f) => `no reply on port ${f['port']}`,
  'reply elsewhere': (f) => `the reply went to ${f['to']}`,
  'reply not_expected': () => 'no reply expected',
};

/** What the bench or the field really saw at one layer. */
export const measuredWords = ({ layer, code, facts }: MeasuredLayer): string =>
  (measuredTable[`${layer} ${code}`] ?? measuredTable[code])?.(facts) ?? code;
