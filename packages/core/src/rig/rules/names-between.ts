import { finding } from '../../findings/index.ts';
import { groupBy, rowsOf, type Link, type Show } from '../../show/index.ts';

/** One target under different names in controllers, and one name for different targets (C84, need 13.3). */
export function namesBetween(show: Show) {
  const named = rowsOf(show, 'links').filter(({ label }) => label.trim() !== '');
  return [...differentNames(show, named), ...sharedNames(show, named)];
}

const subjects = (links: readonly Link[]) => links.map(({ id }) => ({ table: 'links' as const, id }));

function differentNames(show: Show, named: readonly Link[]) {
  return [...groupBy(named, ({ targetId }) => targetId)].flatMap(([targetId, links]) => {
    const name = show.devices[targetId]?.name ?? '';
    const labels = [...new Set(links.map(({ label }) => label))].filter((label) => label !== name);
    if (labels.length === 0) return [];
    const onlyForm = labels.every((label) => plain(label) === plain(name));
    return [finding('rig', 'names_differ', 'note', subjects(links), { name, labels, form: onlyForm ? 'yes' : '' })];
  });
}

function sharedNames(show: Show, named: readonly Link[]) {
  return [...groupBy(named, ({ label }) => plain(label))].flatMap(([, links]) => {
    const targets = [...new Set(links.map(({ targetId }) => targetId))];
    if (targets.length < 2) return [];
    const names = targets.map((id) => show.devices[id]?.name ?? '');
    return [finding('rig', 'name_shared', 'risky', subjects(links), { label: links[0]?.label ?? '', names })];
  });
}

/** Equal but for case and blanks is a slip of the form, not another name (C34). */
const plain = (text: string): string => text.toLowerCase().replace(/\s+/g, '');
