/// <reference lib="webworker" />
import { addressing, type Show } from '@deep-patch/core';

declare const self: DedicatedWorkerGlobalScope;

export interface PlacementJob {
  readonly show: Show;
  readonly scope: 'waiting' | 'faulty';
}
export type PlacementAnswer =
  | { readonly kind: 'progress'; readonly done: number; readonly total: number }
  | {
      readonly kind: 'placed';
      readonly placement: addressing.Placement;
      readonly causes: readonly addressing.Cause[];
      readonly waysOut: ReturnType<typeof addressing.waysOut>;
    };

const answer = (message: PlacementAnswer) => self.postMessage(message);

self.onmessage = ({ data: { show, scope } }: MessageEvent<PlacementJob>) => {
  const placement = addressing.planPlacement(show, {
    scope,
    onProgress: (done, total) => answer({ kind: 'progress', done, total }),
  });
  const causes = addressing.causesOf(show, placement);
  const waysOut = placement.noRoom.length > 0 ? addressing.waysOut(show, placement) : [];
  answer({ kind: 'placed', placement, causes, waysOut });
};
