// Forecast against bench on random rigs: npm run measure -- rigs [how many] [first seed]. Where it stopped is kept, and
// the next run goes on from there; every disagreement is printed with its seed and the smallest rig that shows it.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { agrees, compare, shrink, type Comparison } from '@deep-patch/bench/rigs';
import { show as core, type Show } from '@deep-patch/core';
import { pulledOf, randomRig, tryFixes } from '@deep-patch/demo/rigs';

interface Progress {
  readonly next: number;
  readonly rigs: number;
  readonly links: number;
  readonly byChance: number;
  readonly fixes: number;
  readonly wrong: readonly string[];
}

const file = join(tmpdir(), 'deep-patch-rigs.json');
const [count, first] = process.argv.slice(2).map(Number);
const kept = existsSync(file) && first === undefined ? (JSON.parse(readFileSync(file, 'utf8')) as Progress) : undefined;
let progress: Progress = kept ?? {
  next: first ?? Date.now() % 1_000_000_000,
  rigs: 0,
  links: 0,
  byChance: 0,
  fixes: 0,
  wrong: [],
};
const end = progress.rigs + (count ?? 100_000);
console.log(`from seed ${progress.next}, ${end - progress.rigs} rigs`);

while (progress.rigs < end) {
  const seed = progress.next;
  const { show, passwords } = randomRig(seed);
  const pulled = pulledOf(show, seed);
  const compared = await compare(show, passwords, undefined, pulled);
  const wrong = compared.filter((one) => !agrees(one)).map((one) => `${seed} ${told(one)}`);
  for (const line of wrong) console.log(line);
  if (wrong.length > 0) await tellSmallest(show, passwords, pulled);
  // every tenth rig also has its fixes applied: that takes longer than the bench
  const fixes = seed % 10 === 0 ? tryFixes(show) : { tried: 0, bad: [] };
  const bad = fixes.bad.map((fix) => `${seed} fix of ${fix.finding}: ${fix.label}: ${fix.why} ${fix.what}`);
  for (const line of bad) console.log(line);
  progress = {
    next: seed + 1,
    rigs: progress.rigs + 1,
    links: progress.links + compared.length,
    byChance: progress.byChance + compared.filter(({ chance }) => chance).length,
    fixes: progress.fixes + fixes.tried,
    wrong: [...progress.wrong, ...wrong, ...bad],
  };
  if (progress.rigs % 500 === 0) save();
}
save();
console.log(
  `${progress.rigs} rigs, ${progress.links} links (${progress.byChance} depend on what a server hands out), ` +
    `${progress.fixes} fixes: ${progress.wrong.length} wrong`,
);
process.exitCode = progress.wrong.length > 0 ? 1 : 0;

function save(): void {
  writeFileSync(file, JSON.stringify(progress));
  process.stderr.write(`\r${progress.rigs} rigs, ${progress.wrong.length} wrong, next seed ${progress.next} `);
}

function told({ linkId, forecast, code, happened, contradicts }: Comparison): string {
  return `${linkId}: the plan says ${forecast} ${code}, it was ${happened.join(' or ')}${contradicts ? ', and the sounding said something else' : ''}`;
}

async function tellSmallest(
  show: Show,
  passwords: Readonly<Record<string, string>>,
  pulled: ReadonlySet<string>,
): Promise<void> {
  const small = await shrink(show, async (smaller) =>
    (await compare(smaller, passwords, undefined, pulled)).some((one) => !agrees(one)),
  );
  if (pulled.size > 0) console.log('    pulled', [...pulled].join(' '));
  for (const table of ['networks', 'devices', 'addresses', 'cables', 'services', 'links'] as const)
    for (const row of core.rowsOf(small, table)) console.log('   ', table, JSON.stringify(core.contentOf(row)));
}
