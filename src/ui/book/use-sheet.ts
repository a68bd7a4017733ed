/** The cue sheet as the worker made it last. While a new one is made the old one stays on screen. */
'use client';
import { useEffect, useRef, useState } from 'react';
import { packShow } from '@/core/formats/pack';
import type { Family } from '@/core/show/fields';
import { onChanges } from '../state/changes';
import { useScreen } from '../state/store';
import type { FromSheetWorker, ToSheetWorker } from './sheet.worker';

/** The sheet’s numbers, made in a worker; null until they are there. */
export function useSheet(
  listId: string,
  family: Family,
  unfolded: ReadonlySet<string>,
): FromSheetWorker | null {
  const [made, setMade] = useState<FromSheetWorker | null>(null);
  const worker = useRef<Worker | null>(null);
  const asked = useRef({ id: 0, busy: false, again: false });
  const wanted = useRef<{ listId: string; family: Family; unfolded: ReadonlySet<string> }>({
    listId,
    family,
    unfolded,
  });
  const showId = useScreen((s) => s.showId);
  const whole = useScreen((s) => s.show);

  useEffect(() => {
    const made = new Worker(new URL('./sheet.worker.ts', import.meta.url), { type: 'module' });
    const tell = (message: ToSheetWorker): void => made.postMessage(message);
    worker.current = made;
    asked.current = { id: 0, busy: false, again: false };
    const ask = (): void => {
      const state = asked.current;
      if (state.busy) {
        state.again = true;
        return;
      }
      state.busy = true;
      state.again = false;
      tell({
        do: 'make',
        id: ++state.id,
        listId: wanted.current.listId,
        family: wanted.current.family,
        unfolded: [...wanted.current.unfolded],
      });
    };
    made.onmessage = ({ data }: MessageEvent<FromSheetWorker>) => {
      asked.current.busy = false;
      setMade(data);
      if (asked.current.again) ask();
    };
    tell({ do: 'open', packed: packShow(whole) });
    ask();
    const stop = onChanges((rows) => {
      tell({ do: 'change', rows });
      ask();
    });
    askNow.current = ask;
    return () => {
      stop();
      made.terminate();
    };
  }, [showId, whole]);

  const askNow = useRef<() => void>(() => undefined);
  useEffect(() => {
    wanted.current = { listId, family, unfolded };
    askNow.current();
  }, [listId, family, unfolded]);
  return made;
}
