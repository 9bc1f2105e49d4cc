import { cabling, show as core } from '@deep-patch/core';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { useShow } from '../../live/workspace.tsx';

/**
 * Walking along the runs by keys: left and right choose a run of the unit, down goes along it, up goes back. What a
 * sighted person sees of it is said in words.
 */
export function useWalk(picture: cabling.Picture) {
  const show = useShow();
  const [trail, setTrail] = useState<readonly string[]>([]);
  const [chosen, setChosen] = useState(0);
  const runsOf = useMemo(
    () =>
      core.groupBy(
        picture.runs.flatMap((run) => [
          { at: run.upper, far: run.lower, run },
          { at: run.lower, far: run.upper, run },
        ]),
        ({ at }) => at.unitId,
      ),
    [picture],
  );
  const here = trail.at(-1);
  const ways = here === undefined ? [] : (runsOf.get(here) ?? []);
  const way = ways[Math.min(chosen, ways.length - 1)];
  const goTo = (unitId: string) => {
    setTrail((before) => [...before.slice(-50), unitId]);
    setChosen(0);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const first = picture.units[0]?.id;
    const acts: Readonly<Record<string, () => void>> = {
      ArrowRight: () => setChosen((at) => (at + 1) % Math.max(1, ways.length)),
      ArrowLeft: () => setChosen((at) => (at + Math.max(1, ways.length) - 1) % Math.max(1, ways.length)),
      ArrowDown: () => (way ? goTo(way.far.unitId) : first !== undefined && goTo(first)),
      ArrowUp: () => setTrail((before) => before.slice(0, -1)),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    if (here === undefined && first !== undefined) goTo(first);
    else act();
  };
  const name = here === undefined ? '' : (show.devices[here]?.name ?? '');
  const words = way
    ? `${name}, run ${ways.indexOf(way) + 1} of ${ways.length}: ${cabling.endWords(show, way.at.unitId, way.at.socket)} to ${cabling.endWords(show, way.far.unitId, way.far.socket)}, ${cabling.mediumWords[way.run.medium]}${way.run.lengthM === null ? '' : `, ${way.run.lengthM} m`}`
    : name;
  return { here, runId: way?.run.id, words, goTo, onKeyDown };
}
