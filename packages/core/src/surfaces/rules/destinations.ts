import { fixWith, groups, keyed, nameList } from '../../findings/index.ts';
import {
  applyChange,
  changeOf,
  groupBy,
  rowsBy,
  serviceTypeOf,
  updateRow,
  type Edit,
  type Link,
  type Show,
} from '../../show/index.ts';
import { destinationName, destinationOf, plainName } from '../destination-name.ts';
import { surfaceRule } from '../surface-rule.ts';

/** Two entries in one controller's list that read the same (need 5.2). */
export const destinationDoubled = surfaceRule<{
  destination_doubled: { controller: string; name: string; functions: string[] };
}>(
  {
    destination_doubled: (f) => [
      `“${f.name}” stands more than once in the list of ${f.controller}${f.functions.length > 1 ? `: for ${nameList(f.functions)}` : ''}.`,
      'Whoever picks one cannot tell which it is.',
      'Let each name say the machine and what it is for.',
    ],
  },
  groups(
    (show) => rowsBy(show, 'links', 'controllerId'),
    (found, links, show) =>
      [...groupBy(links, (link) => plainName(destinationOf(show, link)))].flatMap(([name, alike]) => {
        const [first] = alike;
        const controller = show.devices[first?.controllerId ?? '']?.name;
        if (!first || name === '' || controller === undefined || alike.length < 2) return [];
        const functions = [...new Set(alike.map((link) => functionOf(show, link)))].filter(Boolean).sort();
        const facts = { controller, name: destinationOf(show, first), functions };
        const subjects = alike.map(({ id }) => ({ table: 'links' as const, id }));
        const fix = fixWith('Name each for what it is', namedApart(show, alike));
        return [keyed(found('destination_doubled', 'note', subjects, facts, [fix]), first.controllerId, name)];
      }),
  ),
);

const functionOf = (show: Show, { targetId, serviceKey }: Link): string =>
  serviceTypeOf(show, show.devices[targetId], serviceKey)?.label ?? '';

/** One after the other, so that no two become the same anew; undefined where nothing tells them apart. */
function namedApart(show: Show, links: readonly Link[]) {
  let at = show;
  const edits: Edit[] = [];
  for (const link of links) {
    const edit = updateRow('links', link, { label: destinationName(at, link) });
    const applied = applyChange(at, { label: '', edits: [edit] });
    if (!applied.ok) continue;
    at = applied.show;
    edits.push(edit);
  }
  const names = new Set(links.map((link) => plainName(destinationOf(at, at.links[link.id] ?? link))));
  return names.size === links.length ? changeOf('Name targets for what they are', edits) : undefined;
}
