import { fixWith, groups, nameList } from '../../findings/index.ts';
import { changeOf, groupBy, updateRow } from '../../show/index.ts';
import { namesOf, subjectsOf } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

/** A unit that is to move together with its like, and is the only one of its group (need 5.7). */
export const peersApart = rigRule<{ peers_apart: { names: string[]; groups: string[] } }>(
  {
    peers_apart: (f) => [
      `${nameList(f.names)} ${f.names.length === 1 ? 'is' : 'are'} to move with others, and nobody else is in the same group.`,
      `The groups of its kind are ${nameList(f.groups)}; only those of exactly one name move together.`,
      'Give it the name of the group that it belongs to.',
    ],
  },
  groups(
    (_show, { byModel }) => byModel,
    (found, own) => {
      const linked = own.filter(({ device }) => device.features.includes('linked'));
      const byName = groupBy(linked, ({ device }) => device.peers);
      const alone = [...byName.values()].flatMap((members) => (members.length === 1 ? members : []));
      if (byName.size < 2 || alone.length === 0) return [];
      const names = [...byName.keys()].sort();
      const size = (name: string) => byName.get(name)?.length ?? 0;
      const usual = names.reduce((best, name) => (best === '' || size(name) > size(best) ? name : best));
      const label = `Put ${alone.length === 1 ? 'it' : 'them'} into ${quoted(usual)}`;
      const edits = alone.map(({ device }) => updateRow('devices', device, { peers: usual }));
      const facts = { names: namesOf(alone), groups: names.map(quoted) };
      return [found('peers_apart', 'risky', subjectsOf(alone), facts, [fixWith(label, changeOf(label, edits))])];
    },
    2,
  ),
);

const quoted = (name: string): string => (name === '' ? 'the one without a name' : `“${name}”`);
