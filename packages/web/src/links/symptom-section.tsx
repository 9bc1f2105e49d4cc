import { links as linkRoom, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Mark } from '../parts/mark.tsx';

/** From what somebody sees to what may cause it, leaving out what a sounding has ruled out. */
export function SymptomSection({ measured }: { measured: core.MeasuredSounding | undefined }) {
  const [symptom, setSymptom] = useState<linkRoom.Symptom | ''>('');
  const causes = symptom === '' ? undefined : linkRoom.causesFor(symptom, measured);
  const lists = causes && [
    { state: 'fail' as const, title: 'Shown by the sounding', items: causes.shown },
    { state: 'waits' as const, title: 'To look at, the likeliest first', items: causes.open },
    { state: 'pass' as const, title: 'Ruled out by the sounding', items: causes.ruledOut },
  ];
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
        {causes && !measured && <p className="text-mute">Sound the link first: that rules most of these out.</p>}
        {lists
          ?.filter(({ items }) => items.length > 0)
          .map(({ state, title, items }) => (
            <div key={title}>
              <h4 className="text-xs text-mute">{title}</h4>
              <ul>
                {items.map((item) => (
                  <li key={item} className={`flex items-baseline gap-1.5 ${state === 'pass' ? 'text-mute' : ''}`}>
                    <Mark state={state} size={11} />
                    {item}
                  </li>
                ))}
              </ul>
            </div>
          ))}
      </div>
    </details>
  );
}
