import type { cabling } from '@deep-patch/core';
import { tone } from './run-line.tsx';

const kinds = {
  control: 'control',
  audio: 'sound',
  led: 'LED data',
  video: 'picture',
  management: 'management',
  guest: 'guests',
  mixed: 'mixed',
} as const;

/** Runs that join no network, by what goes over them. */
const layers: Readonly<Partial<Record<cabling.Layer, string>>> = { picture: 'picture', led: 'LED data', setup: 'USB' };

/** What the lines stand for, of those that are there. */
export function Legend({ picture }: { readonly picture: cabling.Picture }) {
  const seen = new Map<string, { readonly run: cabling.PictureRun; readonly dashes?: string }>();
  for (const run of picture.runs) {
    const [only, ...more] = run.networks;
    const word =
      layers[run.layer] ?? (!only ? 'no network' : more.length > 0 ? 'several networks' : kinds[only.carries]);
    if (!seen.has(word)) seen.set(word, { run });
    if (run.medium === 'wireless' && !seen.has('air')) seen.set('air', { run, dashes: '1.5 5' });
    if (run.isShut && !seen.has('held back')) seen.set('held back', { run, dashes: '7 5' });
  }
  return (
    <ul aria-label="What the lines stand for" className="flex flex-wrap gap-x-3">
      {[...seen].map(([word, { run, dashes }]) => (
        <li key={word} className="flex items-center gap-1">
          <svg width="18" height="6" aria-hidden>
            <path d="M1 3h16" className={tone(run).stroke} strokeWidth="2" strokeDasharray={dashes} />
          </svg>
          {word}
        </li>
      ))}
    </ul>
  );
}
