import { bringup, type addressing, type contract, type Change, type Show } from '@deep-patch/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, asProblem } from '../live/api.ts';
import { takeBench } from '../live/bench-store.ts';
import { useNotices } from '../live/notices.tsx';
import { useWorkspace } from '../live/workspace.tsx';
import { ownName } from './own-name.ts';

type Step = bringup.BringUpStep;

export interface Sheet {
  /** A step that is being done on the bench just now. */
  readonly busy: string | undefined;
  /** What a confirmation found last. */
  readonly checks: { readonly key: string; readonly state: contract.ConfirmingState } | undefined;
  readonly take: (step: Step) => Promise<boolean>;
  readonly letGo: (step: Step) => Promise<boolean>;
  readonly done: (step: Step) => Promise<boolean>;
  readonly leave: (step: Step, why: 'skipped' | 'failed', note: string) => Promise<boolean>;
  readonly onBench: (step: Step) => Promise<boolean>;
}

const said = (): bringup.Said => ({ by: ownName() || 'crew', at: Date.now() });

/** What can be done with a step; each is a change of the show, so that everybody sees it and nothing is done twice. */
export function useSheet(
  show: Show,
  plan: bringup.BringUp | undefined,
  facts: addressing.AddressingFacts | undefined,
): Sheet {
  const { save, showId, allSaved } = useWorkspace();
  const { tell } = useNotices();
  const [busy, setBusy] = useState<string>();
  const [checks, setChecks] = useState<Sheet['checks']>();
  const latest = useRef({ show, plan, facts });
  useEffect(() => {
    latest.current = { show, plan, facts };
  });
  const change = useCallback((make: (now: Show) => Change | undefined) => save(make(latest.current.show)), [save]);
  const take = useCallback((step: Step) => change((now) => bringup.planTakeStep(now, step, said())), [change]);
  const letGo = useCallback((step: Step) => change((now) => bringup.planLetGo(now, step)), [change]);
  const done = useCallback(
    async (step: Step) => {
      const { show: now, plan: known, facts: addressed } = latest.current;
      if (!known || !addressed) return false;
      return save(bringup.planStepDone(now, addressed, known, step, said()));
    },
    [save],
  );
  const leave = useCallback(
    (step: Step, why: 'skipped' | 'failed', note: string) =>
      change((now) => bringup.planLeaveStep(now, step, why, note, said())),
    [change],
  );
  const onBench = useCallback(
    async (step: Step) => {
      const known = latest.current.plan;
      if (!known) return false;
      setBusy(step.key);
      try {
        await allSaved();
        const state = await doDeeds(showId, bringup.stepDeeds(latest.current.show, known, step));
        if (step.kind === 'confirm' && state?.confirming) {
          setChecks({ key: step.key, state: state.confirming });
          if (state.confirming.checks.some((check) => check.state === 'fail')) return false;
        }
        return await done(step);
      } catch (error) {
        tell({ problem: asProblem(error) });
        return false;
      } finally {
        setBusy(undefined);
      }
    },
    [allSaved, done, showId, tell],
  );
  return { busy, checks, take, letGo, done, leave, onBench };
}

/** One after the other, as a person would. */
async function doDeeds(showId: string, deeds: readonly bringup.Deed[]): Promise<contract.BenchState | undefined> {
  let state: contract.BenchState | undefined;
  for (const deed of deeds) {
    state =
      deed.kind === 'power'
        ? await api.post<contract.BenchState>(`/bench/${showId}/power`, { deviceIds: [deed.deviceId], on: deed.on })
        : await api.post<contract.BenchState>(`/bench/${showId}/acts`, deed.wanted);
    takeBench(state);
  }
  return state;
}

/** Puts the bench as everything comes out of its case: nothing on but the technician's computer, and that without an address. */
export async function putAsDelivered(show: Show, showId: string, computerId: string | undefined): Promise<void> {
  const deviceIds = Object.keys(show.devices);
  const post = async (path: string, body: unknown) =>
    takeBench(await api.post<contract.BenchState>(`/bench/${showId}/${path}`, body));
  await post('power', { deviceIds, on: false });
  await post('acts', { act: 'factory', deviceIds });
  if (computerId === undefined) return;
  await post('power', { deviceIds: [computerId], on: true });
  const adapters = Object.values(show.interfaces).filter(({ deviceId }) => deviceId === computerId);
  for (const { adapter } of adapters)
    await post('acts', { act: 'set_computer', deviceId: computerId, adapter, addresses: [] });
}
