import type { show } from '@deep-patch/core';

/** The commands with which a service is asked for its states, or asked to tell them. */
export const asksOf = ({ commands, feedback = [] }: show.ServiceType): show.Command[] =>
  commands.filter(({ key }) => feedback.some(({ ask }) => ask === key));
