import { timecode } from '@deep-patch/core';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { HeadRow } from '../parts/head-row.tsx';
import { Mark } from '../parts/mark.tsx';
import { driverWords } from './driver-words.ts';

const heads = ['Asked', 'Called there', 'Opened by', 'Ports', 'Carries', 'Network MIDI', 'How deep'];

/** Every session of network MIDI in one list: a surface, a source of time code, each under a name and a port of its own. */
export function SessionsView() {
  const show = useShow();
  const { showId } = useWorkspace();
  const sessions = timecode.sessionsOf(show);
  if (sessions.length === 0)
    return (
      <Empty text="Sessions of network MIDI are listed here: one for each surface and each source of time code. Enter one as a link: from a unit that drives MIDI to one that takes it over the network.">
        <Link to={`/shows/${showId}/links`} className="act-main">
          To the links
        </Link>
      </Empty>
    );
  return (
    <div
      className="min-h-0 flex-1 overflow-auto border-t border-rule p-4.5"
      tabIndex={0}
      role="region"
      aria-label="Sessions"
    >
      <table className="w-full max-w-6xl text-[13px]">
        <HeadRow heads={heads} />
        <tbody>
          {sessions.map((session) => (
            <Line key={session.link.id} session={session} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Line({ session }: { readonly session: timecode.Session }) {
  const show = useShow();
  const { showId, analysis } = useWorkspace();
  const { link, opens, waits, name, port, alike, drivers, hops } = session;
  const depth = analysis?.depths.get(link.id);
  const differs = hops.map((hop) => timecode.nameBreak(show, hop)).find(Boolean);
  const isAlike = alike.length > 0;
  return (
    <tr className="border-t border-rule align-top">
      <td className="px-2.5 py-1.5 font-semibold">{waits.name}</td>
      <td className="px-2.5 py-1.5">
        “{name}”
        {differs && (
          <span className="block text-xs text-error">
            <Mark state="fail" size={11} /> “{differs.after.name}” is waited for
          </span>
        )}
        {isAlike && (
          <span className="block text-xs text-warning">
            <Mark state="risky" size={11} /> {alike.map((device) => device.name).join(', ')} reads the same there
          </span>
        )}
      </td>
      <td className="px-2.5 py-1.5">
        <Link className="link" to={`/shows/${showId}/links/${link.id}`}>
          {opens.name}
        </Link>
      </td>
      <td className="key-num px-2.5 py-1.5 whitespace-nowrap">
        {port}, {port + 1}
      </td>
      <td className="px-2.5 py-1.5">{carries(session)}</td>
      <td className="px-2.5 py-1.5">
        {([opens, waits] as const).map((device, at) => (
          <span key={device.id} className="block">
            {device.name}: {driverWords[drivers[at] ?? 'unsaid']}
          </span>
        ))}
      </td>
      <td className="px-2.5 py-1.5 whitespace-nowrap">
        {depth && (
          <>
            <Mark state={depth.depth === 8 ? 'pass' : 'fail'} size={12} /> {depth.depth} of 8
            <span className="block text-xs text-mute">{depth.measured ? 'measured' : 'by the plan'}</span>
          </>
        )}
      </td>
    </tr>
  );
}

/** What goes through it, in words. */
function carries({ hops, banks, opens }: timecode.Session): string {
  const code = hops.map(({ fromId }) => (fromId === opens.id ? 'time code' : 'time code, the other way'));
  const faders = banks.length > 0 ? ['faders'] : [];
  return [...code, ...faders].join(' · ') || 'messages';
}
