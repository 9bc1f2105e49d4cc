import { onair, show as core } from '@deep-patch/core';
import { Link } from 'react-router';
import { useBenchPart, useBenchState } from '../live/bench-store.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';
import { faceOf } from '../live/face-of.ts';

/** What of all that is found concerns machines that move together. */
const codes: ReadonlySet<string> = new Set(['not_frame_accurate', 'seats_short', 'peers_apart', 'partner_versions']);

/** Machines that move together: what each is for, whether they show the same, and how exactly. */
export function LinkedView() {
  const show = useShow();
  const { analysis, showId } = useWorkspace();
  const groups = onair.linkedGroups(show);
  if (groups.length === 0)
    return (
      <Empty text="Machines that move each other on are listed here: lyrics, notices, a stage monitor, an overflow room. Let two of them use “move together with others”, or say what each is used for.">
        <Link to={`/shows/${showId}/rig`} className="act-main">
          To the rig
        </Link>
      </Empty>
    );
  const members = new Set(groups.flatMap((group) => group.members.map(({ device }) => device.id)));
  const findings = (analysis?.findings ?? []).filter(
    ({ code, subjects }) => codes.has(code) && subjects.some(({ id }) => members.has(id)),
  );
  return (
    <div className="grid min-h-0 flex-1 content-start gap-5 overflow-auto border-t border-rule p-4.5">
      {groups.map((group) => (
        <Group key={group.name} group={group} />
      ))}
      <div className="grid max-w-4xl gap-2">
        {findings.map((finding) => (
          <FindingCard key={finding.key} finding={finding} quiet />
        ))}
      </div>
    </div>
  );
}

function Group({ group }: { readonly group: onair.LinkedGroup }) {
  const state = useBenchState();
  const open = new Map(
    group.members.flatMap(({ device }) => {
      const item = faceOf(state?.standins, device.id, 'item');
      return item === undefined ? [] : [[device.id, item] as const];
    }),
  );
  return (
    <section className="grid max-w-6xl gap-2">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2 className="text-base font-bold">{group.name}</h2>
        <SameWords state={onair.openItems(group.members, open).state} />
        <span className="text-mute">{exactWords(group)}</span>
      </div>
      <Members group={group} open={open} />
    </section>
  );
}

function SameWords({ state }: { readonly state: 'same' | 'different' | 'unknown' }) {
  if (state === 'unknown') return <span className="text-mute">what each shows is not known</span>;
  const isSame = state === 'same';
  return (
    <span className={isSame ? 'text-mute' : 'text-warning'}>
      <Mark state={isSame ? 'pass' : 'risky'} size={12} />{' '}
      {isSame ? 'the same item is open' : 'they show different items'}
    </span>
  );
}

function exactWords({ together, togetherFrom }: onair.LinkedGroup): string {
  if (together === 'yes') return 'frame for frame';
  if (together === 'unknown') return 'nobody has said whether frame for frame';
  return `not frame for frame${togetherFrom ? `: from ${togetherFrom} on` : ', in no version so far'}`;
}

const heads = ['Machine', 'Used for', 'Version', 'Feeds an output', 'Moves the others', 'Open now', 'Its outputs'];

function Members({ group, open }: { readonly group: onair.LinkedGroup; readonly open: ReadonlyMap<string, string> }) {
  const { showId } = useWorkspace();
  return (
    <table className="w-full text-[13px]">
      <HeadRow heads={heads} />
      <tbody>
        {group.members.map(({ device, usedFor, feedsOutput, isLinked, outputs }) => (
          <tr key={device.id} className="border-t border-rule">
            <td className="px-2.5 py-1.5">
              <Link className="link font-semibold" to={`/shows/${showId}/rig/${device.id}`}>
                {device.name}
              </Link>
            </td>
            <td className="px-2.5 py-1.5">
              <UsedFor device={device} usedFor={usedFor} />
            </td>
            <td className="key-num px-2.5 py-1.5">{device.firmware ?? '?'}</td>
            <td className="px-2.5 py-1.5">{feedsOutput ? 'yes, with a seat' : 'no'}</td>
            <td className="px-2.5 py-1.5">{isLinked ? 'yes' : 'no'}</td>
            <td className="key-num px-2.5 py-1.5">{open.get(device.id) ?? '?'}</td>
            <td className="px-2.5 py-1.5">
              {outputs.map((output) => (
                <Output key={output.socket.key} {...{ device, output }} />
              ))}
              {outputs.length === 0 && <span className="text-mute">no picture output</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const forms = { full: 'all of it', band: 'a band at its bottom', with_next: 'this and the next', words: 'words only' };

/** How one output shows what is open: the same step looks different in each room. */
function Output({ device, output }: { readonly device: core.Device; readonly output: onair.LinkedOutput }) {
  const { save } = useWorkspace();
  const { socket, form } = output;
  const shown = useBenchPart((state) => faceOf(state?.standins, device.id, socket.label));
  return (
    <label className="flex flex-wrap items-center gap-x-2 py-0.5">
      <span className="w-24 truncate">{socket.label}</span>
      <select
        className="field-select h-7 w-44"
        aria-label={`How ${socket.label} of ${device.name} shows it`}
        value={form}
        onChange={(event) =>
          void save(onair.planOutput(device, { socket, form: event.target.value as core.OutputForm }))
        }
      >
        {core.outputForms.map((key) => (
          <option key={key} value={key}>
            {forms[key]}
          </option>
        ))}
      </select>
      <span className="key-num text-mute">{shown ?? ''}</span>
    </label>
  );
}

const uses = ['lyrics', 'notices', 'stage monitor', 'overflow room'];

function UsedFor({ device, usedFor }: { readonly device: core.Device; readonly usedFor: string }) {
  const { save } = useWorkspace();
  const options = [...new Set([...uses, ...(usedFor === '' ? [] : [usedFor])])];
  return (
    <select
      className="field-select h-7 w-40"
      aria-label={`What ${device.name} is used for`}
      value={usedFor}
      onChange={(event) => {
        const use = event.target.value;
        void save(
          core.changeOf(`${device.name}: ${use || 'no use'}`, [core.updateRow('devices', device, { usedFor: use })]),
        );
      }}
    >
      <option value="">nobody has said</option>
      {options.map((use) => (
        <option key={use} value={use}>
          {use}
        </option>
      ))}
    </select>
  );
}
