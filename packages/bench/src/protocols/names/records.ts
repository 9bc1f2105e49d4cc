import type { Answer, Packet, Question } from 'dns-packet';

/** Seconds that records live (RFC 6762 section 10): those with a host in them shorter, since hosts move. */
const [hostTtl, otherTtl] = [120, 4500];
const metaName = '_services._dns-sd._udp.local';

/** One service as it is offered: `type` such as `_osc._udp.local`. */
export interface Offered {
  readonly type: string;
  readonly instance: string;
  readonly port: number;
  readonly text: string;
}

export interface Offers {
  /** The name of the machine, with `.local`. */
  readonly host: string;
  readonly ips: readonly string[];
  readonly services: readonly Offered[];
}

export interface Response {
  readonly answers: Answer[];
  readonly additionals: Answer[];
  /** Others may answer as well, so that everybody waits a moment (RFC 6762 section 6). */
  readonly shared: boolean;
}

type Record = Answer & { readonly name: string };

/**
 * What is answered to a query (RFC 6762, RFC 6763): pointers to instances and, for whoever browses everything, to types;
 * where an instance is and what it says of itself; addresses of a host. What the asker knows already is left out.
 * Undefined where nothing is left to say.
 */
export function responseTo(query: Packet, offers: Offers): Response | undefined {
  const questions = query.type === 'query' ? (query.questions ?? []) : [];
  const known = query.answers ?? [];
  const answers = distinct(questions.flatMap((question) => recordsFor(question, offers))).filter(
    (record) => !known.some((one) => isKnown(one, record)),
  );
  if (answers.length === 0) return undefined;
  const more = distinct(answers.flatMap((record) => besides(record, offers)));
  return {
    answers,
    additionals: more.filter((record) => !answers.some((one) => isSame(one, record))),
    shared: answers.some(({ type }) => type === 'PTR'),
  };
}

function recordsFor({ name: asked, type }: Question, offers: Offers): Answer[] {
  const name = asked.toLowerCase();
  return all(offers).filter((record) => record.name.toLowerCase() === name && (isAny(type) || type === record.type));
}

/** The records of services that are gone, with no life left (RFC 6762 section 10.1). */
export const goodbyeTo = (gone: readonly Offered[]): Answer[] =>
  all({ host: '', ips: [], services: gone })
    .filter(({ name }) => name !== metaName)
    .map((record) => ({ ...record, ttl: 0 }));

/** The types of questions have one more than those of records (RFC 1035 section 3.2.3). */
const isAny = (type: string): boolean => type === 'ANY';

function all({ host, ips, services }: Offers): Record[] {
  return [
    ...services.flatMap(({ type, instance, port, text }): Record[] => [
      { name: metaName, type: 'PTR', ttl: otherTtl, data: type },
      { name: type, type: 'PTR', ttl: otherTtl, data: instance },
      { name: instance, type: 'SRV', ttl: hostTtl, flush: true, data: { port, target: host, priority: 0, weight: 0 } },
      { name: instance, type: 'TXT', ttl: otherTtl, flush: true, data: [text] },
    ]),
    ...ips.map((data): Record => ({ name: host, type: 'A', ttl: hostTtl, flush: true, data })),
  ];
}

/** What whoever got a record asks for next (RFC 6763 section 12). */
function besides(record: Answer, offers: Offers): Answer[] {
  const records = all(offers);
  const addresses = records.filter(({ type }) => type === 'A');
  if (record.type === 'SRV') return addresses;
  if (record.type !== 'PTR') return [];
  const own = records.filter(({ name, type }) => name === record.data && (type === 'SRV' || type === 'TXT'));
  return own.length > 0 ? [...own, ...addresses] : [];
}

/** Known with at least half of its life left (RFC 6762 section 7.1). */
const isKnown = (known: Answer, record: Answer): boolean =>
  isSame(known, record) && 'ttl' in known && 'ttl' in record && (known.ttl ?? 0) >= (record.ttl ?? 0) / 2;

const isSame = (a: Answer, b: Answer): boolean => keyOf(a) === keyOf(b);
const keyOf = (record: Answer): string =>
  `${record.name.toLowerCase()} ${record.type} ${'data' in record ? JSON.stringify(record.data) : ''}`;
const distinct = (records: readonly Answer[]): Answer[] => [
  ...new Map(records.map((record) => [keyOf(record), record])).values(),
];
