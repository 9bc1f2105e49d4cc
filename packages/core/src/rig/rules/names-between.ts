import { nameList, groups } from '../../findings/index.ts';
import { indexBy, type Link } from '../../show/index.ts';
import { rigRule } from '../rig-rule.ts';

const subjects = (links: readonly Link[]) => links.map(({ id }) => ({ table: 'links' as const, id }));
const namedBy = (keyOf: (link: Link) => string) =>
  indexBy('links', (link) => (link.label.trim() === '' ? [] : [[keyOf(link), link]]));
const byTarget = namedBy(({ targetId }) => targetId);
const byLabel = namedBy(({ label }) => plain(label));

/** One target under different names in controllers (C84, need 13.3). */
export const namesDiffer = rigRule<{ names_differ: { name: string; labels: string[]; form: '' | 'yes' } }>(
  {
    names_differ: (f) => [
      `${f.name} is called ${nameList(f.labels)} elsewhere.`,
      f.form
        ? 'Only capitals or blanks differ, which some programs treat as another name.'
        : 'People look for it under the wrong name.',
      'Use one name for one thing.',
    ],
  },
  groups(
    (show) => byTarget(show),
    (found, links, show) => {
      const name = show.devices[links[0]?.targetId ?? '']?.name ?? '';
      // a name that says what it is for as well still says whose it is (need 5.2)
      const labels = [...new Set(links.map(({ label }) => label))].filter((label) => !label.includes(name));
      if (labels.length === 0) return [];
      const form = labels.every((label) => plain(label) === plain(name)) ? 'yes' : '';
      return [found('names_differ', 'note', subjects(links), { name, labels, form })];
    },
  ),
);

/** One name for different targets. */
export const nameShared = rigRule<{ name_shared: { label: string; names: string[] } }>(
  {
    name_shared: (f) => [
      `“${f.label}” stands for ${nameList(f.names)} in different controllers.`,
      'A command goes to the wrong one.',
      'Give each a name of its own.',
    ],
  },
  groups(
    (show) => byLabel(show),
    (found, links, show) => {
      const targets = [...new Set(links.map(({ targetId }) => targetId))];
      if (targets.length < 2) return [];
      const names = targets.map((id) => show.devices[id]?.name ?? '');
      return [found('name_shared', 'risky', subjects(links), { label: links[0]?.label ?? '', names })];
    },
  ),
);

/** Equal but for case and blanks is a slip of the form, not another name (C34). */
function plain(text: string): string {
  return text.toLowerCase().replace(/\s+/g, '');
}
