import { counted, fixWith, groups, keyed, nameList, type Finding } from '../../findings/index.ts';
import { changeOf, removeRow, rowsBy, rowsOf, typeOf, updateRow, type TimeFormat } from '../../show/index.ts';
import { chainsOf, hopsFrom, hopsTo, type Hop } from '../chain.ts';
import { rates } from '../rates.ts';
import { planSession } from '../plan-hops.ts';
import { timeRule } from '../time-rule.ts';

export const formatWords: Readonly<Record<TimeFormat, string>> = {
  linear: 'linear time code',
  midi: 'MIDI time code over a cable',
  network_midi: 'MIDI time code over the network',
};

const of = ({ row, from, to }: Hop) => [
  { table: 'timeHops' as const, id: row.id },
  ...[from, to].map(({ id }) => ({ table: 'devices' as const, id })),
];

/** What stands between the two ends of a hop (C68): format, names, rate, and the session that carries it. */
export const hops = timeRule<{
  time_cannot_give: { from: string; to: string; format: string; converters: string[] };
  time_cannot_take: { from: string; to: string; format: string; converters: string[]; isSound: string };
  time_name_differs: { from: string; to: string; said: string; heard: string; how: string };
  time_rate_differs: { from: string; to: string; made: string; awaited: string };
  time_no_session: { from: string; to: string };
}>(
  {
    time_cannot_give: (f) => [
      `${f.from} gives no ${f.format}.`,
      `${f.to} waits for it, and stands.`,
      f.converters.length > 0
        ? `${nameList(f.converters)} could make it.`
        : 'Put something between them that makes it.',
    ],
    time_cannot_take: (f) => [
      `${f.to} takes no ${f.format}.`,
      `What ${f.from} says does not get in.`,
      f.converters.length > 0
        ? `${nameList(f.converters)} could convert it.`
        : f.isSound !== ''
          ? 'It needs a way for sound: an audio interface that hears it.'
          : 'Put a converter between them.',
    ],
    time_name_differs: (f) => [
      `${f.how}: “${f.heard}” waits for “${f.said}”.`,
      `${f.to} hears nothing until both names are the same.`,
      `Use “${f.said}” at both ends.`,
    ],
    time_rate_differs: (f) => [
      `${f.to} waits for ${f.awaited}, and ${f.from} runs at ${f.made}.`,
      'It stands, or drifts away from the others.',
      `Set ${f.to} to ${f.made}.`,
    ],
    time_no_session: (f) => [
      `No session of network MIDI is entered between ${f.from} and ${f.to}.`,
      'Nothing carries the time code there.',
      'Enter a link between them first.',
    ],
  },
  (found, show) => {
    const all = chainsOf(show).flatMap((chain) => chain.hops);
    return oncePerKey(
      all.flatMap((hop) => {
        const { row, from, to } = hop;
        const names = { from: from.name, to: to.name };
        return hop.faults.flatMap((fault): Finding[] => {
          switch (fault.kind) {
            case 'cannot_give':
            case 'cannot_take': {
              const facts = {
                ...names,
                format: formatWords[row.format],
                converters: fault.converters.map(({ name }) => name),
              };
              return fault.kind === 'cannot_give'
                ? [keyed(found('time_cannot_give', 'stops', of(hop), facts), row.id)]
                : [
                    keyed(
                      found('time_cannot_take', 'stops', of(hop), {
                        ...facts,
                        isSound: row.format === 'linear' ? 'yes' : '',
                      }),
                      row.id,
                    ),
                  ];
            }
            case 'name': {
              const said = fault.at.before.name;
              const fix = fixWith(
                `Use “${said}”`,
                changeOf(`${to.name} hears “${said}”`, [updateRow('timeHops', row, { hears: said })]),
              );
              const facts = { ...names, said, heard: fault.at.after.name, how: howWords[fault.at.kind] };
              return [keyed(found('time_name_differs', 'stops', of(hop), facts, [fix]), row.id)];
            }
            case 'rate': {
              const facts = { ...names, made: rates[fault.made].label, awaited: rates[fault.awaited].label };
              // two sources at two rates: no setting would do
              const isOnly = all.every((other) => other.to.id !== to.id || other.rate === fault.made);
              const fix = !isOnly
                ? undefined
                : fixWith(
                    `Set ${to.name} to ${facts.made}`,
                    changeOf(`${to.name} at ${facts.made}`, [updateRow('devices', to, { rate: fault.made })]),
                  );
              return [keyed(found('time_rate_differs', 'stops', of(hop), facts, [fix]), row.id)];
            }
            case 'no_link':
              return [
                keyed(
                  found('time_no_session', 'stops', of(hop), names, [
                    fixWith('Enter the session', planSession(show, row)),
                  ]),
                  row.id,
                ),
              ];
          }
        });
      }),
    );
  },
);

/** A hop that two sources share is told once. */
const oncePerKey = (findings: readonly Finding[]): Finding[] => [
  ...new Map(findings.map((found) => [found.key, found])).values(),
];

const howWords = {
  letters: 'The letters look alike and are others',
  case: 'Capitals are different',
  blanks: 'Blanks are different',
  other: 'The names are different',
} as const;

/** More inputs wanted than may be chosen at once (need 11.5, C69), and two hops at one input (11.4). */
export const inputs = timeRule<{
  time_merger_needed: { to: string; wanted: number; inputs: number; sources: string[] };
  time_input_shared: { to: string; input: string; sources: string[] };
}>(
  {
    time_merger_needed: (f) => [
      `${f.to} is to hear ${nameList(f.sources)}, and takes ${counted(f.inputs, 'input')} at once.`,
      `${f.wanted - f.inputs === 1 ? 'One of them is' : `${f.wanted - f.inputs} of them are`} not heard.`,
      'Join them by a merger before it, or choose.',
    ],
    time_input_shared: (f) => [
      `${nameList(f.sources)} are both assigned to “${f.input}” of ${f.to}.`,
      'It counts by whichever comes, and jumps between them.',
      'Give each an input of its own.',
    ],
  },
  groups(
    (show) => rowsBy(show, 'timeHops', 'toId'),
    (found, rows, show) => {
      const to = show.devices[rows[0]?.toId ?? ''];
      const most = typeOf(show, to)?.timecode?.inputs ?? null;
      if (!to) return [];
      const subject = { table: 'devices' as const, id: to.id };
      const sources = rows.map(({ fromId }) => show.devices[fromId]?.name ?? '');
      const byInput = new Map<string, typeof rows>();
      for (const row of rows) if (row.input !== '') byInput.set(row.input, [...(byInput.get(row.input) ?? []), row]);
      const shared = [...byInput].flatMap(([input, alike]) =>
        alike.length < 2
          ? []
          : [
              keyed(
                found('time_input_shared', 'risky', [subject], {
                  ...{ to: to.name, input, sources: alike.map(({ fromId }) => show.devices[fromId]?.name ?? '') },
                }),
                to.id,
                input,
              ),
            ],
      );
      if (most === null || rows.length <= most) return shared;
      const facts = { to: to.name, wanted: rows.length, inputs: most, sources };
      return [...shared, keyed(found('time_merger_needed', 'stops', [subject], facts), to.id)];
    },
  ),
);

/** Circles, sources that make nothing, and several of them without one that leads (need 11.6). */
export const sources = timeRule<{
  time_circle: { names: string[] };
  time_makes_nothing: { name: string };
  time_no_rate: { name: string };
  time_who_leads: { names: string[] };
}>(
  {
    time_circle: (f) => [
      `${nameList(f.names)} hear each other in a circle.`,
      'Nobody begins, and all of them stand.',
      'Take one hop out.',
    ],
    time_makes_nothing: (f) => [
      `${f.name} is at the head of a chain, and makes no time code by itself.`,
      'Nothing comes after it.',
      'Let it hear a source, or begin with one.',
    ],
    time_no_rate: (f) => [
      `Nobody has said at which rate ${f.name} runs.`,
      'Whether receivers wait for the same cannot be told.',
      'Choose its rate.',
    ],
    time_who_leads: (f) => [
      `${nameList(f.names)} make time code that meets at one receiver, and none of them leads.`,
      'Whichever starts last is followed.',
      'Say which of them leads.',
    ],
  },
  (found, show) => {
    const rows = rowsOf(show, 'timeHops');
    if (rows.length === 0) return [];
    const chains = chainsOf(show);
    const inChains = new Set(chains.flatMap(({ stations }) => stations.map(({ device }) => device.id)));
    const circling = [...new Set(rows.flatMap(({ fromId, toId }) => [fromId, toId]))].filter((id) => !inChains.has(id));
    const of = (id: string) => ({ table: 'devices' as const, id });
    const name = (id: string) => show.devices[id]?.name ?? '';
    const unmade = chains.filter(({ source }) => typeOf(show, source)?.timecode?.makes !== true);
    const unrated = chains.filter(
      ({ source }) => source.rate === null && typeOf(show, source)?.timecode?.makes === true,
    );
    const meeting = rows.map(({ toId }) => toId).filter((id) => hopsTo(show, id).length > 1);
    const rivals = [...new Set(meeting)].flatMap((id) => {
      const heard = chains
        .filter(({ stations }) => stations.some(({ device }) => device.id === id))
        .map(({ source }) => source);
      const direct = hopsTo(show, id).flatMap(({ fromId }) => show.devices[fromId] ?? []);
      const all =
        heard.length > 1
          ? heard
          : direct.filter((device) => typeOf(show, device)?.timecode?.makes && hopsFrom(show, device.id).length > 0);
      return all.length > 1 && !all.some(({ leads }) => leads) ? [{ id, all }] : [];
    });
    return [
      ...(circling.length > 0
        ? [
            keyed(
              found('time_circle', 'stops', circling.map(of), { names: circling.map(name) }, [
                circleFix(rows, circling),
              ]),
              ...circling.toSorted(),
            ),
          ]
        : []),
      ...unmade.map(({ source }) =>
        keyed(found('time_makes_nothing', 'stops', [of(source.id)], { name: source.name }), source.id),
      ),
      ...unrated.map(({ source }) =>
        keyed(found('time_no_rate', 'note', [of(source.id)], { name: source.name }), source.id),
      ),
      ...rivals.map(({ id, all }) =>
        keyed(
          found('time_who_leads', 'risky', [of(id), ...all.map((device) => of(device.id))], {
            names: all.map((device) => device.name),
          }),
          id,
        ),
      ),
    ];
  },
);

/** Which hop is to go only the crew knows where there are several. */
function circleFix(rows: readonly Parameters<typeof removeRow<'timeHops'>>[1][], circling: readonly string[]) {
  const inside = rows.filter(({ fromId, toId }) => circling.includes(fromId) && circling.includes(toId));
  const [only] = inside;
  return only && inside.length === 1
    ? fixWith('Take this hop out', changeOf('Take a hop out', [removeRow('timeHops', only)]))
    : undefined;
}

/** A station whose input is assigned has to be in its system's own session first (need 11.4). */
export const stations = timeRule<{ time_station_outside: { station: string; input: string; group: string } }>(
  {
    time_station_outside: (f) => [
      `${f.station} reads time code into “${f.input}”, and is in no session of its own system.`,
      'The input counts there alone, and the others do not hear of it.',
      f.group === '' ? 'Let it join the session of its system.' : `Let it join “${f.group}”.`,
    ],
  },
  groups(
    (show) => rowsBy(show, 'timeHops', 'toId'),
    (found, rows, show) => {
      const [first] = rows;
      const station = show.devices[first?.toId ?? ''];
      const input = rows.find((row) => row.input !== '')?.input;
      if (!station || input === undefined || station.peers !== '') return [];
      const kind = typeOf(show, station)?.kind;
      const others = rowsOf(show, 'devices').filter(
        (device) => device.id !== station.id && typeOf(show, device)?.kind === kind,
      );
      const group = others.find(({ peers }) => peers !== '')?.peers ?? '';
      if (others.length === 0) return [];
      const fix =
        group === ''
          ? undefined
          : fixWith(
              `Let it join “${group}”`,
              changeOf(`${station.name} joins “${group}”`, [updateRow('devices', station, { peers: group })]),
            );
      const facts = { station: station.name, input, group };
      return [
        keyed(found('time_station_outside', 'risky', [{ table: 'devices', id: station.id }], facts, [fix]), station.id),
      ];
    },
  ),
);
