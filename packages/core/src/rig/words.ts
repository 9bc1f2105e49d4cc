import { nameList, type Finding, type Words } from '../findings/index.ts';
import { feedTexts, systemTexts } from './type-words.ts';

type Say = (f: Finding['facts'], fixable: boolean) => Words;
const words = (what: string, why: string, fix: string): Words => ({ what, why, fix });
const texts = (value: unknown): string[] => (Array.isArray(value) ? (value as string[]) : []);
const feed = (value: unknown): string => feedTexts[value as keyof typeof feedTexts] ?? String(value);
const system = (text: string): string =>
  text.replace(/^(windows|macos|linux|mobile)/, (key) => systemTexts[key as keyof typeof systemTexts]);
const wantedSystems = (f: Finding['facts']): string => texts(f['wanted']).map(system).join(' or ');
const computerSystem = (f: Finding['facts']): string => `${system(String(f['system']))} ${f['version']}`.trim();

/** What, why and what to do for each finding of the rig. */
const sayings: Readonly<Record<string, Say>> = {
  doubled_name: (f) =>
    words(
      `${f['count']} units are called ${f['name']}.`,
      'Nobody can tell on a label or in a cue which one is meant.',
      'Give each a name of its own, with its place or number.',
    ),
  doubled_unit: (f, fixable) =>
    words(
      `${nameList(f['names'])} are both unit ${f['unit']}.`,
      'Addresses follow unit numbers, so one of them gets a number that nobody expects.',
      fixable ? 'Renumber one of them.' : 'Give one of them another number.',
    ),
  doubled_mac: (f) =>
    words(
      `${nameList(f['names'])} have the same MAC address ${f['mac']}.`,
      'No two adapters share one, so one line of the list is wrong and a scan will mix them up.',
      'Read it again from the unit’s label.',
    ),
  firmware_below: (f) =>
    words(
      `${f['name']} runs ${f['firmware']}; ${f['service']} needs ${f['lowest']}.`,
      'The function may be missing or behave differently.',
      'Update it before the rig-in, or write down the version if the list is out of date.',
    ),
  feature_below: (f) =>
    words(
      `${f['name']} runs ${f['firmware']}; “${f['feature']}” came with ${f['lowest']}.`,
      'The menu will not offer it.',
      'Update the unit before the site, or do without.',
    ),
  feature_unknown: (f) =>
    words(
      `Nobody wrote down the version of ${f['name']}; “${f['feature']}” came with ${f['lowest']}.`,
      'Whether it has the function is open.',
      'Read the version from its own menu, not from the box.',
    ),
  feature_unclear: (f) =>
    words(
      `The version ${f['firmware']} of ${f['name']} cannot be compared with ${f['lowest']}.`,
      `“${f['feature']}” came with that release; a pre-release may lack it.`,
      'Check by hand.',
    ),
  partner_versions: (f) =>
    words(
      `${nameList(f['names'])} run ${nameList(f['versions'])}.`,
      f['rule'] === 'equal'
        ? 'They refuse or misread each other unless the versions are the same.'
        : 'They work together only with the same first figure.',
      'Update the older ones over the network, one at a time; each vanishes for a while.',
    ),
  partner_unknown: (f) =>
    words(
      `Nobody wrote down the version of ${nameList(f['silent'])}.`,
      `It must go with ${nameList(f['versions'])} of its partner.`,
      'Read it from the unit or the program.',
    ),
  seats_short: (f) =>
    words(
      `${f['type']} needs ${f['needed']} of “${f['bundle']}” and the show owns ${f['owned']}.`,
      f['per'] === 'site'
        ? 'Without it the function stays off everywhere.'
        : `Each unit that uses it takes one: ${nameList(f['names'])}.`,
      'Buy or borrow the rest, or switch the function off where it is not needed. Owned licences are in the list before the site.',
    ),
  too_many_sources: (f) =>
    words(
      `${f['name']} takes ${f['most']} sources; the plan has ${f['wanted']}.`,
      `${f['surplus']} ${f['surplus'] === 1 ? 'is' : 'are'} left over.`,
      (texts(f['alternatives']).length > 0
        ? `${nameList(f['alternatives'])} would do, or ${f['units']} of these.`
        : `Plan ${f['units']} of these, or fewer sources.`) +
        (f['cheapest'] ? ` Cheapest beside it: ${f['cheapest']}.` : ''),
    ),
  too_many_controllers: (f) =>
    words(
      `${nameList(f['names'])} all control ${f['name']}, which ${f['most'] === 1 ? 'obeys one at a time' : `takes ${f['most']}`}.`,
      'The last one to connect wins, or is refused.',
      'Agree who controls it and take the other links out.',
    ),
  no_computer: (f) =>
    words(
      `${f['name']} runs on no computer.`,
      'It has no address and reaches nothing.',
      'Say on which computer it runs.',
    ),
  platform_other_system: (f) =>
    words(
      `${f['name']} does not run on ${f['computer']}, which has ${computerSystem(f)}.`,
      `It exists for ${wantedSystems(f)}.`,
      'Run it on another computer.',
    ),
  platform_too_old: (f) =>
    words(
      `${f['computer']} has ${computerSystem(f)}; ${f['name']} needs ${wantedSystems(f)}.`,
      'It may not start, or fail in use.',
      'Update the computer, or run it on another.',
    ),
  platform_unknown: (f) =>
    words(
      `Nobody wrote down the system of ${f['computer']}, on which ${f['name']} runs.`,
      `It needs ${wantedSystems(f)}.`,
      'Write the system and its version down.',
    ),
  accessory_missing: (f) =>
    words(
      `${f['name']} needs ${Number(f['count']) > 1 ? `${f['count']} × ` : ''}${f['accessory']}.`,
      f['need'] === 'network' ? 'Without it the unit has no network socket.' : 'Nobody ticked it as packed.',
      'Pack it, then say so.',
    ),
  converter_needed: (f) =>
    words(
      `The cable ${texts(f['names'])[0] === texts(f['names'])[1] ? `at ${texts(f['names'])[0]}` : `between ${nameList(f['names'])}`} goes from ${f['from']} to ${f['to']} over ${f['medium']}.`,
      'The ends do not mate.',
      'Pack a converter, or use other sockets.',
    ),
  no_copy: (f) =>
    words(
      `${f['count']} ${f['count'] === 1 ? 'unit holds' : 'units hold'} settings of which no copy is known: ${nameList(f['names'])}.`,
      'A reset or a wrong synchronisation erases them.',
      'Save a copy away from the unit and write the day down on its page.',
    ),
  known_login: (f) =>
    words(
      `${nameList(f['names'])} ${f['count'] === 1 ? 'comes' : 'come'} with a password that the whole trade knows.`,
      'Anybody on the network can change its settings.',
      'Set another one before guests are on the network.',
    ),
  feed_unfit: (f) =>
    words(
      `${f['name']} is to be fed by ${feed(f['feed'])}, which it does not take.`,
      `It takes ${texts(f['offers']).map(feed).join(' or ')}.`,
      'Choose another feed.',
    ),
  feed_no_switch: (f) =>
    words(
      `${f['name']} is to be fed over its network cable, which leads to no switch.`,
      'It stays dark.',
      'Plug it into a switch that feeds, or pack its supply.',
    ),
  on_battery: (f) =>
    words(`${f['name']} lives on a battery.`, 'It may go off during the show.', 'Plan a change, or feed it otherwise.'),
  newer_hidden: (f) =>
    words(
      `${f['type']} ${f['version']} in “${f['library']}” hides the newer ${f['newer']} in “${f['below']}”.`,
      'The first library that has a type defines it, whatever the version says.',
      'Remove the older one, or keep it knowingly.',
    ),
  parts_moved: (f) =>
    words(
      `${f['name']} does not have the parts of its type ${f['type']} any more.`,
      [
        texts(f['lacks']).length > 0 && `It lacks ${nameList(f['lacks'])}.`,
        texts(f['extra']).length > 0 && `It still has ${nameList(f['extra'])}.`,
      ]
        .filter(Boolean)
        .join(' '),
      'Take the parts of its type as they are now.',
    ),
  alike_differ: (f) =>
    words(
      `${nameList(f['names'])}: ${f['field']} is ${nameList(f['values'])}, on ${f['count']} others ${f['usual']}.`,
      `Units of type ${f['type']} usually have it alike, so this may be a slip.`,
      'Make it equal, or leave it if it is meant.',
    ),
  names_differ: (f) =>
    words(
      `${f['name']} is called ${nameList(f['labels'])} elsewhere.`,
      f['form']
        ? 'Only capitals or blanks differ, which some programs treat as another name.'
        : 'People look for it under the wrong name.',
      'Use one name for one thing.',
    ),
  name_shared: (f) =>
    words(
      `“${f['label']}” stands for ${nameList(f['names'])} in different controllers.`,
      'A command goes to the wrong one.',
      'Give each a name of its own.',
    ),
};

export const rigWords = ({ code, facts, fixes }: Finding): Words =>
  sayings[code]?.(facts, fixes.length > 0) ?? words(code, '', '');
