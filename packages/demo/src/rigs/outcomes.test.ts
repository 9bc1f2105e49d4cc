import { analyse, links, show as core, withTriedFixes, wordsOf, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { demoShow } from '../index.ts';
import { randomRig } from './index.test-data.ts';

/** Everything that a crew reads of an analysis: findings with their words and ways out, and how each link fares. */
function* outcomeOf(name: string, show: Show): Generator<string> {
  const analysis = withTriedFixes(show, analyse(show, core.nothingSeen, 0));
  yield `## ${name}`;
  for (const found of analysis.findings) {
    const { what, fix } = wordsOf(found);
    const ways = found.fixes.map(({ label, change }) => `[${label}: ${edited(change)}]`).join(' ');
    yield `${found.grade} ${found.code} ${found.subjects.map(({ id }) => id).join(' ')} — ${what} ${fix} ${ways}`.trimEnd();
  }
  for (const { link, layers } of analysis.soundings.values()) {
    const said = layers.map((layer) => {
      const { left, right, between } = links.layerWords(layer);
      return `${layer.code} (${left} ↔ ${right}, ${between})`;
    });
    yield `${link.id}: ${said.filter((words) => !words.startsWith('not_reached')).join('; ')}`;
  }
}

/** What a change writes, in one line: rows by table with the fields that move. */
const edited = ({ edits }: Parameters<typeof core.applyChange>[1]): string =>
  edits
    .map(({ table, id, before, after }) => {
      const [was, is] = [before, after] as unknown as (Record<string, unknown> | null)[];
      const moved = Object.keys(is ?? {}).filter((field) => !core.isEqual(was?.[field], is?.[field]));
      const fields = was ? moved.map((field) => `${field}=${JSON.stringify(is?.[field])}`) : [];
      return `${is === null ? '-' : was === null ? '+' : ''}${table}/${id} ${fields.join(' ')}`.trimEnd();
    })
    .join(', ');

test('what is worked out of the demo and of forty rigs stands in a file, so that whatever moves is seen', async () => {
  const rigs = Array.from({ length: 40 }, (_, at) => [`rig ${at + 1}`, randomRig(at + 1).show] as const);
  const lines = [['demo', demoShow()] as const, ...rigs].flatMap(([name, show]) => [...outcomeOf(name, show)]);
  expect(lines.length).toBeGreaterThan(400);
  await expect(`${lines.join('\n')}\n`).toMatchFileSnapshot('./outcomes.txt');
}, 300_000);
