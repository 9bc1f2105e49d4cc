// Builds page and server where a source is newer than what was built.
import { ensureBuild } from './prepare.mjs';

ensureBuild();
