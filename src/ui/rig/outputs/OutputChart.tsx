/** How the output kept time over the last ten minutes: frames, lateness, packets. */
'use client';
import { useMemo, useState } from 'react';
import type { OutputSecond } from '@/core/live/messages';
import { Tabs } from '../../parts/controls';
import { Legend, LineChart, type ChartLine } from '../../parts/LineChart';
import { useScreen } from '../../state/store';

type What = 'frame' | 'late' | 'packets';

/** A frame is due every 1000/44 ms. */
const PERIOD_MS = 1000 / 44;
const NONE: readonly OutputSecond[] = [];

interface Shown {
  label: string;
  unit: string;
  digits: number;
  lines: (seconds: readonly OutputSecond[]) => ChartLine[];
}

const SHOWN: Record<What, Shown> = {
  frame: {
    label: 'Time of a frame',
    unit: 'ms',
    digits: 2,
    lines: (seconds) => [
      { name: 'Longest', values: seconds.map((s) => s.worstFrame_ms), colour: 'standby' },
      { name: 'Mean', values: seconds.map((s) => s.frame_ms), colour: 'lime', dash: [6, 3] },
    ],
  },
  late: {
    label: 'Late by',
    unit: 'ms',
    digits: 2,
    lines: (seconds) => [
      { name: 'Latest frame', values: seconds.map((s) => s.worstLate_ms), colour: 'standby' },
      {
        name: 'One frame',
        values: seconds.map(() => PERIOD_MS),
        colour: 'warning',
        dash: [8, 4],
      },
    ],
  },
  packets: {
    label: 'Packets',
    unit: 'a second',
    digits: 0,
    lines: (seconds) => [
      { name: 'Packets', values: seconds.map((s) => s.packets), colour: 'lime' },
      { name: 'Frames', values: seconds.map((s) => s.frames), colour: 'standby', dash: [6, 3] },
    ],
  },
};

/** `now`, `1:05 ago`. */
function ago(seconds: number): string {
  if (seconds <= 0) return 'now';
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')} ago`;
}

/** How frames were computed and sent over the last ten minutes. */
export function OutputChart() {
  const [what, setWhat] = useState<What>('frame');
  const seconds = useScreen((s) => s.outputs?.seconds ?? NONE);
  const shown = SHOWN[what];
  const lines = useMemo(() => SHOWN[what].lines(seconds), [what, seconds]);
  const points = useMemo(() => seconds.map((_, i) => ago(seconds.length - 1 - i)), [seconds]);
  const worst = Math.max(0, ...seconds.map((s) => s.worstLate_ms));
  return (
    <section aria-label="The last ten minutes" data-testid="output-chart" className="mt-4">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h2 className="cap mr-auto">The last ten minutes</h2>
        <span className="num text-[12px] text-muted">
          {seconds.length === 0 ? '' : `late by ${worst.toFixed(1)} ms at most`}
        </span>
        <Tabs
          label="What is drawn"
          value={what}
          options={[
            { value: 'frame', label: 'Frames' },
            { value: 'late', label: 'Lateness' },
            { value: 'packets', label: 'Packets' },
          ]}
          onChange={setWhat}
        />
      </div>
      {seconds.length === 0 ? (
        <p className="text-muted">The first second is being counted.</p>
      ) : (
        <>
          <div className="h-[150px]">
            <LineChart
              label={`${shown.label} over the last ten minutes`}
              points={points}
              lines={lines}
              unit={shown.unit}
              digits={shown.digits}
              say={(point) => points[point] ?? ''}
            />
          </div>
          <Legend lines={lines} />
        </>
      )}
    </section>
  );
}
