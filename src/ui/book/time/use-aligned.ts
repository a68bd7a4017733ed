/** How a new recording lies against the old one: compared in a worker when both are known. */
'use client';
import { useEffect, useState } from 'react';
import type { SoundFile } from '@/core/sounds/rows';
import { shapeOf } from '../../state/sounds';
import type { AlignAnswer, AlignAsk } from './align.worker';

/** Where one recording is in another, made in a worker. */
export function useAligned(
  before: SoundFile | undefined,
  after: SoundFile | undefined,
): AlignAnswer | 'none' | 'working' | 'failed' {
  const [state, setState] = useState<AlignAnswer | 'none' | 'working' | 'failed'>('none');
  useEffect(() => {
    if (!before || !after) {
      setState('none');
      return;
    }
    setState('working');
    const worker = new Worker(new URL('./align.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<AlignAnswer>) => setState(data);
    worker.onerror = () => setState('failed');
    Promise.all([shapeOf(before, 0), shapeOf(after, 0)]).then(
      ([old, fresh]) => worker.postMessage({ before: old, after: fresh } satisfies AlignAsk),
      () => setState('failed'),
    );
    return () => worker.terminate();
  }, [before, after]);
  return state;
}
