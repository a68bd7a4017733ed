/** Windows beside the main one: opened, remembered for this person on this machine, and opened again where they stood. */
import { z } from 'zod';
import { notice } from '../state/messages';

const Kept = z.object({
  path: z.string().max(300),
  title: z.string().max(160),
  x: z.number(),
  y: z.number(),
  width: z.number().min(100).max(20_000),
  height: z.number().min(100).max(20_000),
});
export type KeptWindow = z.infer<typeof Kept>;

/** As many as one may have on a machine with several screens. */
const MOST = 16;
const USUAL = { width: 1280, height: 800 } as const;

const keyOf = (userId: string, showId: string): string => `wingman-windows/${userId}/${showId}`;

/** Windows that this person had open in a show. */
export function keptWindows(userId: string, showId: string): KeptWindow[] {
  try {
    const text = window.localStorage.getItem(keyOf(userId, showId)) ?? '[]';
    const read = z.array(Kept).max(MOST).safeParse(JSON.parse(text));
    return read.success ? read.data : [];
  } catch {
    // A browser that keeps nothing, or keeps what is none of ours.
    return [];
  }
}

function keep(userId: string, showId: string, windows: readonly KeptWindow[]): void {
  try {
    window.localStorage.setItem(keyOf(userId, showId), JSON.stringify(windows.slice(0, MOST)));
  } catch {
    // Then they are not remembered.
  }
}

/** This window is one of them from now on, where it stands now. */
export function rememberWindow(userId: string, showId: string, title: string): void {
  const path = window.location.pathname + window.location.hash;
  const others = keptWindows(userId, showId).filter((w) => w.path !== path);
  const { screenX: x, screenY: y, outerWidth: width, outerHeight: height } = window;
  keep(userId, showId, [...others, { path, title, x, y, width, height }]);
}

/** It was closed by hand. */
export function forgetWindow(userId: string, showId: string, path: string): void {
  keep(
    userId,
    showId,
    keptWindows(userId, showId).filter((w) => w.path !== path),
  );
}

/** @param at where it stood last; absent: wherever the browser puts it */
export function openWindow(path: string, at?: Omit<KeptWindow, 'path' | 'title'>): boolean {
  const { width, height } = at ?? USUAL;
  const place = at ? `,left=${at.x},top=${at.y}` : '';
  const name = path.replaceAll(/[^\w]/g, '-');
  const opened = window.open(path, name, `popup,width=${width},height=${height}${place}`);
  if (!opened)
    notice.error('The browser does not let Wingman open a window here. Its settings decide.', {
      id: 'windows',
    });
  return opened !== null;
}

/** All that this person had open on this machine. @returns how many came */
export const openAgain = (userId: string, showId: string): number =>
  keptWindows(userId, showId).filter((w) => openWindow(w.path, w)).length;
