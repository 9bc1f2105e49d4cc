/** The eight layers of a control link, from the top down; the depth of a link is how many it passes. */
export const layerNames = ['cable', 'segment', 'address', 'port', 'service', 'access', 'message', 'reply'] as const;
export type LayerName = (typeof layerNames)[number];

/** `risky` passes with a warning; `waits` was not reached because a layer above failed. */
export type LayerState = 'pass' | 'risky' | 'fail' | 'waits';
