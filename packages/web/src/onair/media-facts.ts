import type { onair } from '@deep-patch/core';
import type { MediaInfoResult } from 'mediainfo.js';

/** What the header of a file says; null where it does not say. */
export type MediaFacts = Pick<onair.FolderFile, 'seconds' | 'form'>;

const quickTime = 'QuickTime';
/** Names by which standards know what the reader calls otherwise. */
const codecNames: Readonly<Record<string, string>> = { AVC: 'H.264', HEVC: 'H.265', 'MPEG Audio': 'MP3' };

/** Length, container, codec, size and rate out of what the reader of headers found. */
export function factsOf({ media }: MediaInfoResult): MediaFacts {
  const tracks = media?.track ?? [];
  const general = tracks.find((track) => track['@type'] === 'General');
  const picture = tracks.find((track) => track['@type'] === 'Video' || track['@type'] === 'Image');
  const sound = tracks.find((track) => track['@type'] === 'Audio');
  const main = picture ?? sound;
  if (!general?.Format && !main) return { seconds: null, form: null };
  const codec = main?.Format ?? '';
  const seconds = positive(general?.Duration) ?? positive(main && 'Duration' in main ? main.Duration : undefined);
  return {
    seconds: seconds === null ? null : Math.round(seconds * 1000) / 1000,
    form: {
      // a QuickTime film is told as a profile of its younger sister
      container: general?.Format_Profile === quickTime ? quickTime : (general?.Format ?? ''),
      codec: codecNames[codec] ?? codec,
      width: whole(picture?.Width),
      height: whole(picture?.Height),
      fps: picture?.['@type'] === 'Video' ? positive(picture.FrameRate) : null,
    },
  };
}

const positive = (value: number | string | undefined): number | null => {
  const number = Number(value);
  return Number.isFinite(number) && number > 0 ? number : null;
};
const whole = (value: number | undefined): number | null => {
  const number = positive(value);
  return number === null ? null : Math.round(number);
};
