/** The bytes of a universe as they are sent now, as value or by where they come from; a byte can be forced, and let off again. */
'use client';
import { UNIVERSE_SLOTS } from '@/core/dmx';
import { universeTyped } from './universe-typed';
import { useWriting } from '../parts/use-writing';
import { ExternalLink } from 'lucide-react';
import { useMemo, useState } from 'react';
import { clashAt, occupied } from '@/core/rig/addresses';
import { fromAbsolute } from '@/core/fixtures/points';
import { universeName } from '@/core/show/show';
import { Button, Scrub, Tabs } from '../parts/controls';
import { live } from '../state/commands';
import { useWatch } from '../state/link';
import { universeBytes, useLevelTick } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

/** How a slot’s value is written. */
export type Scale = 'percent' | 'byte' | 'hex';
const SCALES = [
  { value: 'percent', label: '%' },
  { value: 'byte', label: '0–255' },
  { value: 'hex', label: 'hex' },
] as const;
const BYS = [
  { value: 'value', label: 'value' },
  { value: 'source', label: 'source' },
] as const;
const sayByte = (v: number, scale: Scale): string => {
  if (scale === 'hex') return v.toString(16).toUpperCase().padStart(2, '0');
  return scale === 'percent' ? String(Math.round((v / 255) * 100)) : String(v);
};

/** What another desk sends for this universe, by address from 0: the highest of all that come in. */
function useIncoming(universe: number): Uint8Array | null {
  const show = useShow();
  const seen = useScreen((s) => s.inputs);
  return useMemo(() => {
    const levels = seen.flatMap((s) =>
      s.levels !== null && show.inputs.get(s.id)?.universe === universe ? [s.levels] : [],
    );
    if (levels.length === 0) return null;
    const all = new Uint8Array(UNIVERSE_SLOTS);
    for (const text of levels)
      [...atob(text)].forEach((c, i) => (all[i] = Math.max(all[i] ?? 0, c.charCodeAt(0))));
    return all;
  }, [show, seen, universe]);
}

const SOURCE_WASHES = 6;
/** Sources are told apart by their ground; more than the theme has begin again. */
const sourceWash = (index: number): string => `var(--color-source-${(index % SOURCE_WASHES) + 1})`;

/** Where the bytes of a universe come from: named, by address from 1, and in the order of their grounds. */
function useSources(universe: number): { at: readonly (string | undefined)[]; names: string[] } {
  const sources = useScreen((s) => s.sources);
  return useMemo(() => {
    const runs = sources.get(universe) ?? [];
    const at = new Array<string | undefined>(513);
    for (const r of runs) at.fill(r.text, r.from, r.to + 1);
    return { at, names: [...new Set(runs.map((r) => r.text))] };
  }, [sources, universe]);
}

/** Bytes that somebody forces, by address. */
function useChecks(universe: number): ReadonlyMap<number, { value: number }> {
  const { checks } = useScreen((s) => s.over);
  return useMemo(
    () => new Map(checks.filter((c) => c.universe === universe).map((c) => [c.address, c])),
    [checks, universe],
  );
}

interface Shown {
  universe: number;
  onUniverse: (universe: number) => void;
  scale: Scale;
  onScale: (scale: Scale) => void;
}
type By = 'value' | 'source';

/** All slots of a universe as they are sent, and where each comes from. */
export function Monitor({ alone = false, ...shown }: Shown & { alone?: boolean }) {
  const { universe, scale } = shown;
  useLevelTick();
  const [by, setBy] = useState<By>('value');
  const [chosen, setChosen] = useState<number | null>(null);
  const [value, setValue] = useState(255);
  useWatch([universe], { sources: true });
  const incoming = useIncoming(universe);
  const { at, names } = useSources(universe);
  const checks = useChecks(universe);
  return (
    <div className="flex h-full flex-col">
      <Toolbar {...shown} by={by} onBy={setBy} alone={alone} />
      {by === 'source' && <Legend names={names} />}
      {incoming && (
        <p className="flex-none border-b border-line px-3 py-1 text-[12px] text-standby">
          Below each: what another desk sends.
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-auto p-2">
        <div
          role="group"
          aria-label={`Universe ${universe}`}
          className="grid min-w-[516px] grid-cols-[30px_repeat(20,minmax(0,1fr))] gap-px"
        >
          {Array.from({ length: ROWS }, (_, row) => [
            <span
              key={`r${row}`}
              className="num self-center pr-1.5 text-right text-[11px] text-muted"
            >
              {row * COLUMNS + 1}
            </span>,
            ...Array.from({ length: COLUMNS }, (_c, column) => {
              const address = row * COLUMNS + column + 1;
              if (address > UNIVERSE_SLOTS) return <span key={address} />;
              return (
                <Cell
                  key={address}
                  universe={universe}
                  address={address}
                  value={universeBytes.get(universe)?.[address - 1] ?? 0}
                  theirs={incoming ? (incoming[address - 1] ?? 0) : null}
                  source={at[address]}
                  ground={by === 'source' ? names.indexOf(at[address] ?? '') : -1}
                  isForced={checks.has(address)}
                  isChosen={chosen === address}
                  scale={scale}
                  onChoose={() => {
                    setChosen(address);
                    setValue(checks.get(address)?.value ?? 255);
                  }}
                />
              );
            }),
          ])}
        </div>
      </div>
      <div className="flex min-h-11 flex-none flex-wrap items-center gap-3 border-t border-line bg-panel px-3 py-1.5">
        <Chosen
          universe={universe}
          address={chosen}
          source={chosen === null ? undefined : at[chosen]}
          isForced={chosen !== null && checks.has(chosen)}
          value={value}
          onValue={setValue}
        />
        <ResetMine />
      </div>
    </div>
  );
}

const COLUMNS = 20;
const ROWS = Math.ceil(UNIVERSE_SLOTS / COLUMNS);

function Toolbar({
  universe,
  onUniverse,
  scale,
  onScale,
  by,
  onBy,
  alone,
}: Shown & { by: By; onBy: (by: By) => void; alone: boolean }) {
  const show = useShow();
  const showId = useScreen((s) => s.showId);
  const bytes = universeBytes.get(universe);
  const lit = bytes ? bytes.reduce((n, b) => n + (b > 0 ? 1 : 0), 0) : 0;
  const { field } = useWriting('Universe shown', String(universe), (text) => {
    const n = universeTyped(text);
    if (n !== undefined) onUniverse(n);
    return undefined;
  });
  return (
    <div className="flex h-10 flex-none items-center gap-2 border-b border-line px-3">
      <label className="flex items-center gap-2 text-soft">
        Universe
        <input
          aria-label="Universe shown"
          {...field}
          className="num h-7 w-12 rounded bg-ink px-2 text-right shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
        />
      </label>
      <span className="min-w-0 flex-1 truncate text-muted">{universeName(show, universe)}</span>
      <div className="flex-none">
        <Tabs label="Shown as" value={scale} options={SCALES} onChange={onScale} />
      </div>
      <i className="h-4 w-px flex-none bg-line" />
      <div className="flex-none">
        <Tabs label="Shown by" value={by} options={BYS} onChange={onBy} />
      </div>
      <span className="flex-none text-[12px] whitespace-nowrap text-muted">
        {bytes ? `${lit} above 0` : 'waiting …'}
      </span>
      {!alone && (
        <a
          href={`/shows/${showId}/monitor?universe=${universe}&as=${scale}`}
          target="_blank"
          rel="noreferrer"
          title="In a window of its own"
          aria-label="Open in a window of its own"
          className="grid size-7 flex-none place-items-center rounded text-soft hover:bg-raised"
        >
          <ExternalLink size={14} />
        </a>
      )}
    </div>
  );
}

function Legend({ names }: { names: readonly string[] }) {
  return (
    <ul
      className="flex flex-none flex-wrap gap-x-4 gap-y-0.5 border-b border-line px-3 py-1.5 text-[12px]"
      aria-label="Sources"
    >
      {names.length === 0 && <li className="text-muted">Nothing is patched here.</li>}
      {names.map((n, i) => (
        <li key={n} className="flex items-center gap-1.5 text-soft">
          <i
            className="size-3 rounded-[2px] inset-ring inset-ring-text/20"
            style={{ background: sourceWash(i) }}
          />
          {n}
        </li>
      ))}
    </ul>
  );
}

interface CellProps {
  universe: number;
  address: number;
  value: number;
  /** What another desk sends here; null: none does. */
  theirs: number | null;
  /** What is patched here, and what it comes from. */
  source: string | undefined;
  /** Which of the sources' grounds it has; -1: none. */
  ground: number;
  isForced: boolean;
  isChosen: boolean;
  scale: Scale;
  onChoose: () => void;
}

function inkOf({ isForced, value, source }: CellProps): string {
  if (isForced) return 'bg-danger text-ink';
  if (value > 0) return 'text-lime-word';
  return source ? 'text-dim' : 'text-faint';
}
function groundOf({ ground, source }: CellProps): string {
  if (ground >= 0) return sourceWash(ground);
  return source ? 'var(--color-panel)' : 'var(--color-well)';
}

function Cell(props: CellProps) {
  const { universe, address, value, theirs, source, isForced, isChosen, scale, onChoose } = props;
  const theirInk = (theirs ?? 0) > 0 ? 'text-standby' : 'text-faint';
  const said = theirs === null ? '' : ` · another desk sends ${sayByte(theirs, scale)}`;
  return (
    <button
      type="button"
      data-address={address}
      title={`${universe}.${address} · ${source ?? 'not patched'}${said}`}
      aria-label={`${address}: ${sayByte(value, scale)}${source ? `, ${source}` : ''}`}
      onClick={onChoose}
      className={`num ${theirs === null ? 'h-6' : 'h-8 leading-[14px]'} rounded-[3px] text-[11px] ${inkOf(props)} ${isChosen ? 'outline outline-2 outline-standby' : ''}`}
      style={isForced ? undefined : { background: groundOf(props) }}
    >
      {sayByte(value, scale)}
      {theirs !== null && (
        <span data-incoming className={`block ${isForced ? '' : theirInk}`}>
          {sayByte(theirs, scale)}
        </span>
      )}
    </button>
  );
}

/** What is patched at the chosen address, and what it is forced to. */
function Chosen({
  universe,
  address,
  source,
  isForced,
  value,
  onValue,
}: {
  universe: number;
  address: number | null;
  source: string | undefined;
  isForced: boolean;
  value: number;
  onValue: (value: number) => void;
}) {
  const show = useShow();
  const { you, revision } = useParts(useScreen, 'you', 'revision');
  const ranges = useMemo(() => {
    void revision;
    return occupied(show);
  }, [show, revision]);
  const editable = mayEdit(you.role);
  if (address === null)
    return (
      <span className="text-muted">
        Click an address to see what it is{editable ? ', or to force a value on it' : ''}.
      </span>
    );
  const absolute = (universe - 1) * UNIVERSE_SLOTS + address;
  const hit = clashAt(ranges, absolute, absolute);
  const channel = hit ? address - fromAbsolute(hit.from).address + 1 : 0;
  const force = (v: number | null): void =>
    void live({ command: 'check', universe, address, value: v });
  return (
    <>
      <b className="num text-standby">
        {universe}.{address}
      </b>
      <span className="max-w-[300px] min-w-0 truncate text-soft">
        {hit ? `${hit.fixture.number} ${hit.fixture.label}, channel ${channel}` : 'not patched'}
        {source ? ` · ${source}` : ''}
      </span>
      {editable && (
        <span className="ml-auto flex items-center gap-1">
          <Scrub
            label="Value to force"
            value={value}
            unit=""
            min={0}
            max={255}
            onChange={(v) => {
              onValue(v);
              if (isForced) force(v);
            }}
          />
          <Button onClick={() => force(value)}>Force</Button>
          <Button disabled={!isForced} onClick={() => force(null)}>
            Let off
          </Button>
        </span>
      )}
    </>
  );
}

function ResetMine() {
  const { checks } = useScreen((s) => s.over);
  const mine = checks.filter((c) => c.mine).length;
  if (mine === 0) return null;
  return (
    <Button
      kind="danger"
      className="ml-auto"
      onClick={() => void live({ command: 'check', value: null })}
    >
      Reset all {mine} forced
    </Button>
  );
}
