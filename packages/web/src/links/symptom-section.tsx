import { links as linkRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { Mark } from '../parts/mark.tsx';

const lists = [
  { cause: 'shown', state: 'fail', title: 'As the sounding stopped' },
  { cause: 'open', state: 'waits', title: 'To look at, the likeliest first' },
  { cause: 'ruled_out', state: 'pass', title: 'Ruled out: the sounding went past it' },
] as const;

/** From what somebody sees to what may cause it. `measured` only where it holds now: an old proof rules nothing out. */
export function SymptomSection({ link, measured }: { link: core.Link; measured: core.MeasuredSounding | undefined }) {
  const show = useShow();
  const [symptom, setSymptom] = useState<linkRoom.Symptom | ''>('');
  const causes = symptom === '' ? undefined : linkRoom.causesFor(symptom, measured);
  const nameOf = (id: string) => show.devices[id]?.name ?? '';
  const where = (next: linkRoom.NextCheck): string => {
    if (next.by === 'looking') return `look for ${nameOf(link.targetId)} on the bench, step by step`;
    if (next.by === 'screen')
      return `see ${nameOf(next.of === 'target' ? link.targetId : link.controllerId)}’s own screen`;
    return next.by === 'sounding' ? 'sound the link' : '';
  };
  return (
    <details className="mt-3 border-t border-rule pt-3">
      <summary className="cursor-pointer text-[13px] font-semibold">From what you see to what may cause it</summary>
      <div className="grid gap-2 pt-2 text-[13px]">
        <select
          className="field-select"
          aria-label="What do you see?"
          value={symptom}
          onChange={(event) => setSymptom(event.target.value as linkRoom.Symptom | '')}
        >
          <option value="">What do you see?</option>
          {linkRoom.symptoms.map((each) => (
            <option key={each} value={each}>
              {linkRoom.symptomWords(each)}
            </option>
          ))}
        </select>
        {causes && !measured && (
          <p className="text-mute">Sound the link first: a proof of now rules most of these out.</p>
        )}
        {causes &&
          lists.map(({ cause, state, title }) => {
            const items = causes.filter((one) => one.state === cause);
            if (items.length === 0) return null;
            return (
              <div key={cause}>
                <h4 className="text-xs text-mute">{title}</h4>
                <ul>
                  {items.map(({ key, check, next }) => (
                    <li key={key} className={`flex items-baseline gap-1.5 ${state === 'pass' ? 'text-mute' : ''}`}>
                      <Mark state={state} size={11} />
                      <span>
                        {check}
                        {where(next) !== '' && state !== 'pass' && (
                          <span className="text-mute"> To be sure, {where(next)}.</span>
                        )}
                      </span>
                    </li>
                  ))}
                </ul>
              </div>
            );
          })}
      </div>
    </details>
  );
}
