import type { Finding } from '../findings/index.ts';
import type { Wall } from '../show/index.ts';

/** What is finished before the next is touched (need 10.16). */
export const wallLayers = ['wiring', 'receivers', 'program', 'stored', 'player', 'content'] as const;
export type WallLayer = (typeof wallLayers)[number];

export interface LayerLine {
  readonly layer: WallLayer;
  /** `waits`: something before it is not right yet; `unseen`: nobody has looked. */
  readonly state: 'pass' | 'fail' | 'waits' | 'unseen';
  readonly findings: readonly Finding[];
}

const layerOf: Readonly<Record<string, WallLayer>> = {
  ...{
    wall_panel_unknown: 'wiring',
    wall_undivided: 'wiring',
    wall_panels_missed: 'wiring',
    wall_panels_doubled: 'wiring',
  },
  ...{
    wall_output_full: 'wiring',
    wall_outputs_short: 'wiring',
    wall_string_differs: 'wiring',
    wall_loop_off: 'wiring',
  },
  ...{
    wall_sender_is_card: 'wiring',
    wall_card_other: 'wiring',
    wall_units_short: 'wiring',
    wall_managed_afar: 'wiring',
  },
  ...{ wall_count_short: 'receivers', wall_count_long: 'receivers', wall_panel_errors: 'receivers' },
  ...{
    wall_versions_differ: 'receivers',
    wall_program_differs: 'program',
    wall_order_behind: 'program',
    wall_not_stored: 'stored',
  },
  ...{
    wall_player_differs: 'player',
    wall_channels_meet: 'player',
    wall_output_other: 'player',
    wall_output_off: 'player',
  },
  ...{ wall_output_corner: 'player', wall_output_due: 'player', wall_capture_differs: 'content' },
};

/** Each layer with what is wrong in it; after the first that fails the others wait. */
export function layerLines(wall: Wall, findings: readonly Finding[]): LayerLine[] {
  const own = findings.filter(({ room, subjects }) => room === 'wall' && subjects.some(({ id }) => id === wall.id));
  let isBroken = false;
  return wallLayers.map((layer) => {
    const here = own.filter(({ code }) => layerOf[code] === layer);
    const state = isBroken ? 'waits' : here.length > 0 ? 'fail' : isSeen(wall, layer) ? 'pass' : 'unseen';
    isBroken ||= state === 'fail';
    return { layer, state, findings: here };
  });
}

/** Has somebody written down what the layer has? */
function isSeen({ strings, parts, found, program, stored, player, captured }: Wall, layer: WallLayer): boolean {
  const isSet = (set: Wall['program']) => set.width !== null && set.height !== null;
  switch (layer) {
    case 'wiring':
      return parts.length > 0 && strings.length === parts.length;
    case 'receivers':
      return parts.length > 0 && parts.every(({ output }) => found.some((one) => one.output === output));
    case 'program':
      return isSet(program);
    case 'stored':
      return stored;
    case 'player':
      return isSet(player);
    case 'content':
      return captured !== null;
  }
}
