import { cues as cueRoom, findings } from '@deep-patch/core';
import { useMemo } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

/** What changed in the lists of targets since the show took them over, and who says a name that is gone (need 6.11). */
export function StructureStrip() {
  const show = useShow();
  const { save } = useWorkspace();
  const standins = useBenchPart((known) => known?.standins);
  const namesNow = useMemo<cueRoom.NamesOf>(() => {
    const lists = new Map(standins?.map((standin) => [standin.deviceId, standin.lists]));
    return (deviceId, list) => lists.get(deviceId)?.[list];
  }, [standins]);
  const all = useMemo(() => cueRoom.structureNews(show, namesNow), [show, namesNow]);
  if (all.length === 0) return null;
  return (
    <ul aria-label="What changed at targets" className="grid gap-1 border-t border-rule px-4.5 py-2">
      {all.map((news) => (
        <li
          key={`${news.target.id} ${news.list}`}
          className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[13px]"
        >
          <Mark state={news.gone.length > 0 ? 'risky' : 'waits'} size={12} />
          <span className="min-w-0">
            <b className="font-semibold">{news.target.name}</b> {wordsOf(news)}
          </span>
          <button
            type="button"
            className="link ml-auto shrink-0"
            onClick={() => void save(cueRoom.planTakeNames(show, news, namesNow(news.target.id, news.list) ?? []))}
          >
            {news.gone.some(({ now }) => now !== undefined) ? 'Let everything follow' : 'Take it over'}
          </button>
        </li>
      ))}
    </ul>
  );
}

function wordsOf({ label, gone, fresh }: cueRoom.StructureNews): string {
  const lost = gone.map(({ name, now, cues, controls }) => {
    const who = [
      cues > 0 ? findings.counted(cues, 'cue') : '',
      controls > 0 ? findings.counted(controls, 'control') : '',
    ].filter(Boolean);
    return `“${name}” ${now === undefined ? 'is gone' : `is “${now}” now`}, and ${who.join(' and ')} ${cues + controls === 1 ? 'says' : 'say'} the old name.`;
  });
  const came =
    fresh.length === 0
      ? ''
      : `New in its ${label}: ${fresh.slice(0, 6).join(', ')}${fresh.length > 6 ? ` and ${fresh.length - 6} more` : ''}.`;
  return [...lost, came].filter(Boolean).join(' ');
}
