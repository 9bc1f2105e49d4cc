// npm run measure -- kill [rounds] [seed]: what was acknowledged survives, whatever is killed and whenever.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { killRounds } from './kill-rounds.mjs';
import { measureLines } from './measure-lines.ts';

const [rounds = 20, seed = Math.floor(Date.now() / 1000)] = process.argv.slice(2).map(Number);
console.log(`${rounds} rounds from seed ${seed}`);
const { tell, show } = measureLines();
const dataDir = mkdtempSync(join(tmpdir(), 'deep-patch-kill-'));
// as root, the database runs as another user, who has to get there
chmodSync(dataDir, 0o755);
const { acknowledged, lost, twice } = await killRounds({
  rounds,
  dataDir,
  seed,
  say: (text) => console.log(text),
});
rmSync(dataDir, { recursive: true });
tell(
  `${rounds} rounds of kill -9`,
  `${acknowledged} changes acknowledged, ${lost.length} lost, ${twice.length} rounds with one done twice`,
  'none lost, none twice',
  lost.length === 0 && twice.length === 0 && acknowledged > 0,
);
show();
