/** The columns of the circuits: their breakers, what hangs on them, and their loads. */
'use client';
import type { ColumnDef } from '@tanstack/react-table';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { CircuitRow, Power } from '@/core/circuits/rows';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import type { Load } from '@/core/rig/power';
import { numberRanges } from '@/core/words';
import { Ask } from '../../parts/Ask';
import { IconButton } from '../../parts/controls';
import { WrittenCell } from '../../parts/WrittenCell';
import { buttonsColumn } from '../../parts/table/use-table';
import { select } from '../../state/commands';
import { edit } from '../../state/edits';
import { mayEdit, useScreen } from '../../state/store';

/** A load that has a circuit. */
export interface CircuitLoad {
  circuit: CircuitRow;
  load: Load;
  power: Power;
}

/** Half a watt is nobody's overload. */
const NOTHING_W = 0.5;

/** Watts in words, thousands apart. */
export const sayWatts = (w: number): string =>
  Math.round(w).toLocaleString('en').replaceAll(',', '\u00a0');
/** A cue in short, or that it is dark. */
export const cueWord = (cue: CueRow | null): string =>
  cue ? `cue ${formatCueNumber(cue.number)}` : 'dark';

function state({ worst_W, capacity_W, safe_W }: Load): 'over' | 'near' | 'safe' {
  if (worst_W > capacity_W + NOTHING_W) return 'over';
  return worst_W > safe_W + NOTHING_W ? 'near' : 'safe';
}
const BAR = { over: 'bg-danger', near: 'bg-warning', safe: 'bg-soft' } as const;
const INK = { over: 'text-danger', near: 'text-warning', safe: 'text-soft' } as const;

/** Two loads against a breaker: the worst cue over everything at full, with the safe share marked. */
function Meter({ load, power }: CircuitLoad) {
  const share = (w: number): string => `${Math.min(100, (w / load.capacity_W) * 100)}%`;
  return (
    <div
      className="relative h-3 overflow-hidden rounded bg-lift"
      role="meter"
      aria-label={`Worst load of ${load.circuit?.name ?? ''}`}
      aria-valuemin={0}
      aria-valuemax={Math.round(load.capacity_W)}
      aria-valuenow={Math.round(load.worst_W)}
    >
      <i className="absolute inset-y-0 left-0 bg-faint" style={{ width: share(load.full_W) }} />
      <i
        className={`absolute inset-y-0 left-0 ${BAR[state(load)]}`}
        style={{ width: share(load.worst_W) }}
      />
      <i
        className="absolute inset-y-0 w-px bg-ink"
        style={{ left: `${power.safety * 100}%` }}
        title="safe share"
      />
    </div>
  );
}

function change(circuit: CircuitRow, fields: Partial<CircuitRow>): Promise<unknown> {
  const { id, ...set } = { ...circuit, ...fields };
  return edit('set-circuit', { id, set });
}

function Phase({ circuit }: { circuit: CircuitRow }) {
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  return (
    <select
      aria-label={`Phase of ${circuit.name}`}
      value={circuit.phase}
      disabled={disabled}
      onChange={(e) =>
        void change(circuit, { phase: Number(e.target.value) as CircuitRow['phase'] })
      }
      className="num h-7 rounded bg-ink px-1 shadow-[inset_0_0_0_1px_var(--color-line)]"
    >
      {[1, 2, 3].map((p) => (
        <option key={p}>{p}</option>
      ))}
    </select>
  );
}

function CircuitName({ circuit }: { circuit: CircuitRow }) {
  return (
    <WrittenCell
      label={`Name of circuit ${circuit.name}`}
      value={circuit.name}
      write={(name) => change(circuit, { name: name.trim() })}
      className="num -ml-1.5 w-full font-medium"
    />
  );
}

function Breaker({ circuit }: { circuit: CircuitRow }) {
  return (
    <span className="whitespace-nowrap">
      <WrittenCell
        label={`Breaker of ${circuit.name} in ampere`}
        value={String(circuit.breaker_A)}
        write={(text) => change(circuit, { breaker_A: Number(text) })}
        className="num w-10 bg-ink text-right shadow-[inset_0_0_0_1px_var(--color-line)]"
      />{' '}
      A
    </span>
  );
}

function Units({ load }: { load: Load }) {
  return (
    <button
      type="button"
      className="block max-w-full truncate text-left text-soft hover:text-standby"
      title="Select them"
      onClick={() => select(load.fixtures.map((f) => f.id))}
    >
      {load.fixtures.length === 0 ? '—' : numberRanges(load.fixtures.map((f) => f.number))}
    </button>
  );
}

function Worst({ load }: { load: Load }) {
  return (
    <span className={`num text-[12.5px] whitespace-nowrap ${INK[state(load)]}`}>
      {sayWatts(load.worst_W)} <span className="text-muted">{cueWord(load.worstCue)}</span>
    </span>
  );
}

/** A circuit that carries something is not deleted without a word. */
function Delete({ circuit, load }: CircuitLoad) {
  const editable = mayEdit(useScreen((s) => s.you.role));
  const [asking, setAsking] = useState(false);
  if (!editable) return null;
  const act = (): void => void edit('delete-circuit', { id: circuit.id });
  return (
    <>
      <IconButton
        label={`Delete circuit ${circuit.name}`}
        className="!size-7"
        onClick={() => (load.fixtures.length > 0 ? setAsking(true) : act())}
      >
        <Trash2 size={13} />
      </IconButton>
      <Ask
        open={asking}
        onClose={() => setAsking(false)}
        title={`Delete circuit ${circuit.name}?`}
        act="Delete"
        onAct={act}
      >
        <p>{numberRanges(load.fixtures.map((f) => f.number))} will be on no circuit.</p>
      </Ask>
    </>
  );
}

/** Columns of the table of circuits. */
export const CIRCUIT_COLUMNS: ColumnDef<CircuitLoad>[] = [
  {
    id: 'circuit',
    size: 58,
    meta: { title: 'Circuit' },
    accessorFn: ({ circuit }) => circuit.name,
    cell: ({ row }) => <CircuitName circuit={row.original.circuit} />,
  },
  {
    id: 'phase',
    size: 50,
    meta: { title: 'Phase' },
    accessorFn: ({ circuit }) => circuit.phase,
    cell: ({ row }) => <Phase circuit={row.original.circuit} />,
  },
  {
    id: 'breaker',
    size: 62,
    meta: { title: 'Breaker' },
    accessorFn: ({ circuit }) => circuit.breaker_A,
    cell: ({ row }) => <Breaker circuit={row.original.circuit} />,
  },
  {
    id: 'fixtures',
    size: 74,
    meta: { title: 'Fixtures' },
    accessorFn: ({ load }) => load.fixtures.length,
    cell: ({ row }) => <Units load={row.original.load} />,
  },
  {
    id: 'load',
    size: 74,
    meta: { title: 'Load' },
    accessorFn: ({ load }) => load.worst_W / load.capacity_W,
    cell: ({ row }) => <Meter {...row.original} />,
  },
  {
    id: 'full',
    size: 56,
    meta: { title: 'At full', right: true },
    accessorFn: ({ load }) => load.full_W,
    cell: ({ row: { original } }) => (
      <span
        className={`num text-[12.5px] ${original.load.full_W > original.load.capacity_W ? 'text-warning' : 'text-soft'}`}
      >
        {sayWatts(original.load.full_W)}
      </span>
    ),
  },
  {
    id: 'worst',
    size: 96,
    meta: { title: 'Worst cue', right: true },
    accessorFn: ({ load }) => load.worst_W,
    cell: ({ row }) => <Worst load={row.original.load} />,
  },
  buttonsColumn((load) => <Delete {...load} />),
];
