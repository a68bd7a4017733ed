/** Universes as tabs with their names and how full they are; any of the 256 by its number; where there is room. */
'use client';
import { UNIVERSE_SLOTS } from '@/core/dmx';
import { useMemo, useState } from 'react';
import { freeRuns, usedByUniverse } from '@/core/rig/addresses';
import { LIMITS } from '@/core/show/fields';
import { universeName } from '@/core/show/show';
import { Tabs as RadixTabs } from 'radix-ui';
import { CellEditor } from '../parts/CellEditor';
import { edit } from '../state/edits';
import { universeTyped } from './universe-typed';
import { mayEdit, useScreen, useShow } from '../state/store';
import { setDraft, setUniverse, useRig } from './rig-state';
import { useParts } from '../state/use-parts';

const ROOMS_SHOWN = 18;

function RoomFinder({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { picked, universe } = useParts(useRig, 'picked', 'universe');
  const [length, setLength] = useState(String(picked?.mode.footprint ?? 12));
  const wanted = /^\d{1,3}$/.test(length) ? Number(length) : 0;
  const used = usedByUniverse(show);
  const last = Math.min(LIMITS.universes, Math.max(universe, ...used.keys(), 1) + 1);
  const runs = wanted >= 1 && wanted <= UNIVERSE_SLOTS ? freeRuns(show, wanted, 1, last) : [];
  return (
    <div
      role="dialog"
      aria-label="Find room"
      className="absolute top-[58px] right-2 z-20 w-64 rounded-lg bg-panel p-3 shadow-pop"
      onKeyDown={(e) => e.key === 'Escape' && onClose()}
    >
      <label className="flex items-center gap-2 text-soft">
        Room for
        <input
          autoFocus
          aria-label="Channels wanted"
          inputMode="search"
          value={length}
          onChange={(e) => setLength(e.target.value)}
          className="num h-7 w-14 rounded bg-ink px-2 text-right shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
        />
        channels
      </label>
      <ul className="mt-2 max-h-52 overflow-y-auto">
        {runs.slice(0, ROOMS_SHOWN).map((r) => (
          <li key={`${r.universe}.${r.from}`}>
            <button
              type="button"
              className="flex h-7 w-full items-center justify-between rounded px-2 text-left hover:bg-raised"
              onClick={() => {
                setUniverse(r.universe);
                setDraft({ address: `${r.universe}.${r.from}` });
                onClose();
              }}
            >
              <span className="num text-[12.5px]">
                {r.universe}.{r.from}–{r.to}
              </span>
              <span className="text-[12px] text-muted">{r.to - r.from + 1} free</span>
            </button>
          </li>
        ))}
      </ul>
      {runs.length > ROOMS_SHOWN && (
        <p className="mt-1 text-[12px] text-muted">
          and {runs.length - ROOMS_SHOWN} more, up to universe {last}
        </p>
      )}
      {runs.length === 0 && (
        <p className="mt-2 text-muted">
          {wanted >= 1 && wanted <= UNIVERSE_SLOTS
            ? 'No run is that long up to universe ' + last + '.'
            : 'A run has 1 to 512 channels.'}
        </p>
      )}
    </div>
  );
}

/** Universes, with how full each is. */
export function UniverseTabs() {
  const show = useShow();
  const { revision, selection } = useParts(useScreen, 'revision', 'selection');
  const { universe } = useParts(useRig, 'universe');
  const holding = new Set(
    selection.flatMap((id) => show.fixtures.get(id)?.patch.map((p) => p.universe) ?? []),
  );
  const [finding, setFinding] = useState(false);
  const used = useMemo(() => {
    void revision;
    return usedByUniverse(show);
  }, [show, revision]);
  const numbers = [
    ...new Set([...used.keys(), ...[...show.universes.values()].map((u) => u.number), universe, 1]),
  ].sort((a, b) => a - b);
  return (
    <div className="flex h-[58px] flex-none items-stretch border-b border-line">
      <RadixTabs.Root
        value={String(universe)}
        onValueChange={(n) => setUniverse(Number(n))}
        className="flex min-w-0 flex-1"
      >
        <RadixTabs.List
          className="flex min-w-0 flex-1 [scrollbar-width:none] items-center gap-0.5 overflow-x-auto px-1.5"
          aria-label="Universes"
        >
          {numbers.map((n) => (
            <UniverseTab
              key={n}
              number={n}
              name={universeName(show, n) ?? undefined}
              isOn={n === universe}
              count={used.get(n) ?? 0}
              holds={holding.has(n)}
            />
          ))}
        </RadixTabs.List>
      </RadixTabs.Root>
      <div className="flex flex-none items-center gap-1.5 border-l border-line px-2">
        <GoTo />
        <button
          type="button"
          aria-expanded={finding}
          onClick={() => setFinding(!finding)}
          className="h-7 rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-soft hover:bg-lift"
        >
          Find room
        </button>
      </div>
      {finding && <RoomFinder onClose={() => setFinding(false)} />}
    </div>
  );
}

function UniverseTab({
  number: n,
  name,
  isOn,
  count,
  holds,
}: {
  number: number;
  name: string | undefined;
  isOn: boolean;
  /** Addresses in use. */
  count: number;
  /** Selected fixtures are here. */
  holds: boolean;
}) {
  const may = mayEdit(useScreen((s) => s.you.role));
  const [naming, setNaming] = useState(false);
  const keep = (typed: string): void => {
    setNaming(false);
    const text = typed.trim();
    if (text !== (name ?? '')) void edit('name-universe', { number: n, name: text });
  };
  return (
    <div
      data-universe={n}
      className={`w-[92px] flex-none rounded-lg px-2 py-1.5 ${isOn ? 'bg-raised' : 'hover:bg-panel'}`}
    >
      {naming ? (
        <CellEditor
          label={`Name of universe ${n}`}
          text={name ?? ''}
          first={null}
          onKeep={keep}
          onLeave={() => setNaming(false)}
          className="h-5 w-full rounded bg-ink px-1 text-[12.5px] shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none"
        />
      ) : (
        <RadixTabs.Trigger
          value={String(n)}
          aria-controls={undefined}
          title={`Universe ${n}${name ? ` “${name}”` : ''}: ${count} of 512 used. Double click to name it.`}
          onDoubleClick={() => may && setNaming(true)}
          className="flex w-full items-baseline gap-1.5 text-left"
        >
          <span className={`num text-[12.5px] ${isOn ? 'text-standby' : 'text-soft'}`}>{n}</span>
          <span
            className={`min-w-0 flex-1 truncate text-[12.5px] ${isOn ? 'text-text' : 'text-muted'}`}
          >
            {name ?? 'Universe'}
          </span>
        </RadixTabs.Trigger>
      )}
      <div className="flex items-center gap-1.5">
        <div className="h-[3px] flex-1 rounded bg-lift" aria-hidden="true">
          <i
            className={`block h-full rounded ${isOn ? 'bg-standby' : 'bg-muted'}`}
            style={{ width: `${(count / UNIVERSE_SLOTS) * 100}%` }}
          />
        </div>
        {holds && (
          <i
            title="Selected fixtures are here"
            className="size-1.5 flex-none rounded-full bg-standby"
          />
        )}
        <span className="num text-[11px] leading-4 text-muted">{count}</span>
      </div>
    </div>
  );
}

/** Any of them by its number, also one that nothing is in yet. */
function GoTo() {
  const go = (field: HTMLInputElement): void => {
    const n = universeTyped(field.value);
    if (n === undefined) {
      field.select();
      return;
    }
    setUniverse(n);
    field.value = '';
  };
  return (
    <label className="flex items-center" title="Type a universe from 1 to 256 and press Enter">
      <input
        aria-label="Go to universe"
        placeholder="1–256"
        maxLength={20}
        className="num h-7 w-[58px] rounded bg-ink px-2 text-[12.5px] text-text shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none placeholder:text-dim focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
        onKeyDown={(e) => e.key === 'Enter' && go(e.currentTarget)}
      />
    </label>
  );
}
