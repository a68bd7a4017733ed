/** Watts over a cue list, by phase or of one circuit, against the breaker. */
'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { powerOver, type PowerOver } from '@/core/rig/power';
import { firstList } from '@/core/show/show';
import { Choice } from '../../parts/controls';
import { Legend, LineChart, type ChartLine } from '../../parts/LineChart';
import { lookAt } from '../../state/book';
import { useScreen, useShow } from '../../state/store';
import { useReport } from '../use-report';

const BY_PHASE = 'phases';
/** Told apart by their dashes as well as by their colours. */
const LOOKS = [
  { colour: 'lime' },
  { colour: 'standby', dash: [6, 3] },
  { colour: 'unrecorded', dash: [2, 2] },
] as const;

const flat = (watts: number, { cues }: PowerOver): number[] => cues.map(() => Math.round(watts));

function linesOf(over: PowerOver): ChartLine[] {
  const drawn = over.lines.map(({ name, watts }, i): ChartLine => ({
    name,
    values: watts,
    ...(LOOKS[i] ?? LOOKS[0]),
  }));
  if (!Number.isFinite(over.capacity_W)) return drawn;
  return [
    ...drawn,
    {
      name: over.lines.length > 1 ? 'Breakers of a phase' : 'Breaker',
      values: flat(over.capacity_W, over),
      colour: 'danger',
    },
    { name: 'Safe share', values: flat(over.safe_W, over), colour: 'warning', dash: [8, 4] },
  ];
}

/** Watts of each phase over the cue list, with its breaker. */
export function PowerChart() {
  const show = useShow();
  // Made anew when the loads are, once the hand rests, and not with every change of the show.
  const report = useReport();
  const router = useRouter();
  const showId = useScreen((s) => s.showId);
  const [wantedList, setList] = useState<string | null>(null);
  const [wantedOf, setOf] = useState(BY_PHASE);
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  const listId =
    wantedList !== null && show.lists.has(wantedList) ? wantedList : firstList(show)?.id;
  const of = show.circuits.has(wantedOf) ? wantedOf : BY_PHASE;
  const over = useMemo(
    () => powerOver(show, listId ?? '', of === BY_PHASE ? null : of),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the show is one object that changes in place; the report is new when it has
    [show, report, listId, of],
  );
  const lines = useMemo(() => linesOf(over), [over]);
  const points = useMemo(() => over.cues.map((c) => formatCueNumber(c.number)), [over]);
  const circuits = [...show.circuits.values()].sort((a, b) =>
    a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
  const say = (point: number): string => {
    const cue = over.cues[point];
    return cue ? `Cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}` : '';
  };
  const goTo = (point: number): void => {
    const cue = over.cues[point];
    if (!cue) return;
    lookAt(cue.id);
    router.push(`/shows/${showId}/book`);
  };
  return (
    <section aria-label="Watts over the cue list" className="pb-4">
      <div className="flex flex-wrap items-end gap-2 pb-2">
        <h2 className="mr-auto text-[13px] font-medium">Watts over the cue list</h2>
        <Choice
          label="List"
          className="w-[150px]"
          value={listId ?? ''}
          onChange={(e) => setList(e.target.value)}
          options={lists.map((l) => ({ value: l.id, label: l.name }))}
        />
        <Choice
          label="Of"
          className="w-[130px]"
          value={of}
          onChange={(e) => setOf(e.target.value)}
          options={[
            { value: BY_PHASE, label: 'all, by phase' },
            ...circuits.map((c) => ({ value: c.id, label: `circuit ${c.name}` })),
          ]}
        />
      </div>
      {points.length === 0 ? (
        <p className="text-muted">This list has no cues yet.</p>
      ) : (
        <>
          <div className="h-[210px]">
            <LineChart
              label="Watts over the cue list"
              points={points}
              lines={lines}
              unit="W"
              say={say}
              onPoint={goTo}
              stepped
            />
          </div>
          <Legend lines={lines} />
        </>
      )}
    </section>
  );
}
