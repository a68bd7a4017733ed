/** The rig without a plan: tiles by number, or a list, each with its light as it is now. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, type ReactNode } from 'react';
import { numberRanges } from '@/core/words';
import { slotKey } from '@/core/cues/rows';
import { byNumber } from '@/core/select/select';
import { lampsOf, shineOf, type Lamp } from '../plan/light';
import { RowMenu, type RowItem } from '../parts/RowMenu';
import { live, said, select, toggleSelected } from '../state/commands';
import { useCueLook } from '../state/cue-look';
import { useLevelTick } from '../state/levels';
import { shownLevels } from '../state/shown';
import { mayPlay, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

function useLamps(): Map<string, Lamp> {
  const show = useShow();
  const index = useScreen((s) => s.index);
  const version = `${show.version('fixtures')}/${show.version('types')}`;
  // Other levels are shown while a cue is looked at.
  useCueLook((s) => s.cueId);
  return useMemo(() => {
    void version;
    return new Map(lampsOf(show, index).map((l) => [l.fixture.id, l]));
  }, [show, index, version]);
}

function swatchOf(lamp: Lamp | undefined): { level: number; css: string } {
  if (!lamp) return { level: 0, css: 'transparent' };
  const faces = shineOf(lamp, shownLevels());
  const best = faces.reduce(
    (a, b) => (b.level > a.level ? b : a),
    faces[0] ?? { level: 0, rgb: [0, 0, 0] as [number, number, number] },
  );
  return {
    level: faces.reduce((s, f) => s + f.level, 0) / Math.max(1, faces.length),
    css: `rgb(${best.rgb.join(',')})`,
  };
}

/** One click selects one; Ctrl adds; Shift takes all from the last. */
function choose(e: React.MouseEvent, id: string, order: readonly string[]): void {
  const { selection } = useScreen.getState();
  const last = selection.at(-1);
  if (e.shiftKey && last) {
    const [a, b] = [order.indexOf(last), order.indexOf(id)];
    const run = a <= b ? order.slice(a, b + 1) : order.slice(b, a + 1).reverse();
    select([...new Set([...selection, ...run])]);
  } else if (e.ctrlKey || e.metaKey) toggleSelected(id);
  else select(selection.length === 1 && selection[0] === id ? [] : [id]);
}

/** The menu of the fixtures under the pointer, or of those that are selected. */
function FixturesMenu({ children }: { children: ReactNode }) {
  const router = useRouter();
  const { you, showId } = useParts(useScreen, 'you', 'showId');
  const plays = mayPlay(you.role);
  const items = (): RowItem[] => {
    const { show, selection, over } = useScreen.getState();
    const numbers = selection.flatMap((id) => show.fixtures.get(id)?.number ?? []);
    const who = numberRanges(numbers);
    const held = new Set(over.focus.map((f) => f.fixtureId));
    const guarded = new Set(over.guarded.map((g) => g.fixtureId));
    const guards = selection.length > 0 && selection.every((id) => guarded.has(id));
    const all = selection.length > 0 && selection.every((id) => held.has(id));
    if (numbers.length === 0)
      return [{ label: 'Nothing is selected', disabled: true, run: () => undefined }];
    return [
      {
        label: `Light ${who}: at full, open white`,
        disabled: !plays,
        run: () => void said({ command: 'home' }),
      },
      {
        label: `Highlight ${who}`,
        disabled: !plays,
        run: () => void live({ command: 'highlight', on: true }),
      },
      {
        label: all ? `Let ${who} off` : `Hold ${who} for focus`,
        disabled: !plays,
        run: () => void said({ command: 'focus', fixtures: numbers, level: 1, on: !all }),
      },
      {
        label: guards ? `Let ${who} off their guard` : `Guard ${who} from what plays`,
        disabled: !plays,
        run: () => void said({ command: 'guard', fixtures: numbers, on: !guards }),
      },
      {
        label: `Let go of ${who}`,
        first: true,
        disabled: !plays,
        run: () => void live({ command: 'letgo', fade_s: 2, fixtures: numbers }),
      },
      { label: 'Show in Rig', first: true, run: () => router.push(`/shows/${showId}/rig`) },
    ];
  };
  return (
    <RowMenu label="Fixture menu" items={items}>
      {children}
    </RowMenu>
  );
}

/** What lies under the right button is meant, unless it is one of those that are selected. */
const meant = (id: string) => (): void => {
  if (!useScreen.getState().selection.includes(id)) select([id]);
};

const TILE = 74;

/** Units by their numbers, with their levels. */
export function GridView() {
  useLevelTick();
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const values = useScreen((s) => s.values);
  const lamps = useLamps();
  const scroll = useRef<HTMLDivElement>(null);
  const rows = byNumber(show);
  const columns = Math.max(1, Math.floor(((scroll.current?.clientWidth ?? 620) - 24) / TILE));
  const virtual = useVirtualizer({
    count: Math.ceil(rows.length / columns),
    getScrollElement: () => scroll.current,
    estimateSize: () => 58,
    overscan: 4,
  });
  const order = rows.map((f) => f.id);
  const place = new Map(selection.map((id, i) => [id, i + 1]));
  return (
    <FixturesMenu>
      <div
        ref={scroll}
        data-scroll="grid"
        className="h-full overflow-y-auto p-3"
        role="listbox"
        aria-label="Fixtures by number"
        aria-multiselectable
      >
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => (
            <div
              key={item.key}
              className="absolute inset-x-0 grid gap-1.5"
              style={{
                transform: `translateY(${item.start}px)`,
                gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
              }}
            >
              {rows.slice(item.index * columns, (item.index + 1) * columns).map((f) => {
                const { level, css } = swatchOf(lamps.get(f.id));
                const at = place.get(f.id);
                const held = values.get(slotKey(f.id, 'Dimmer'));
                return (
                  <button
                    key={f.id}
                    type="button"
                    role="option"
                    aria-selected={at !== undefined}
                    title={f.label}
                    onClick={(e) => choose(e, f.id, order)}
                    onContextMenu={meant(f.id)}
                    className={`h-[52px] overflow-hidden rounded-md bg-panel px-1.5 text-left ${at !== undefined ? 'shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : 'shadow-[inset_0_0_0_1px_var(--color-line)]'}`}
                  >
                    <span className="flex items-center justify-between">
                      <span
                        className={`num text-[12px] ${at === undefined ? 'text-soft' : 'text-standby'}`}
                      >
                        {f.number}
                      </span>
                      {held && !held.recorded && (
                        <i className="size-1.5 rounded-full bg-unrecorded" />
                      )}
                      <i
                        className="size-2.5 rounded-full"
                        style={{ background: css, opacity: 0.15 + level * 0.85 }}
                      />
                    </span>
                    <span className="block truncate text-[11px] leading-3 text-muted">
                      {f.label}
                    </span>
                    <span className="num block text-right text-[12px] leading-4">
                      {f.patch.length === 0 ? 'off' : Math.round(level * 100)}
                    </span>
                  </button>
                );
              })}
            </div>
          ))}
        </div>
      </div>
    </FixturesMenu>
  );
}

/** Units as a table, with what plays on each. */
export function ListView() {
  useLevelTick();
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const lamps = useLamps();
  const scroll = useRef<HTMLDivElement>(null);
  const rows = byNumber(show);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => 30,
    overscan: 12,
  });
  const order = rows.map((f) => f.id);
  const chosen = new Set(selection);
  return (
    <FixturesMenu>
      <div
        ref={scroll}
        data-scroll="list"
        className="h-full overflow-y-auto"
        role="listbox"
        aria-label="Fixtures as a list"
        aria-multiselectable
      >
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const f = rows[item.index];
            if (!f) return null;
            const type = show.types.get(f.typeId);
            const { level, css } = swatchOf(lamps.get(f.id));
            return (
              <button
                key={f.id}
                type="button"
                role="option"
                aria-selected={chosen.has(f.id)}
                onClick={(e) => choose(e, f.id, order)}
                onContextMenu={meant(f.id)}
                className={`absolute inset-x-0 grid h-[30px] grid-cols-[48px_minmax(0,1fr)_minmax(0,1fr)_90px_26px_44px] items-center gap-2 border-b border-raised px-3 text-left ${chosen.has(f.id) ? 'bg-standby-wash shadow-[inset_2px_0_0_var(--color-standby)]' : 'hover:bg-panel'} ${f.patch.length === 0 ? 'text-dim' : ''}`}
                style={{ transform: `translateY(${item.start}px)` }}
              >
                <span className="num text-[12.5px]">{f.number}</span>
                <span className="truncate">{f.label}</span>
                <span className="truncate text-muted">{type?.name}</span>
                <span className="truncate text-muted">{f.hang}</span>
                <i
                  className="size-3 rounded-full"
                  style={{ background: css, opacity: 0.15 + level * 0.85 }}
                />
                <span className="num text-right text-[12.5px]">{Math.round(level * 100)} %</span>
              </button>
            );
          })}
        </div>
      </div>
    </FixturesMenu>
  );
}
