import { fixWith, groups, nameList } from '../../findings/index.ts';
import { changeOf, updateRow } from '../../show/index.ts';
import { namesOf, subjectsOf } from '../facts.ts';
import { rigRule } from '../rig-rule.ts';

/** Alike units that are to move together and were joined under different names (need 5.7). */
export const peersApart = rigRule<{ peers_apart: { names: string[]; groups: string[] } }>(
  {
    peers_apart: (f) => [
      `${nameList(f.names)} are to move together, and are in different groups: ${nameList(f.groups)}.`,
      'A key on one moves only those that have the same group name.',
      'Give them one name, exactly the same.',
    ],
  },
  groups(
    (_show, { byModel }) => byModel,
    (found, own) => {
      const linked = own.filter(({ device }) => device.features.includes('linked'));
      const names = [...new Set(linked.map(({ device }) => device.peers))].sort();
      if (names.length < 2) return [];
      const usual = names.find((name) => name !== '') ?? '';
      const label = `Put all of them into “${usual}”`;
      const edits = linked.map(({ device }) => updateRow('devices', device, { peers: usual }));
      const facts = { names: namesOf(linked), groups: names.map((name) => (name === '' ? 'none' : `“${name}”`)) };
      return [found('peers_apart', 'risky', subjectsOf(linked), facts, [fixWith(label, changeOf(label, edits))])];
    },
    2,
  ),
);
