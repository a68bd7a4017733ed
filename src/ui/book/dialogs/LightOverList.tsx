/** Light over the cue list, drawn: how much of it, and how much each cue moves of position, colour and beam. */
'use client';
import { capital } from '@/core/words';
import { useMemo } from 'react';
import { lightOver, MOVING, type LightOver } from '@/core/cues/light-over';
import { formatCueNumber } from '@/core/cues/number';
import { Dialog } from '../../parts/controls';
import { Legend, LineChart, type ChartLine } from '../../parts/LineChart';
import { lookAt, useBookList } from '../../state/book';
import { useShow } from '../../state/store';
import { close } from './Planned';

/** Told apart by their dashes as well as by their colours. */
const LOOKS = [
  { colour: 'standby', dash: [6, 3] },
  { colour: 'unrecorded', dash: [2, 2] },
  { colour: 'warning', dash: [8, 3, 2, 3] },
] as const;

const named = (family: string): string => `${capital(family)} moves`;

const linesOf = ({ light, moves }: LightOver): ChartLine[] => [
  { name: 'Light', values: light, colour: 'lime' },
  ...MOVING.map((family, i): ChartLine => ({
    name: named(family),
    values: moves[family] ?? [],
    ...(LOOKS[i] ?? LOOKS[0]),
  })),
];

/** Light over the cue list, by family. */
export function LightOverList() {
  const show = useShow();
  const { listId, list } = useBookList();
  const version = ['cues', 'values', 'palettes', 'looks', 'fixtures']
    .map((t) => show.version(t as 'cues'))
    .join();
  const over = useMemo(() => {
    void version;
    return lightOver(show, listId);
  }, [show, listId, version]);
  const lines = useMemo(() => linesOf(over), [over]);
  const points = useMemo(() => over.cues.map((c) => formatCueNumber(c.number)), [over]);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && close()}
      title={`Light over “${list?.name ?? ''}”`}
      about="The mean level of the rig in each cue, and the share of it that the cue moves. A click, or Enter, looks at the cue."
      width="w-[860px]"
    >
      {points.length === 0 ? (
        <p className="text-muted">This list has no cues yet.</p>
      ) : (
        <>
          <div className="h-[280px]">
            <LineChart
              label={`Light over ${list?.name ?? 'the list'}`}
              points={points}
              lines={lines}
              unit="%"
              stepped
              say={(point) => {
                const cue = over.cues[point];
                return cue ? `Cue ${formatCueNumber(cue.number)} ${cue.name}` : '';
              }}
              onPoint={(point) => {
                const cue = over.cues[point];
                if (!cue) return;
                lookAt(cue.id);
                close();
              }}
            />
          </div>
          <Legend lines={lines} />
        </>
      )}
    </Dialog>
  );
}
