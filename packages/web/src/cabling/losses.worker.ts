import { addressing, links, type Show } from '@deep-patch/core';

/** Works out what every loss takes down: a large show takes a moment, and no screen waits for it. */
self.onmessage = ({ data: show }: MessageEvent<Show>) => {
  const facts = links.linkFacts(show, addressing.addressingFacts(show), () => ({ change: undefined }));
  self.postMessage(links.lossesOf(show, facts, links.forecastAll(show, facts)));
};
