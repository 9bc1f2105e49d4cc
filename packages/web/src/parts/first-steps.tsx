import { show as core } from '@deep-patch/core';
import { Circle, CircleCheck } from 'lucide-react';
import { Link } from 'react-router';
import { useShow, useWorkspace } from '../live/workspace.tsx';

const steps: Readonly<Record<core.StepKey, { readonly what: string; readonly gives: string; readonly path: string }>> =
  {
    gear: {
      what: 'Read the gear list',
      gives: 'From then on it knows each unit’s sockets, services and factory address.',
      path: 'rig?do=import',
    },
    networks: {
      what: 'Make a network',
      gives: 'It says who clashes, who cannot reach whom, and how much room is left.',
      path: 'addresses?do=add',
    },
    addresses: {
      what: 'Place the addresses',
      gives: 'Every unit gets one by its number, and you the order in which to set them.',
      path: 'addresses',
    },
    links: {
      what: 'Say who controls what',
      gives: 'Ports, slots and messages are filled in from both ends, with what to key in where.',
      path: 'links?do=add',
    },
    cables: {
      what: 'Plug it together',
      gives: 'Each link says which cable is missing, and who is short of a socket.',
      path: 'cabling',
    },
    bench: {
      what: 'Sound it on the bench',
      gives: 'Stand-ins answer with real bytes before anything is in the van.',
      path: 'bench',
    },
  };

/** The way from an empty show to one that works: what is done, what comes next, and what each step gives. */
export function FirstSteps() {
  const { showId, seen } = useWorkspace();
  const list = core.firstSteps(useShow(), Object.keys(seen.soundings).length);
  const next = list.find(({ done }) => !done)?.key;
  return (
    <ol aria-label="First steps" className="mt-2 grid max-w-xl gap-2.5 text-left text-[13px]">
      {list.map(({ key, done }) => (
        <li key={key} aria-current={key === next ? 'step' : undefined} className="flex gap-2.5">
          {done ? (
            <CircleCheck size={16} className="mt-0.5 shrink-0 text-success" aria-label="done" />
          ) : (
            <Circle
              size={16}
              className={`mt-0.5 shrink-0 ${key === next ? 'text-primary' : 'text-mute'}`}
              aria-hidden
            />
          )}
          <span>
            <Link
              to={`/shows/${showId}/${steps[key].path}`}
              className={`hover:underline ${key === next ? 'font-semibold text-primary' : 'font-medium'}`}
            >
              {steps[key].what}
            </Link>{' '}
            <span className="text-mute">{steps[key].gives}</span>
          </span>
        </li>
      ))}
    </ol>
  );
}
