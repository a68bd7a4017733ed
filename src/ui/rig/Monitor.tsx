/** The bytes of a universe as they are sent now, as value or by where they come from; a byte can be forced, and let off again. */
'use client';
import { ExternalLink } from 'lucide-react';
import { useMemo, useState } from 'react';
import { clashAt, occupied } from '@/core/rig/addresses';
import { fromAbsolute } from '@/core/fixtures/points';
import { LIMITS } from '@/core/show/fields';
import { universeName } from '@/core/show/show';
import { Button, Scrub, Tabs } from '../parts/controls';
import { live, useWatch } from '../state/actions';
import { universeBytes, useLevelTick } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

export type Scale = 'percent' | 'byte' | 'hex';
const SCALES = [
  { value: 'percent', label: '%' },
  { value: 'byte', label: '0–255' },
  { value: 'hex', label: 'hex' },
] as const;
const sayByte = (v: number, scale: Scale): string =>
  scale === 'hex'
    ? v.toString(16).toUpperCase().padStart(2, '0')
    : scale === 'percent'
      ? String(Math.round((v / 255) * 100))
      : String(v);

/** What another desk sends for this universe, by address from 0: the highest of all that come in. */
function useIncoming(universe: number): Uint8Array | null {
  const show = useShow();
  const seen = useScreen((s) => s.inputs);
  return useMemo(() => {
    const levels = seen.flatMap((s) =>
      s.levels !== null && show.inputs.get(s.id)?.universe === universe ? [s.levels] : [],
    );
    if (levels.length === 0) return null;
    const all = new Uint8Array(512);
    for (const text of levels)
      [...atob(text)].forEach((c, i) => (all[i] = Math.max(all[i] ?? 0, c.charCodeAt(0))));
    return all;
  }, [show, seen, universe]);
}

const SOURCE_WASHES = 6;
/** Sources are told apart by their ground; more than the theme has begin again. */
const sourceWash = (index: number): string => `var(--color-source-${(index % SOURCE_WASHES) + 1})`;

export function Monitor({
  universe,
  onUniverse,
  scale,
  onScale,
  alone = false,
}: {
  universe: number;
  onUniverse: (universe: number) => void;
  scale: Scale;
  onScale: (scale: Scale) => void;
  alone?: boolean;
}) {
  useLevelTick();
  const show = useShow();
  const { sources, over, you, showId, revision } = useParts(
    useScreen,
    'sources',
    'over',
    'you',
    'showId',
    'revision',
  );
  const [by, setBy] = useState<'value' | 'source'>('value');
  const [chosen, setChosen] = useState<number | null>(null);
  const [value, setValue] = useState(255);
  useWatch([universe], { sources: true });
  const incoming = useIncoming(universe);
  const bytes = universeBytes.get(universe);
  const runs = useMemo(() => sources.get(universe) ?? [], [sources, universe]);
  const ranges = useMemo(() => {
    void revision;
    return occupied(show);
  }, [show, revision]);
  const sourceAt = useMemo(() => {
    const at: (string | undefined)[] = new Array<string | undefined>(513);
    for (const r of runs) at.fill(r.text, r.from, r.to + 1);
    return at;
  }, [runs]);
  const names = [...new Set(runs.map((r) => r.text))];
  const checks = new Map(
    over.checks.filter((c) => c.universe === universe).map((c) => [c.address, c]),
  );
  const mine = over.checks.filter((c) => c.mine);
  const editable = mayEdit(you.role);
  const hit =
    chosen === null
      ? undefined
      : clashAt(ranges, (universe - 1) * 512 + chosen, (universe - 1) * 512 + chosen);
  const lit = bytes ? bytes.reduce((n, b) => n + (b > 0 ? 1 : 0), 0) : 0;
  const force = (v: number | null): void => {
    if (chosen !== null) void live({ command: 'check', universe, address: chosen, value: v });
  };
  const name = universeName(show, universe);
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-10 flex-none items-center gap-2 border-b border-line px-3">
        <label className="flex items-center gap-2 text-soft">
          Universe
          <input
            key={universe}
            aria-label="Universe shown"
            defaultValue={universe}
            onBlur={(e) => go(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && go(e.currentTarget.value)}
            className="num h-7 w-12 rounded bg-ink px-2 text-right shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
          />
        </label>
        {name && <span className="min-w-0 truncate text-muted">{name}</span>}
        <Tabs label="Shown as" value={scale} options={SCALES} onChange={onScale} />
        <i className="h-4 w-px bg-line" />
        <Tabs
          label="Shown by"
          value={by}
          options={[
            { value: 'value', label: 'value' },
            { value: 'source', label: 'source' },
          ]}
          onChange={setBy}
        />
        <span className="ml-auto text-[12px] whitespace-nowrap text-muted">
          {incoming && <span className="mr-3 text-standby">below: from another desk</span>}
          {bytes ? `${lit} above 0` : 'waiting …'}
        </span>
        {!alone && (
          <a
            href={`/shows/${showId}/monitor?universe=${universe}&as=${scale}`}
            target="_blank"
            rel="noreferrer"
            title="In a window of its own"
            aria-label="Open in a window of its own"
            className="grid size-7 place-items-center rounded text-soft hover:bg-raised"
          >
            <ExternalLink size={14} />
          </a>
        )}
      </div>
      {by === 'source' && (
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
      )}
      <div className="min-h-0 flex-1 overflow-auto p-2">
        <div
          role="group"
          aria-label={`Universe ${universe}`}
          className="grid min-w-[516px] grid-cols-[30px_repeat(20,minmax(0,1fr))] gap-px"
        >
          {Array.from({ length: 26 }, (_, row) => [
            <span
              key={`r${row}`}
              className="num self-center pr-1.5 text-right text-[11px] text-muted"
            >
              {row * 20 + 1}
            </span>,
            ...Array.from({ length: 20 }, (_c, column) => {
              const address = row * 20 + column + 1;
              if (address > 512) return <span key={address} />;
              const v = bytes?.[address - 1] ?? 0;
              const check = checks.get(address);
              const source = sourceAt[address];
              return (
                <button
                  key={address}
                  type="button"
                  data-address={address}
                  title={`${universe}.${address}${source ? ` · ${source}` : ' · not patched'}${incoming ? ` · another desk sends ${sayByte(incoming[address - 1] ?? 0, scale)}` : ''}`}
                  aria-label={`${address}: ${sayByte(v, scale)}${source ? `, ${source}` : ''}`}
                  onClick={() => {
                    setChosen(address);
                    setValue(check?.value ?? 255);
                  }}
                  className={`num ${incoming ? 'h-8 leading-4' : 'h-6'} rounded-[3px] text-[11px] ${check ? 'bg-danger text-ink' : v > 0 ? 'text-lime-word' : source ? 'text-dim' : 'text-faint'} ${chosen === address ? 'outline outline-2 outline-standby' : ''}`}
                  style={
                    check
                      ? undefined
                      : {
                          background:
                            by === 'source' && source
                              ? sourceWash(names.indexOf(source))
                              : source
                                ? 'var(--color-panel)'
                                : 'var(--color-well)',
                        }
                  }
                >
                  {sayByte(v, scale)}
                  {incoming && (
                    <span
                      data-incoming
                      className={`block text-[9px] leading-[9px] ${(incoming[address - 1] ?? 0) > 0 ? 'text-standby' : 'text-faint'}`}
                    >
                      {sayByte(incoming[address - 1] ?? 0, scale)}
                    </span>
                  )}
                </button>
              );
            }),
          ])}
        </div>
      </div>
      <div className="flex min-h-11 flex-none flex-wrap items-center gap-3 border-t border-line bg-panel px-3 py-1.5">
        {chosen === null ? (
          <span className="text-muted">
            Click an address to see what it is{editable ? ', or to force a value on it' : ''}.
          </span>
        ) : (
          <>
            <b className="num text-standby">
              {universe}.{chosen}
            </b>
            <span className="max-w-[300px] min-w-0 truncate text-soft">
              {hit
                ? `${hit.fixture.number} ${hit.fixture.label}, channel ${fromAbsolute((universe - 1) * 512 + chosen).address - fromAbsolute(hit.from).address + 1}`
                : 'not patched'}
              {sourceAt[chosen] ? ` · ${sourceAt[chosen]}` : ''}
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
                    setValue(v);
                    if (checks.has(chosen)) force(v);
                  }}
                />
                <Button onClick={() => force(value)}>Force</Button>
                <Button disabled={!checks.has(chosen)} onClick={() => force(null)}>
                  Let off
                </Button>
              </span>
            )}
          </>
        )}
        {mine.length > 0 && (
          <Button
            kind="danger"
            className="ml-auto"
            onClick={() => void live({ command: 'check', value: null })}
          >
            Reset all {mine.length} forced
          </Button>
        )}
      </div>
    </div>
  );
  function go(text: string): void {
    const n = Number(text);
    if (Number.isInteger(n) && n >= 1 && n <= LIMITS.universes && n !== universe) onUniverse(n);
  }
}
