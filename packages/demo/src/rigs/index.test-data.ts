export { diceOf } from './dice.test-data.ts';
export type { Dice } from './dice.test-data.ts';
export { randomRig, rigPasswords } from './random-rig.test-data.ts';
export type { RandomRig } from './random-rig.test-data.ts';
