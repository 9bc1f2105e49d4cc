import type { show as core } from '@deep-patch/core';
import { useNavigate, type To } from 'react-router';
import { useWorkspace } from './workspace.tsx';

/**
 * Saves a change and then goes to where it shows, unless whoever made it went elsewhere meanwhile: nobody is fetched
 * back from a screen that they chose.
 */
export function useSaveAndGo(): (change: core.Change | undefined, to: To) => Promise<void> {
  const { save } = useWorkspace();
  const navigate = useNavigate();
  return async (change, to) => {
    const { pathname } = window.location;
    if ((await save(change)) && window.location.pathname === pathname) await navigate(to);
  };
}
