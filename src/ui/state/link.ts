/** This screen's line to the player: where it is told what happens, and says where its person is. */
import { useEffect } from 'react';
import type { View } from '@/core/live/messages';
import type { LiveCommand } from '@/core/live/commands';
import { useBook } from './book';
import { useHand } from './hand';
import { LiveConnection, type Reply, type Watch } from './live';
import { notice } from './messages';
import { useRun } from './run';

let connection: LiveConnection | null = null;

/** Begins a line to a show, in the place of the last one. @returns what ends it */
export function connect(...to: ConstructorParameters<typeof LiveConnection>): () => void {
  connection?.stop();
  const mine = new LiveConnection(...to);
  connection = mine;
  return () => {
    mine.stop();
    if (connection === mine) connection = null;
  };
}

/** Sends a command as it is. @returns what it is answered; at once where there is no line */
export const send = (command: LiveCommand): Promise<Reply> =>
  connection?.send(command) ??
  Promise.resolve({
    ok: false,
    code: 'offline',
    message: 'Not connected to the player; nothing was sent.',
  });

/** Ends when the player has a change, and all that was sent before is held. */
export const settle = async (seq: number): Promise<void> => connection?.settle(seq);

/** What this screen is, for those who see who is here. */
function deviceOf(): string {
  if (typeof window === 'undefined') return '';
  if (!window.matchMedia('(pointer: coarse)').matches) return 'a computer';
  return Math.min(window.innerWidth, window.innerHeight) < 600 ? 'a phone' : 'a tablet';
}

function tellWhere(): void {
  const { place } = useRun.getState();
  const { cueId, follow } = useBook.getState();
  const { hand, doing } = useHand.getState();
  connection?.setPresence({
    place,
    cue: place === 'book' && !follow ? cueId : null,
    device: deviceOf(),
    hand,
    doing,
  });
}

/** Goes to another place, which others see. */
export function setPlace(place: string): void {
  // Run closes behind whoever leaves it.
  useRun.setState({ place, locked: true });
  tellWhere();
}
useBook.subscribe((now, before) => {
  if (now.cueId !== before.cueId || now.follow !== before.follow) tellWhere();
});

useHand.subscribe(tellWhere);
/** Tells what this screen looks at, for those who go along. */
export const tellView = (view: View): void => connection?.tellView(view);

const watches = new Map<object, Watch>();

/** Asks for what a part of the screen shows; several parts share one question. */
export function useWatch(
  universes: readonly number[],
  {
    sources = false,
    outputs = false,
    programmer = null,
    sound = false,
    follows = null,
  }: {
    sources?: boolean;
    outputs?: boolean;
    programmer?: string | null;
    sound?: boolean;
    follows?: string | null;
  } = {},
): void {
  const key = universes.join();
  useEffect(() => {
    const mine = {};
    const tell = (): void => {
      const all = [...watches.values()];
      connection?.setWatch({
        universes: [...new Set(all.flatMap((w) => w.universes))].slice(0, 8),
        sources: all.some((w) => w.sources),
        outputs: all.some((w) => w.outputs),
        programmer: all.map((w) => w.programmer).find((p) => p !== null) ?? null,
        sound: all.some((w) => w.sound),
        follows: all.map((w) => w.follows).find((f) => f !== null) ?? null,
      });
    };
    watches.set(mine, {
      universes: key === '' ? [] : key.split(',').map(Number),
      sources,
      outputs,
      programmer,
      sound,
      follows,
    });
    tell();
    return () => {
      watches.delete(mine);
      tell();
    };
  }, [key, sources, outputs, programmer, sound, follows]);
}

/** Looks at the show as it was after a change, in every place; null: back to now. */
export async function lookBack(past: { seq: number; name: string } | null): Promise<void> {
  await connection
    ?.lookBack(past)
    .catch((error: unknown) => notice.error((error as Error).message));
}
