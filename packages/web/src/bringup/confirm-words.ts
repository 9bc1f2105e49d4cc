import type { contract } from '@deep-patch/core';

type Check = contract.ConfirmCheck;
type Say = (facts: Check['facts']) => string;

/** What each check of a confirmation says, by what came out. */
export const confirmTexts: Readonly<Record<Check['key'], Readonly<Record<Check['state'], Say>>>> = {
  answers: {
    pass: () => 'Answers at its new address',
    fail: ({ ip }) => `Does not answer at ${ip}. Was it restarted, and is its cable in?`,
    waits: () => 'Was not asked',
  },
  silent_before: {
    pass: () => 'Is gone from its old address',
    fail: ({ ip }) => `Still has ${ip}: what was keyed in is not in force yet`,
    waits: () => 'Its old address cannot be asked from here',
  },
  version: {
    pass: () => 'Runs the version of the plan',
    fail: ({ has, wanted }) => `Runs ${has}, planned is ${wanted}`,
    waits: () => 'Its version is not known',
  },
  wrong_login: {
    pass: () => 'Turns a wrong password away',
    fail: () => 'Lets a wrong password in',
    waits: () => 'Asks for no login',
  },
  right_login: {
    pass: () => 'Lets the right password in',
    fail: () => 'Turns the right password away: key the login in again',
    waits: () => 'No password to try',
  },
};
