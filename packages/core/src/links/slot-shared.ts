import { fixWith, groups, keyed, nameList, ruleOf, type Finding, type Found } from '../findings/index.ts';
import { changeOf, indexBy, rowsBy, updateRow, type Link, type Show } from '../show/index.ts';

type Finds = { slot_shared: { controller: string; slot: number; group: string; names: string[] } };

/** Two targets in one slot of a controller's list: the entry that was made last replaces the other. */
export const slotShared = ruleOf<Finds, [Show]>(
  'links',
  {
    slot_shared: (f) => [
      `Slot ${f.slot}${f.group === '' ? '' : ` of group ${f.group}`} of ${f.controller} holds ${nameList(f.names)}.`,
      'A list has one target a slot: the entry that is made last replaces the other.',
      'Give each a slot of its own.',
    ],
  },
  groups(
    (show) => inSlots(show),
    (found, links, show) => {
      const targets = new Set(links.map(({ targetId }) => targetId));
      const inOrder = [...links].sort((a, b) => (a.id < b.id ? -1 : 1));
      const [first] = links;
      const key = `${first?.controllerId} ${first?.slot}${first?.slotGroup == null ? '' : ` ${first.slotGroup}`}`;
      return targets.size < 2 ? [] : [keyed(shared(found, show, inOrder), key)];
    },
    2,
  ),
);

const inSlots = indexBy('links', (link) =>
  link.slot === null ? [] : [[`${link.controllerId} ${link.slotGroup} ${link.slot}`, link]],
);

function shared(found: Found<Finds>, show: Show, links: readonly Link[]): Finding {
  const [first, ...others] = links;
  const nameOf = (id: string | undefined) => show.devices[id ?? '']?.name ?? '';
  const used = new Set(
    (rowsBy(show, 'links', 'controllerId').get(first?.controllerId ?? '') ?? [])
      .filter(({ slotGroup }) => slotGroup === first?.slotGroup)
      .map(({ slot }) => slot),
  );
  const edits = others.map((link) => {
    let slot = 1;
    while (used.has(slot)) slot += 1;
    used.add(slot);
    return updateRow('links', link, { slot });
  });
  const names = [...new Set(links.map(({ targetId }) => nameOf(targetId)))];
  const label = `Give ${nameList([...new Set(others.map(({ targetId }) => nameOf(targetId)))])} ${others.length === 1 ? 'a slot of its own' : 'slots of their own'}`;
  const subjects = links.map(({ id }) => ({ table: 'links' as const, id }));
  const facts = {
    controller: nameOf(first?.controllerId),
    slot: first?.slot ?? 0,
    group: String(first?.slotGroup ?? ''),
    names,
  };
  return found('slot_shared', 'stops', subjects, facts, [fixWith(label, changeOf(label, edits))]);
}
