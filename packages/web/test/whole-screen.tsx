import { render } from '@testing-library/react';
import type { ReactElement } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { held } from './held-workspace.ts';

/** Stands for the part that measures, since jsdom has no layout: every line is shown. */
export const virtualModule = {
  useVirtualizer: ({ count }: { count: number }) => ({
    getTotalSize: () => count * 32,
    getVirtualItems: () => Array.from({ length: count }, (_, index) => ({ index, key: index, start: index * 32 })),
    scrollToIndex: () => undefined,
  }),
};

/** Notices that nobody reads. */
export const noticesModule = { useNotices: () => ({ tell: () => 0, dismiss: () => undefined }), useProblems: () => [] };

/** Draws a screen of the held show at an address below it, with as many parts as the screen's own addresses have. */
export function openScreen(element: ReactElement, screen: string, parameters: readonly string[], at = '') {
  const paths = parameters.map((_, count) =>
    parameters
      .slice(0, count + 1)
      .map((name) => `/:${name}`)
      .join(''),
  );
  const router = createMemoryRouter(
    ['', ...paths].map((path) => ({ path: `/shows/:showId/${screen}${path}`, element })),
    { initialEntries: [`/shows/${held.show.id}/${screen}${at}`] },
  );
  render(<RouterProvider router={router} />);
  return router;
}
