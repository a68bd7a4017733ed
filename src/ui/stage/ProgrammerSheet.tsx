/** What is held, line by line: by fixture and attribute, with what it follows and its times; yours to change, the others' to see. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { X } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { modeOf } from '@/core/fixtures/points';
import { attributeInfo, familyOf } from '@/core/rig/attributes';
import { sayLevel } from '@/core/rig/channel';
import type { HeldValue } from '@/core/live/messages';
import { FAMILIES } from '@/core/show/fields';
import { live, select, useWatch } from '../state/actions';
import { useStage } from '../state/stage';
import { mayPlay, useScreen, useShow } from '../state/store';
import { FAMILY_NAMES } from './Programmer';

type Line = { head: string; label: string; fixtureId: string } | { value: HeldValue };

export function ProgrammerSheet() {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const others = useScreen((s) => s.others);
  const other = useScreen((s) => s.other);
  const you = useScreen((s) => s.you);
  const [whose, setWhose] = useState<string | null>(null);
  useWatch([], { programmer: whose });
  const scroll = useRef<HTMLDivElement>(null);
  const shown = useMemo(
    () => (whose === null ? [...values.values()] : other?.userId === whose ? other.values : []),
    [whose, values, other],
  );
  const version = show.version('fixtures');
  const lines = useMemo(() => {
    void version;
    const byFixture = new Map<string, HeldValue[]>();
    for (const v of shown) byFixture.set(v.fixtureId, [...(byFixture.get(v.fixtureId) ?? []), v]);
    return [...byFixture]
      .map(([id, own]) => ({ fixture: show.fixtures.get(id), own }))
      .sort((a, b) => (a.fixture?.number ?? 0) - (b.fixture?.number ?? 0))
      .flatMap(({ fixture, own }): Line[] =>
        fixture
          ? [
              { head: String(fixture.number), label: fixture.label, fixtureId: fixture.id },
              ...own
                .sort(
                  (a, b) =>
                    FAMILIES.indexOf(familyOf(a.attribute)) -
                    FAMILIES.indexOf(familyOf(b.attribute)),
                )
                .map((value) => ({ value })),
            ]
          : [],
      );
  }, [shown, show, version]);
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => 28,
    overscan: 10,
  });
  const mine = whose === null && mayPlay(you.role);
  const follows = (v: HeldValue): string =>
    [
      v.look && `look ${show.looks.get(v.look)?.name ?? ''}`,
      v.palette && !v.look && `palette ${show.palettes.get(v.palette)?.name ?? ''}`,
      v.effect && `effect ${show.effects.get(v.effect.id)?.name ?? ''}`,
    ]
      .filter(Boolean)
      .join(', ') || 'by hand';
  const people = others.filter((o) => o.values > 0);
  return (
    <aside aria-label="What is held" className="flex h-full flex-col border-l border-line bg-panel">
      <div className="flex h-10 flex-none items-center gap-1 border-b border-line px-2">
        <select
          aria-label="Whose programmer"
          value={whose ?? ''}
          onChange={(e) => setWhose(e.target.value || null)}
          className="h-7 min-w-0 flex-1 rounded-md bg-raised px-1.5 text-[12.5px] text-soft"
        >
          <option value="">Your programmer</option>
          {people.map((o) => (
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
      <div ref={scroll} className="min-h-0 flex-1 overflow-y-auto">
        {lines.length === 0 && (
          <p className="p-3 text-[12.5px] text-muted">
            {whose === null
              ? 'You hold nothing. What you set appears here, with what it follows.'
              : 'Nothing is held.'}
          </p>
        )}
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const line = lines[item.index];
            if (!line) return null;
            const style = { transform: `translateY(${item.start}px)` };
            if ('head' in line) {
              return (
                <div
                  key={item.key}
                  style={style}
                  className="group absolute inset-x-0 flex h-7 items-center gap-2 bg-ink/60 px-3"
                >
                  <button
                    type="button"
                    className="flex min-w-0 flex-1 items-baseline gap-2 text-left"
                    onClick={() => select([line.fixtureId])}
                  >
                    <span className="num text-[12.5px] text-text">{line.head}</span>
                    <span className="truncate text-[12px] text-muted">{line.label}</span>
                  </button>
                  {mine && (
                    <Out
                      label={`Let go of ${line.head}`}
                      onClick={() =>
                        void live({
                          command: 'letgo',
                          fade_s: 0,
                          slots: shown
                            .filter((v) => v.fixtureId === line.fixtureId)
                            .map((v) => ({ fixtureId: v.fixtureId, attribute: v.attribute })),
                        })
                      }
                    />
                  )}
                </div>
              );
            }
            const v = line.value;
            const fixture = show.fixtures.get(v.fixtureId);
            const channel = fixture
              ? modeOf(show, fixture)?.channels.find((c) => c.attribute === v.attribute)
              : undefined;
            const text =
              channel && fixture
                ? sayLevel(show.types.get(fixture.typeId), channel, v.level, fixture)
                : `${Math.round(v.level * 100)} %`;
            return (
              <div
                key={item.key}
                style={style}
                title={`${FAMILY_NAMES[familyOf(v.attribute)]} · ${follows(v)}`}
                className="group absolute inset-x-0 grid h-7 grid-cols-[8px_minmax(0,1fr)_auto_22px] items-center gap-2 pr-3 pl-5"
              >
                <i
                  className={`size-1.5 rounded-full ${v.recorded ? 'border border-edge' : 'bg-unrecorded'}`}
                  title={v.recorded ? 'Recorded' : 'Not recorded'}
                />
                <span className="truncate text-soft">
                  {attributeInfo(v.attribute).label}{' '}
                  <span className="text-[11.5px] text-muted">{follows(v)}</span>
                </span>
                <span className="num text-[12px]">
                  {text}
                  {v.fade_s > 0 && <span className="text-muted"> {v.fade_s}s</span>}
                  {v.delay_s > 0 && <span className="text-muted"> +{v.delay_s}s</span>}
                </span>
                {mine ? (
                  <Out
                    label={`Let go of ${attributeInfo(v.attribute).label} of ${fixture?.number ?? ''}`}
                    onClick={() =>
                      void live({
                        command: 'letgo',
                        fade_s: 0,
                        slots: [{ fixtureId: v.fixtureId, attribute: v.attribute }],
                      })
                    }
                  />
                ) : (
                  <span />
                )}
              </div>
            );
          })}
        </div>
      </div>
    </aside>
  );
}

function Out({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={onClick}
      className="relative grid size-5 place-items-center rounded text-muted opacity-0 group-hover:opacity-100 after:absolute after:-inset-1 hover:text-text focus-visible:opacity-100"
    >
      <X size={12} />
    </button>
  );
}
