import { cameraRemote, cinemaCamera, panTiltCamera } from './models/cameras.ts';
import {
  buttonPanel,
  callerGateway,
  laptop,
  mediaControl,
  showHost,
  tablet,
  technicianComputer,
  telephone,
} from './models/computers.ts';
import type { TypeContent } from './models/make-type.ts';
import { networkGear } from './models/network-gear.ts';
import {
  distributionUnit,
  largeProcessor,
  pierTile,
  quayTile,
  receivingCard,
  smallProcessor,
  trunkProcessor,
} from './models/led.ts';
import { projector, switcher } from './models/pictures.ts';
import { mediaServer, playout, presentationComputer, recorder } from './models/players.ts';
import { programs } from './models/programs.ts';
import {
  amplifier,
  faderBank,
  lightingDesk,
  mixer,
  stageRack,
  timecodeDisplay,
  timecodeInterface,
  timecodeSource,
} from './models/sound-and-light.ts';

export { shippedLibrary } from './models/make-type.ts';

/** The device types that ship with Deep Patch: invented, described by what they do. A new show starts with all of them. */
export const typeLibrary: readonly TypeContent[] = [
  lightingDesk,
  panTiltCamera,
  cinemaCamera,
  callerGateway,
  mixer,
  playout,
  largeProcessor,
  smallProcessor,
  trunkProcessor,
  distributionUnit,
  quayTile,
  pierTile,
  receivingCard,
  mediaServer,
  presentationComputer,
  showHost,
  cameraRemote,
  switcher,
  buttonPanel,
  faderBank,
  tablet,
  stageRack,
  amplifier,
  timecodeSource,
  timecodeDisplay,
  timecodeInterface,
  recorder,
  projector,
  laptop,
  telephone,
  mediaControl,
  technicianComputer,
  ...networkGear,
  ...programs,
];
