import { bringup, rig, show as core, type show } from '@deep-patch/core';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { saveFile } from '../parts/save-file.ts';

const isSecret = ({ key }: { key: string }): boolean => key.endsWith(':password');
const shownValue = (line: bringup.PendingLine, value: string | null): string =>
  value === null ? 'nothing' : isSecret(line) ? 'as written down' : value;

/** What is still to be keyed into a unit, what it replaces, and the acts after which it counts. */
export function DeviceToSet({ device, type }: { device: show.Device; type: show.DeviceType }) {
  const show = useShow();
  const { analysis, save } = useWorkspace();
  const addressing = analysis?.addressing;
  const pending = useMemo(
    () => (addressing ? bringup.pendingOf(show, addressing, device) : undefined),
    [show, addressing, device],
  );
  if (!addressing || !pending) return null;
  const { lines, acts, neverSet } = pending;
  if (lines.length === 0 && neverSet) return null;
  const missing = bringup.missingFor(show, addressing, device);
  const keyIn = (line?: bringup.PendingLine) =>
    void save(bringup.planKeyedIn(show, addressing, [device], line && { of: line.of, key: line.key }));
  const keep = () => {
    const text = JSON.stringify(bringup.settingsFile(show, addressing, device), null, 2);
    saveFile(`${device.name} settings.json`, text, 'application/json');
  };
  return (
    <section className="grid gap-1.5" aria-label={`To set on ${device.name}`}>
      <h3 className="text-xs font-semibold text-mute">
        {lines.length === 0 ? 'Set as planned' : `To set on it · ${lines.length}`}
      </h3>
      <ul>
        {lines.map((line) => (
          <LineToSet key={`${line.of} ${line.key}`} line={line} neverSet={neverSet} onSet={() => keyIn(line)} />
        ))}
      </ul>
      {acts.length > 0 && (
        <p className="text-[13px]">
          Then {rig.actWords(acts)}. <span className="text-mute">It counts only afterwards.</span>
        </p>
      )}
      {missing.length > 0 && <p className="text-[13px] text-mute">Still open: {missing.join('; ')}.</p>}
      <div className="flex gap-2">
        {lines.length > 0 && (
          <button type="button" className="act" onClick={() => keyIn()}>
            All of it is set
          </button>
        )}
        <button
          type="button"
          className="act-quiet"
          onClick={keep}
          aria-label={`Save as a file: settings of ${device.name}`}
        >
          Save as a file
        </button>
      </div>
      {lines.length > 0 && <StepLink deviceId={device.id} />}
      {type.ways.length > 0 && lines.length > 0 && <p className="text-xs text-mute">Set from {rig.waysWords(type)}.</p>}
    </section>
  );
}

/** When and from where it is set is worked out for the whole rig. */
function StepLink({ deviceId }: { readonly deviceId: string }) {
  const { showId } = useWorkspace();
  const to = `/shows/${showId}/bring-up/${encodeURIComponent(`key_in:${deviceId}`)}`;
  return (
    <p className="text-[13px]">
      <Link className="link" to={to}>
        Its step in Bring-up
      </Link>{' '}
      says when, and from where.
    </p>
  );
}

function LineToSet({
  line,
  neverSet,
  onSet,
}: {
  readonly line: bringup.PendingLine;
  readonly neverSet: boolean;
  readonly onSet: () => void;
}) {
  const wanted = line.now === null ? 'take it out' : shownValue(line, line.now);
  return (
    <li className="flex items-start gap-2 border-b border-rule py-1">
      <span className="grid min-w-0 flex-1">
        <span className="text-[13px] text-mute">{line.label}</span>
        {wanted.split(/(?<=,) /).map((part) => (
          <code key={part} className="text-[14px] break-words">
            {part}{' '}
          </code>
        ))}
        {!neverSet && (
          <span className="text-xs text-mute">
            instead of <code>{isSecret(line) && line.was ? 'another' : shownValue(line, line.was)}</code>
          </span>
        )}
      </span>
      <button type="button" className="act btn-xs" aria-label={`${line.label} is set`} onClick={onSet}>
        set
      </button>
    </li>
  );
}

/** For several units at once: everything that the plan wants is in them. */
export function SeveralSet({ devices }: { devices: readonly show.Device[] }) {
  const show = useShow();
  const { analysis, save } = useWorkspace();
  const addressing = analysis?.addressing;
  if (!addressing) return null;
  const open = devices.filter((device) => bringup.pendingOf(show, addressing, device).lines.length > 0);
  return (
    <div className="grid gap-1">
      <p className="text-[13px]">
        {open.length === 0
          ? 'All of them are set as planned.'
          : `${open.length} of them still to set: ${[...open]
              .sort(core.byName)
              .slice(0, 3)
              .map(({ name }) => name)
              .join(', ')}${open.length > 3 ? ' and more' : ''}.`}
      </p>
      {open.length > 0 && (
        <button
          type="button"
          className="act justify-self-start"
          onClick={() => void save(bringup.planKeyedIn(show, addressing, open))}
        >
          They are set as planned
        </button>
      )}
    </div>
  );
}
