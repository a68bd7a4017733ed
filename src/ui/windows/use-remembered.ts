/** A window of its own is remembered for its person on this machine, with where it stands, until it is closed by hand. */
'use client';
import { useEffect } from 'react';
import { useScreen } from '../state/store';
import { forgetWindow, rememberWindow } from './open-windows';

/** Browsers tell of no moving of a window: it is looked at now and then. */
const LOOK_MS = 2000;

/** Keeps where a window stands, and what it holds. */
export function useRemembered(title: string | undefined): void {
  const userId = useScreen((s) => s.you.userId);
  const showId = useScreen((s) => s.showId);
  useEffect(() => {
    if (title === undefined || userId === '') return;
    document.title = `${title} · Wingman`;
    // Opened in a tab by its link it is no window of an arrangement.
    if (window.opener === null) return;
    const look = (): void => rememberWindow(userId, showId, title);
    look();
    const timer = setInterval(look, LOOK_MS);
    const path = window.location.pathname + window.location.hash;
    // Closed by hand, or with the browser? Where the main window is still there it was by hand.
    const left = (): void => {
      const main = window.opener as Window | null;
      if (main && !main.closed) forgetWindow(userId, showId, path);
    };
    window.addEventListener('pagehide', left);
    return () => {
      clearInterval(timer);
      window.removeEventListener('pagehide', left);
    };
  }, [title, userId, showId]);
}
