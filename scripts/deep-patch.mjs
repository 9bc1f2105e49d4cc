// What can be done without a browser: node scripts/deep-patch.mjs ltc write|read
import { checkNode, ensurePackages, giveUp } from './prepare.mjs';

checkNode();
ensurePackages();
const { register } = await import('tsx/esm/api');
register();
const [what, ...rest] = process.argv.slice(2);
if (what !== 'ltc') giveUp('Say what to do: node scripts/deep-patch.mjs ltc write FILE, or ltc read FILE.');
const { ltc } = await import('./ltc.ts');
process.exitCode = await ltc(rest);
