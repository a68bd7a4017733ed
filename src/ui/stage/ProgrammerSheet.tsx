/** What is held, line by line: by fixture and attribute, with what it follows and its times; yours to change, the others' to see. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { X } from 'lucide-react';
import { useMemo, useRef, useState, type ReactNode } from 'react';
import { modeOf } from '@/core/fixtures/points';
import { attributeInfo, familyOf } from '@/core/rig/attributes';
import { sayLevel } from '@/core/rig/channel';
import type { HeldValue } from '@/core/live/messages';
import { FAMILIES } from '@/core/show/fields';
import type { Show } from '@/core/show/show';
import { live, select } from '../state/commands';
import { useWatch } from '../state/link';
import { useStage } from '../state/stage';
import { mayPlay, useScreen, useShow } from '../state/store';
import { FAMILY_NAMES } from './Programmer';

type Line = { head: string; label: string; fixtureId: string } | { value: HeldValue };

/** By fixture and family: a line for each fixture, and under it one for each of its values. */
function linesOf(show: Show, values: readonly HeldValue[]): Line[] {
  const byFixture = new Map<string, HeldValue[]>();
  for (const v of values) byFixture.set(v.fixtureId, [...(byFixture.get(v.fixtureId) ?? []), v]);
  const rank = (v: HeldValue): number => FAMILIES.indexOf(familyOf(v.attribute));
  return [...byFixture]
    .flatMap(([id, own]) => {
      const fixture = show.fixtures.get(id);
      return fixture ? [{ fixture, own }] : [];
    })
    .sort((a, b) => a.fixture.number - b.fixture.number)
    .flatMap(({ fixture, own }): Line[] => [
      { head: String(fixture.number), label: fixture.label, fixtureId: fixture.id },
      ...own.sort((a, b) => rank(a) - rank(b)).map((value) => ({ value })),
    ]);
}

function useLines(values: readonly HeldValue[]): Line[] {
  const show = useShow();
  const version = show.version('fixtures');
  return useMemo(() => {
    void version;
    return linesOf(show, values);
  }, [values, show, version]);
}

/** What a value follows, in words. */
function follows(show: Show, v: HeldValue): string {
  const words = [
    v.look && `look ${show.looks.get(v.look)?.name ?? ''}`,
    v.palette && !v.look && `palette ${show.palettes.get(v.palette)?.name ?? ''}`,
    v.effect && `effect ${show.effects.get(v.effect.id)?.name ?? ''}`,
  ].filter(Boolean);
  return words.join(', ') || 'by hand';
}

const letGo = (values: readonly HeldValue[]): void => {
  const slots = values.map(({ fixtureId, attribute }) => ({ fixtureId, attribute }));
  void live({ command: 'letgo', fade_s: 0, slots });
};

/** What is held, value by value, one’s own and that of others. */
export function ProgrammerSheet() {
  const values = useScreen((s) => s.values);
  const others = useScreen((s) => s.others);
  const other = useScreen((s) => s.other);
  const you = useScreen((s) => s.you);
  const [chosen, setChosen] = useState<string | null>(null);
  // Who has left holds nothing here.
  const whose = others.some((o) => o.userId === chosen) ? chosen : null;
  useWatch([], { programmer: whose });
  const shown = useMemo(() => {
    if (whose === null) return [...values.values()];
    return other?.userId === whose ? other.values : [];
  }, [whose, values, other]);
  const mine = whose === null && mayPlay(you.role);
  return (
    <aside aria-label="What is held" className="flex h-full flex-col border-l border-line bg-panel">
      <div className="flex h-10 flex-none items-center gap-1 border-b border-line px-2">
        <select
          aria-label="Whose programmer"
          value={whose ?? ''}
          onChange={(e) => setChosen(e.target.value || null)}
          className="h-7 min-w-0 flex-1 rounded-md bg-raised px-1.5 text-[12.5px] text-soft"
        >
          <option value="">Your programmer</option>
          {others
            .filter((o) => o.values > 0 || o.userId === whose)
            .map((o) => (
              <option key={o.userId} value={o.userId}>
                {o.name}
                {o.blind ? ', blind' : ''}
              </option>
            ))}
        </select>
        <button
          type="button"
          aria-label="Close"
          onClick={() => useStage.setState({ sheet: false })}
          className="grid size-7 place-items-center rounded text-muted hover:text-text"
        >
          <X size={14} />
        </button>
      </div>
      <Lines values={shown} mine={mine}>
        {whose === null
          ? 'You hold nothing. What you set appears here, with what it follows.'
          : 'Nothing is held.'}
      </Lines>
    </aside>
  );
}

/** @param children what is said where there are none */
function Lines({
  values,
  mine,
  children,
}: {
  values: readonly HeldValue[];
  mine: boolean;
  children: ReactNode;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const lines = useLines(values);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => 28,
    overscan: 10,
  });
  return (
    <div ref={scroll} className="min-h-0 flex-1 overflow-y-auto">
      {lines.length === 0 && <p className="p-3 text-[12.5px] text-muted">{children}</p>}
      <div style={{ height: virtual.getTotalSize() }} className="relative">
        {virtual.getVirtualItems().map((item) => {
          const line = lines[item.index];
          if (!line) return null;
          return (
            <div
              key={item.key}
              style={{ transform: `translateY(${item.start}px)` }}
              className="absolute inset-x-0"
            >
              {'head' in line ? (
                <FixtureLine
                  line={line}
                  onLetGo={
                    mine
                      ? () => letGo(values.filter((v) => v.fixtureId === line.fixtureId))
                      : undefined
                  }
                />
              ) : (
                <ValueLine value={line.value} mine={mine} />
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function FixtureLine({
  line: { head, label, fixtureId },
  onLetGo,
}: {
  line: Extract<Line, { head: string }>;
  onLetGo: (() => void) | undefined;
}) {
  return (
    <div className="group flex h-7 items-center gap-2 bg-ink/60 px-3">
      <button
        type="button"
        className="flex min-w-0 flex-1 items-baseline gap-2 text-left"
        onClick={() => select([fixtureId])}
      >
        <span className="num text-[12.5px] text-text">{head}</span>
        <span className="truncate text-[12px] text-muted">{label}</span>
      </button>
      {onLetGo && <Out label={`Let go of ${head}`} onClick={onLetGo} />}
    </div>
  );
}

function ValueLine({ value: v, mine }: { value: HeldValue; mine: boolean }) {
  const show = useShow();
  const fixture = show.fixtures.get(v.fixtureId);
  const mode = fixture && modeOf(show, fixture);
  const channel = mode?.channels.find((c) => c.attribute === v.attribute);
  const attribute = attributeInfo(v.attribute).label;
  return (
    <div
      title={`${FAMILY_NAMES[familyOf(v.attribute)]} · ${follows(show, v)}`}
      className="group grid h-7 grid-cols-[8px_minmax(0,1fr)_auto_22px] items-center gap-2 pr-3 pl-5"
    >
      <i
        className={`size-1.5 rounded-full ${v.recorded ? 'border border-edge' : 'bg-unrecorded'}`}
        title={v.recorded ? 'Recorded' : 'Not recorded'}
      />
      <span className="truncate text-soft">
        {attribute} <span className="text-[11.5px] text-muted">{follows(show, v)}</span>
      </span>
      <span className="num text-[12px]">
        {channel && fixture
          ? sayLevel(show.types.get(fixture.typeId), channel, v.level, fixture)
          : `${Math.round(v.level * 100)} %`}
        {v.fade_s > 0 && <span className="text-muted"> {v.fade_s}s</span>}
        {v.delay_s > 0 && <span className="text-muted"> +{v.delay_s}s</span>}
      </span>
      {mine ? (
        <Out
          label={`Let go of ${attribute} of ${fixture?.number ?? ''}`}
          onClick={() => letGo([v])}
        />
      ) : (
        <span />
      )}
    </div>
  );
}

function Out({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="relative grid size-5 place-items-center rounded text-muted opacity-0 group-hover:opacity-100 after:absolute after:-inset-1 hover:text-text focus-visible:opacity-100 pointer-coarse:opacity-100"
    >
      <X size={12} />
    </button>
  );
}
