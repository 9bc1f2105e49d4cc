import { describe, expect, test } from 'vitest';
import { addressingFacts } from '../addressing/index.ts';
import { applyChange, rowsOf, type ServiceType, type Show } from '../show/index.ts';
import { adapter, address, cable, device, network, service, showOf, types } from '../show/sample-show.test-data.ts';
import { forecastAll, linkFacts } from './forecast.ts';
import { planAddLink } from './plan-links.ts';
import { replyAddresses, toldToReply } from './replies.ts';

type Rule = NonNullable<ServiceType['replies']>;
const none = { sendTo: null, alsoTo: [] };

describe('whom a service answers', () => {
  test('a list takes further addresses beside the first, up to its end', () => {
    const list = { replies: 'list' } as const;
    expect(toldToReply(list, none, '10.1.0.5')).toEqual({ sendTo: '10.1.0.5' });
    const full = Array.from({ length: 16 }, (_, at) => `10.1.0.${at + 10}`);
    const told = { sendTo: '10.1.0.5', alsoTo: full.slice(1) };
    expect(toldToReply(list, told, '10.1.0.6')).toEqual({ alsoTo: [...told.alsoTo, '10.1.0.6'] });
    expect(toldToReply(list, { ...told, alsoTo: full }, '10.1.0.6')).toEqual({ sendTo: '10.1.0.6' });
    expect([toldToReply(list, told, '10.1.0.5'), toldToReply(list, told, '10.1.0.11')]).toEqual([{}, {}]);
    expect(replyAddresses(list, { sendTo: '10.1.0.5', alsoTo: ['10.1.0.5', '10.1.0.9'] })).toEqual([
      '10.1.0.5',
      '10.1.0.9',
    ]);
  });

  test('one address is one address, and who answers the asker needs none', () => {
    const told = { sendTo: '10.1.0.5', alsoTo: ['10.1.0.9'] };
    expect([replyAddresses({}, told), toldToReply({}, told, '10.1.0.6')]).toEqual([
      ['10.1.0.5'],
      { sendTo: '10.1.0.6' },
    ]);
    for (const replies of ['sender', 'subscribers'] as const)
      expect([replyAddresses({ replies }, told), toldToReply({ replies }, none, '10.1.0.6')]).toEqual([[], {}]);
  });
});

/** Two controllers of one desk that answers by a rule, each linked as a crew links it. */
function twoControllers(replies: Rule): Show {
  const desk = types.find(({ id }) => id === 'desk');
  if (!desk) throw new Error('no desk');
  const ruled = { ...desk, services: desk.services.map((each) => ({ ...each, replies })) };
  let show = showOf({
    networks: [network()],
    types: [...types.filter((type) => type !== desk), ruled],
    devices: [device('hub', 'switch'), device('desk', 'desk'), device('a', 'host'), device('b', 'host')],
    interfaces: ['desk', 'a', 'b'].map((id) => adapter(id)),
    addresses: [address('desk', '10.1.0.60'), address('a', '10.1.0.5'), address('b', '10.1.0.6')],
    cables: ['desk', 'a', 'b'].map((id, at) => cable(id, `p-${at + 1}`)),
    services: [service('desk', { sendTo: null })],
  });
  for (const controllerId of ['a', 'b']) {
    const intent = { id: `from-${controllerId}`, controllerId, targetId: 'desk', serviceKey: 'osc', slot: null };
    const change = planAddLink(show, intent);
    const applied = change && applyChange(show, change);
    if (!applied?.ok) throw new Error('no link');
    show = applied.show;
  }
  return show;
}

test.each([
  ['entered', { sendTo: '10.1.0.5', alsoTo: [] }, ['from-b']],
  ['list', { sendTo: '10.1.0.5', alsoTo: ['10.1.0.6'] }, []],
  ['sender', { sendTo: null, alsoTo: [] }, []],
  ['subscribers', { sendTo: null, alsoTo: [] }, []],
] as const)('two controllers of a desk that answers by “%s”', (replies, entered, lost) => {
  const show = twoControllers(replies);
  expect(rowsOf(show, 'services')[0]).toMatchObject(entered);
  const layers = [...forecastAll(show, linkFacts(show, addressingFacts(show)))].flatMap(
    ({ link: { id }, layers: all }) =>
      all.filter(({ layer, code }) => layer === 'reply' && code === 'replies_elsewhere').map(() => id),
  );
  expect(layers).toEqual(lost);
});
