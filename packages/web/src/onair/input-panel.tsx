import { onair, show as core, type findings } from '@deep-patch/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useBench } from '../bench/use-bench.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { Caller } from './caller.tsx';
import { RuleFields } from './rule-fields.tsx';
import { SettingsTable } from './settings-table.tsx';
import { TakeStrip } from './take-strip.tsx';
import { useTakes } from './use-takes.ts';

/** One input: what was ruled for it, and what takes of it showed. */
export function InputPanel({ input }: { readonly input: onair.AirInput }) {
  const { analysis } = useWorkspace();
  const { switcher, number, player, label, rule } = input;
  const own = (analysis?.findings ?? []).filter(
    ({ room, facts, subjects }) =>
      (room === 'onair' || room === 'cabling') &&
      subjects.some(({ id }) => id === switcher.id) &&
      (facts['input'] === number || facts['slot'] === number),
  );
  return (
    <div className="grid max-w-5xl grid-cols-[minmax(0,1fr)] gap-4">
      <div>
        <h2 className="inline text-base font-bold">
          Input {number}, {label}
        </h2>
        <span className="ml-3 text-mute">{ruleWords(rule, player)}</span>
      </div>
      {player && <Takes input={input} findings={own} />}
      <div className="grid grid-cols-[repeat(auto-fit,minmax(17rem,1fr))] gap-x-6 gap-y-4">
        <RuleFields input={input} />
        <div className="grid content-start gap-2">
          {!player && (
            <>
              {own.map((finding) => (
                <FindingCard key={finding.key} finding={finding} />
              ))}
              <NoPlayer input={input} />
            </>
          )}
          {rule.channel !== '' && <Caller key={rule.channel} input={input} />}
        </div>
      </div>
    </div>
  );
}

const goes = {
  nothing: 'going on air starts nothing',
  when_on_air: 'starts once it is on air',
  with_cut: 'going on air starts it',
} as const;
const leaves = {
  nothing: 'leaving changes nothing',
  stop: 'leaving stops it',
  hold: 'leaving holds its last picture',
  next: 'leaving makes the next item ready',
} as const;
const ruleWords = (rule: onair.AirInput['rule'], player: core.Device | undefined): string =>
  player ? `${goes[rule.goes]} · ${leaves[rule.leaves]}` : 'nothing here is told to start';

function NoPlayer({ input: { switcher, number, line } }: { readonly input: onair.AirInput }) {
  return (
    <p className="text-[13px] text-mute">
      {line.source
        ? `${switcher.name} has no player entered as ${number}: a cut only shows the picture.`
        : `Lead a picture into input ${number} in Cabling, and enter its player as ${number} in Links.`}
    </p>
  );
}

/** The takes that were tried, as a strip around the cut, with what each setting of the delay would show. */
function Takes({ input, findings: own }: TakesProps) {
  const show = useShow();
  const { save, seen } = useWorkspace();
  const tries = useTakes(input);
  const { switcher, player } = input;
  const rate = onair.pictureRate(switcher.rate);
  const set = switcher.takeDelay ?? 0;
  const [looked, setLooked] = useState<number>();
  const frames = looked ?? set;
  const delay = onair.takeDelay(tries.takes, rate);
  const plays = player && show.types[player.typeId]?.plays;
  const wayMs = (seen.soundings[input.link?.id ?? '']?.rttMs ?? 0) / 2;
  const expected = plays ? onair.expectedMoves(plays, wayMs) : undefined;
  const setDelay = (count: number) => {
    setLooked(undefined);
    void save(
      core.changeOf(`Take delay of ${count} frames`, [core.updateRow('devices', switcher, { takeDelay: count })]),
    );
  };
  const wanted = frames !== set ? frames : delay && set !== delay.frames ? delay.frames : undefined;
  return (
    <>
      <TakeStrip {...{ takes: tries.takes, rate, frames, expected }} onFrames={setLooked} onKeep={setDelay} />
      <div className="grid grid-cols-[repeat(auto-fit,minmax(19rem,1fr))] items-start gap-x-6 gap-y-4">
        {delay ? (
          <SettingsTable {...{ delay, frames }} onFrames={setLooked} />
        ) : (
          <NotTried isOfThePast={tries.isOfThePast} {...{ expected, wayMs, rate }} name={player?.name ?? ''} />
        )}
        <div className="grid content-start gap-2.5">
          {delay && <Verdict {...{ delay, set, rate, input }} />}
          <div className="flex flex-wrap gap-2">
            {wanted !== undefined && (
              <button type="button" className="act-main" onClick={() => setDelay(wanted)}>
                Set the switcher to {wanted}
              </button>
            )}
            <TryButton {...{ input, tries }} isMain={!delay} />
          </div>
          <HowItGoes {...{ input, tries }} />
          {own.map((finding) => (
            <FindingCard key={finding.key} finding={finding} quiet={finding.code === 'take_delay_short'} />
          ))}
        </div>
      </div>
    </>
  );
}

interface TakesProps {
  readonly input: onair.AirInput;
  readonly findings: readonly findings.Finding[];
}
interface TriesProps {
  readonly input: onair.AirInput;
  readonly tries: ReturnType<typeof useTakes>;
}

/** Without takes: what the last sounding of its link and the type of the player let expect. */
function NotTried({
  isOfThePast,
  expected,
  wayMs,
  rate,
  name,
}: {
  readonly isOfThePast: boolean;
  readonly expected: { readonly least: number; readonly most: number } | undefined;
  readonly wayMs: number;
  readonly rate: number;
  readonly name: string;
}) {
  return (
    <div className="grid gap-1.5 text-[13px] text-mute">
      <p>
        {isOfThePast
          ? 'The takes that were tried are of an earlier plan: cables, entry or player are others now.'
          : 'Nobody has tried it yet. On a bench of its own the switcher takes this input 200 times, in a few seconds.'}
      </p>
      {expected && (
        <p>
          {wayMs > 0
            ? `By the last sounding an order is ${wayMs.toFixed(1)} ms on its way to ${name}.`
            : `Nobody has sounded the way to ${name} yet.`}{' '}
          By what its type says, its first frame moves {Math.round(expected.least)} to {Math.round(expected.most)} ms
          after the cut: {onair.framesFor(expected.most, rate)} frames would hide that.
        </p>
      )}
    </div>
  );
}

function TryButton({
  input,
  tries: { isRunning, done, total, begin },
  isMain,
}: TriesProps & { readonly isMain: boolean }) {
  const { act } = useBench();
  if (isRunning)
    return (
      <button type="button" className="act" onClick={() => void act({ act: 'stop_trial' })}>
        Stop at {done} of {total}
      </button>
    );
  const wanted = { act: 'take_times', switcherId: input.switcher.id, input: input.number, times: 200 } as const;
  const tryIt = () => {
    begin(true);
    void act(wanted).then((isBegun) => isBegun || begin(false));
  };
  return (
    <button type="button" className={isMain ? 'act-main' : 'act'} onClick={tryIt}>
      Take 200 times{isMain ? '' : ' again'}
    </button>
  );
}

function HowItGoes({ input, tries: { isRunning, done, total, failed, fault } }: TriesProps) {
  const { showId } = useWorkspace();
  return (
    <>
      {isRunning && <progress className="progress progress-primary" value={done} max={total} aria-label="Takes" />}
      {failed > 0 && (
        <p className="text-[13px] text-error">
          {failed} of {done} takes started nothing.{' '}
          <Link className="link" to={`/shows/${showId}/links/${input.link?.id ?? ''}`}>
            Look where the order stops
          </Link>
        </p>
      )}
      {fault && <p className="text-[13px] text-error">It ended early: {fault}.</p>}
    </>
  );
}

/** What the takes mean for the setting that stands. */
function Verdict({
  delay,
  set,
  rate,
  input,
}: {
  readonly delay: onair.TakeDelay;
  readonly set: number;
  readonly rate: number;
  readonly input: onair.AirInput;
}) {
  const inFrames = (ms: number) => ((ms * rate) / 1000).toFixed(1);
  const frames = delay.frames === 1 ? 'One frame hides' : `${delay.frames} frames hide`;
  const isEnough = set >= delay.frames;
  return (
    <div className="grid gap-1">
      <h3 className="font-bold">
        {isEnough
          ? set === delay.frames
            ? 'That hides every start.'
            : `${set - delay.frames} more than needed.`
          : `${frames} every start.`}
      </h3>
      <p className="text-mute">
        Half of the takes move after {inFrames(delay.moves.median)} frames, 95 of 100 after{' '}
        {inFrames(delay.moves.nearly)}, the slowest after {inFrames(delay.moves.worst)}. The order takes{' '}
        {inFrames(delay.arrives.median)} of that to {input.player?.name}; {delay.slack.toFixed(1)} frames remain. What{' '}
        {delay.takes} takes did not show may still come once in {Math.floor(delay.takes / 3)}.
      </p>
    </div>
  );
}
