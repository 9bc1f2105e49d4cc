// Words that rows may hold, without the schemas that check them: whoever only works with rows needs no more.

export const deviceKinds = [
  'switcher',
  'camera',
  'camera-remote',
  'mixer',
  'stage-rack',
  'amplifier',
  'led-processor',
  'led-receiver',
  'led-panel',
  'media',
  'playout',
  'lyrics',
  'show-host',
  'lighting',
  'caller',
  'fader-bank',
  'button-panel',
  'tablet',
  'phone',
  'timecode',
  'recorder',
  'projector',
  'media-control',
  'switch',
  'router',
  'access-point',
  'computer',
] as const;

/** What a socket is for. `any` fits every network; the others fit the network of that purpose only. */
export const socketRoles = [
  'any',
  'control',
  'management',
  'audio_primary',
  'audio_secondary',
  'led',
  'video',
  'setup',
] as const;

export const connectors = ['rj45', 'sfp', 'radio', 'usb', 'sdi', 'hdmi'] as const;

export const media = ['copper', 'fibre', 'wireless'] as const;

/**
 * Grades of cable: balanced copper by category (ISO/IEC 11801), multi-mode fibre OM3 and OM4 and single-mode OS2 (IEC
 * 60793-2).
 */
export const cableGrades = ['cat5e', 'cat6', 'cat6a', 'om3', 'om4', 'os2'] as const;

/** What an input of a switcher is declared as. */
export const inputKinds = ['picture', 'player', 'caller', 'graphics'] as const;

/** When a run is plugged in. */
export const cableStages = ['both', 'setup', 'show'] as const;

/** What an argument must be for the command to do anything: `any` value, only a true one, or only on the way up. */
export const triggers = ['any', 'true', 'rising'] as const;

/** What services speak: `text` is one command a line over TCP, `midi` a session of RTP-MIDI (RFC 6295). */
export const protocols = ['osc', 'http', 'text', 'midi'] as const;

/**
 * Whom a service over UDP answers: the one address entered in it, a list of them, whoever asked, or everybody who asked
 * within the last minute.
 */
export const replyRules = ['entered', 'list', 'sender', 'subscribers'] as const;

/** What an end of a connection does: it waits for the other one, or opens it. */
export const connectionRoles = ['waits', 'opens'] as const;

export const settingWays = ['menu', 'web', 'program', 'usb', 'system', 'search'] as const;

/** What a change of settings may concern (`entry`: a target in a controller's list); each has its own acts that make it real. */
export const settingKinds = ['address', 'service', 'login', 'mode', 'output', 'entry', 'install'] as const;

export const commitActs = [
  'confirm_entry',
  'confirm_page',
  'store',
  'leave_setup',
  'restart_program',
  'restart_service',
  'restart_device',
  'restart_computer',
] as const;

/** What a controller's own lamp for a target really measures; `show` tells whether the target has its show open too. */
export const lampMeanings = ['carrier', 'address', 'application', 'login', 'data', 'show'] as const;

/** A whole licence for each unit that uses it, for each that feeds an output, or one for the site. */
export const licenceScopes = ['unit', 'output', 'site'] as const;

/** Systems that programs run on. */
export const systems = ['windows', 'macos', 'linux', 'mobile'] as const;

export const loginMethods = ['none', 'basic', 'digest'] as const;

export const powerFeeds = ['mains', 'supply', 'poe', 'usb', 'battery'] as const;

/** An operating system's, a maker's for downloads and first sign-in, or the unit's own administrator. */
export const accountUses = ['system', 'maker', 'administrator'] as const;

/** What runs on a network; sockets and gear have their own places in it. */
export const networkPurposes = ['control', 'audio', 'led', 'video', 'management', 'guest', 'mixed'] as const;

/** What a hand moves on a surface: `pad` has two axes, `region` is a part of a touch screen. */
export const controlKinds = ['key', 'switch', 'fader', 'encoder', 'pad', 'region'] as const;

/** What light a control has. */
export const controlLamps = ['none', 'lamp', 'colour'] as const;

export const lampColours = ['white', 'red', 'amber', 'green', 'blue'] as const;

/** Which movement of a control: turning an encoder one way or the other, an axis of a pad. */
export const controlParts = ['whole', 'up', 'down', 'x', 'y'] as const;

export const transferCurves = ['straight', 'table'] as const;

/** What a fader does that is elsewhere than its parameter: the parameter jumps to it, or waits until it comes past. */
export const pickUps = ['jump', 'when_passed'] as const;

export const assignmentDeeds = ['command', 'choose_target', 'show_layer', 'machine', 'stop_all'] as const;

/** What is done to a machine itself. */
export const machineActs = ['wake', 'save', 'close', 'restart', 'shut_down'] as const;

/** What going on air does: nothing, a start once the input is on air, or a start with the cut, before it is. */
export const takings = ['nothing', 'when_on_air', 'with_cut'] as const;

/** What leaving does: nothing, the player stops and is dark, it holds its last picture, or makes its next item ready. */
export const leavings = ['nothing', 'stop', 'hold', 'next'] as const;

/** Which list a switcher is offered: the one that somebody has selected at the player, or always the same. */
export const offeredLists = ['selected', 'fixed'] as const;

/** How an output shows what is open: all of it, a band at its bottom, with what comes next, or only its words. */
export const outputForms = ['full', 'band', 'with_next', 'words'] as const;

/** In which order a panel's colours come on its data line. */
export const colourOrders = ['RGB', 'RBG', 'GRB', 'GBR', 'BRG', 'BGR'] as const;

/** The side at which data comes into a module, seen by the audience. */
export const dataSides = ['left', 'right'] as const;

/** From where the parts of a wall are numbered. */
export const viewpoints = ['front', 'back'] as const;

export const wallCorners = ['top_left', 'top_right', 'bottom_left', 'bottom_right'] as const;

/** What sends data into a wall: a device made for it, or a plain network card of a computer. */
export const wallSenders = ['device', 'card'] as const;

/** How a player's picture gets to a wall: as a picture into a processor, over the network into its receivers, or on data channels. */
export const playerOutputs = ['picture', 'receivers', 'channels'] as const;

/** Pictures that show what is wrong at a glance; each at the wall's exact size. */
export const testPictures = [
  'orientation',
  'red',
  'green',
  'blue',
  'calm',
  'white',
  'ramp',
  'grid',
  'panels',
  'line',
] as const;

/** How a processor is managed: with monitor and keyboard at it, or from afar. */
export const managements = ['local', 'remote'] as const;

/** Rates of pictures and of time code (SMPTE ST 12-1, and ST 12-3 above 30); `df` is drop-frame. */
export const rateKeys = [
  ...(['23.976', '24', '25', '29.97', '29.97df', '30'] as const),
  ...(['47.952', '48', '50', '59.94', '59.94df', '60'] as const),
] as const;

/** As what time code travels: linear (ST 12-1) as sound, MIDI time code over a cable, or in a session of RTP-MIDI. */
export const timeFormats = ['linear', 'midi', 'network_midi'] as const;

/** The fader that stands apart from the strips: a bus by an assignment of its own, or one more channel, which stays or follows the layer. */
export const oddFaders = ['none', 'bus', 'channel', 'channel_of_layer'] as const;
