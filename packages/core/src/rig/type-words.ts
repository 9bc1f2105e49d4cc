import type { DeviceType } from '../show/index.ts';

type WayIn = DeviceType['ways'][number];
type CommitStep = DeviceType['commits'][number]['acts'][number];
export type SettingKind = DeviceType['commits'][number]['of'];

const wayTexts: Readonly<Record<WayIn['way'], string>> = {
  menu: 'own menu',
  web: 'web page',
  program: 'computer program',
  usb: 'USB',
  system: 'the computer’s network settings',
  search: 'search utility',
};
const actTexts: Readonly<Record<CommitStep['act'], string>> = {
  confirm_entry: 'confirm each entry',
  confirm_page: 'confirm the page',
  store: 'store it in the unit',
  leave_setup: 'leave the set-up state',
  restart_program: 'restart the program',
  restart_service: 'restart its service',
  restart_device: 'restart the unit',
  restart_computer: 'restart the computer',
};
export const feedTexts = {
  mains: 'mains',
  supply: 'its own supply',
  poe: 'power over the network cable',
  usb: 'USB',
  battery: 'battery',
} as const;
export const accountTexts = {
  system: 'account of its operating system',
  maker: 'account at the maker',
  administrator: 'its administrator',
} as const;
export const settingTexts: Readonly<Record<SettingKind, string>> = {
  address: 'New address',
  service: 'New service',
  login: 'New login',
  mode: 'Other mode',
  output: 'Other output',
  entry: 'New entry in its list',
  install: 'Installing',
};
export const systemTexts = { windows: 'Windows', macos: 'macOS', linux: 'Linux', mobile: 'a tablet or phone' } as const;
export const roleTexts: Readonly<Record<DeviceType['sockets'][number]['role'], string>> = {
  any: 'any network',
  control: 'control',
  management: 'management',
  audio_primary: 'audio, primary',
  audio_secondary: 'audio, secondary',
  led: 'LED data',
  video: 'pictures',
  setup: 'setting up',
};

export const wayWords = ({ way, note, alone }: WayIn): string =>
  [wayTexts[way], note && `(${note})`, alone && 'while it is alone on its network'].filter(Boolean).join(' ');

/** Where its settings are reached, in the order of the type. */
export const waysWords = (type: Pick<DeviceType, 'ways'>): string => type.ways.map(wayWords).join(', or ');

/**
 * What makes a change of one kind count (C29): the acts in their order, with the time that restarts take. Empty where
 * the entry counts at once.
 */
export const commitWords = (type: DeviceType, of: SettingKind): string =>
  actWords(type.commits.find((commit) => commit.of === of)?.acts ?? []);

export const actWords = (acts: readonly CommitStep[]): string =>
  acts.map(({ act, seconds }) => (seconds ? `${actTexts[act]} (about ${seconds} s)` : actTexts[act])).join(', then ');
