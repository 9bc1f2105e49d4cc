export { diceOf, numberFrom, rotatingSeed } from './dice.test-data.ts';
export { rigTypes } from './rig-types.test-data.ts';
export type { Dice } from './dice.test-data.ts';
export { tryFixes } from './try-fixes.test-data.ts';
export type { BadFix } from './try-fixes.test-data.ts';
export { switchRig } from './switch-rig.test-data.ts';
export { randomEdit } from './random-edit.test-data.ts';
export { pulledOf, randomRig, rigPasswords } from './random-rig.test-data.ts';
export type { RandomRig } from './random-rig.test-data.ts';
