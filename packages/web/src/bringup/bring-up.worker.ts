/// <reference lib="webworker" />
import { bringup, type Show } from '@deep-patch/core';

/** A plan of the whole takes up to a second: it is worked out beside the screen, for the newest show that was asked. */
self.onmessage = ({ data: show }: MessageEvent<Show>) => {
  self.postMessage(bringup.bringUp(show));
};
