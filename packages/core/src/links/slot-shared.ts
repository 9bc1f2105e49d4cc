import { finding, fixWith, keyed, nameList, type Finding } from '../findings/index.ts';
import { changeOf, groupBy, rowsOf, updateRow, type Link, type Show } from '../show/index.ts';

/** Two targets in one slot of a controller's list: the entry that was made last replaces the other. */
export function slotsShared(show: Show): Finding[] {
  const placed = rowsOf(show, 'links').filter(({ slot }) => slot !== null);
  return [...groupBy(placed, ({ controllerId, slot }) => `${controllerId} ${slot}`).entries()].flatMap(
    ([key, links]) => {
      const targets = new Set(links.map(({ targetId }) => targetId));
      if (links.length < 2 || targets.size < 2) return [];
      return [
        shared(
          show,
          key,
          [...links].sort((a, b) => (a.id < b.id ? -1 : 1)),
        ),
      ];
    },
  );
}

function shared(show: Show, key: string, links: readonly Link[]): Finding {
  const [first, ...others] = links;
  const nameOf = (id: string | undefined) => show.devices[id ?? '']?.name ?? '';
  const used = new Set(
    rowsOf(show, 'links').flatMap((link) => (link.controllerId === first?.controllerId ? [link.slot] : [])),
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
  const facts = { controller: nameOf(first?.controllerId), slot: first?.slot ?? 0, names };
  return keyed(
    finding('links', 'slot_shared', 'stops', subjects, facts, [fixWith(label, changeOf(label, edits))]),
    key,
  );
}
