/** One set of controls for unlike fixtures: what the selection has in common, by family. */
'use client';
import { useRef, useState } from 'react';
import { hueSaturation, toHueSaturation, type Chromaticity } from '@/core/color/mix';
import { colourLevels, colourOf, colourParts } from '@/core/color/unit-colour';
import { STANDARD_COLOURS } from '@/core/palettes/standard';
import { attributeInfo, attributesOf } from '@/core/rig/attributes';
import { levelOfSet, meaningOf, sayLevel, wheelSlotAt } from '@/core/rig/channel';
import { modeOf } from '@/core/rig/addresses';
import { slotKey, type Family, type FixtureRow } from '@/core/show/rows';
import { Pad, Scrub } from '../parts/controls';
import { cssOf, PatternPicture } from '../parts/patterns';
import { live, select, stream } from '../state/actions';
import { levels, useLevelTick } from '../state/levels';
import { mayPlay, useScreen, useShow } from '../state/store';


interface Chosen {
  fixture: FixtureRow;
  attributes: string[];
}

function useChosen(): Chosen[] {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  return selection.flatMap((id) => {
    const fixture = show.fixtures.get(id);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    return fixture && mode ? [{ fixture, attributes: attributesOf(mode) }] : [];
  });
}

/** Lowest and highest level of an attribute over the selection, as it is on stage now. */
function useRange(chosen: readonly Chosen[], attribute: string): { low: number; high: number; able: Chosen[] } {
  useLevelTick();
  const { index, values } = useScreen();
  const able = chosen.filter((c) => c.attributes.includes(attribute));
  const at = able.map(({ fixture }) => {
    const key = slotKey(fixture.id, attribute);
    return values.get(key)?.level ?? levels.now[index.get(key) ?? -1] ?? 0;
  });
  return { low: Math.min(...at), high: Math.max(...at), able };
}

function Section({ title, pending, says, children }: { title: string; pending: boolean; says?: React.ReactNode; children: React.ReactNode }) {
  return (
    <section aria-label={title} className="border-t border-line px-4 py-2.5 first:border-t-0">
      <div className="mb-1 flex h-7 items-center gap-2">
        <h3 className="text-[13.5px] font-semibold">{title}</h3>
        {pending && <i title="Not recorded" className="size-1.5 rounded-full bg-unrecorded" />}
        <span className="ml-auto flex items-center text-[12px] text-muted">{says}</span>
      </div>
      {children}
    </section>
  );
}

function Slider({ label, low, high, disabled, onChange }: { label: string; low: number; high: number; disabled: boolean; onChange: (level: number) => void }) {
  const track = useRef<HTMLDivElement>(null);
  const from = (clientX: number): void => {
    const r = track.current?.getBoundingClientRect();
    if (r) onChange(Math.min(1, Math.max(0, (clientX - r.left) / r.width)));
  };
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(high * 100)}
      aria-disabled={disabled}
      onPointerDown={(e) => {
        if (disabled) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        from(e.clientX);
      }}
      onPointerMove={(e) => !disabled && e.buttons === 1 && from(e.clientX)}
      onWheel={(e) => !disabled && onChange(Math.min(1, Math.max(0, high - Math.sign(e.deltaY) * 0.01)))}
      onKeyDown={(e) => {
        const step = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 0.05 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -0.05 : 0;
        if (disabled || step === 0) return;
        e.preventDefault();
        onChange(Math.min(1, Math.max(0, Math.round((high + step) * 20) / 20)));
      }}
      className="relative h-7 flex-1 touch-none"
    >
      <i className="absolute inset-x-0 top-3 h-1 rounded bg-lift" />
      <i className="absolute left-0 top-3 h-1 rounded bg-soft" style={{ width: `${high * 100}%` }} />
      {high - low > 0.005 && <i className="absolute top-3 h-1 rounded bg-muted" style={{ left: `${low * 100}%`, width: `${(high - low) * 100}%` }} />}
      <i className="absolute top-1 h-5 w-3 -translate-x-1/2 rounded bg-text shadow-[0_0_0_3px_var(--color-panel)] after:absolute after:left-[5.5px] after:top-[5px] after:h-2.5 after:w-px after:bg-faint" style={{ left: `${high * 100}%` }} />
    </div>
  );
}

/** A linear control for one attribute, in its own unit. */
function Line({ chosen, attribute, disabled, labelled = true, slider = true }: { chosen: readonly Chosen[]; attribute: string; disabled: boolean; labelled?: boolean; slider?: boolean }) {
  const show = useShow();
  const { low, high, able } = useRange(chosen, attribute);
  const info = attributeInfo(attribute);
  const first = able[0];
  const channel = first ? modeOf(show, first.fixture)?.channels.find((c) => c.attribute === attribute) : undefined;
  const from = info.unit === '%' ? 0 : (channel?.physicalFrom ?? 0);
  const to = info.unit === '%' ? 100 : (channel?.physicalTo ?? 100);
  const put = (level: number): void => stream(able.map(({ fixture }) => ({ fixtureId: fixture.id, attribute, level: Math.min(1, Math.max(0, level)) })));
  if (!first) return null;
  const mixed = high - low > 0.005;
  return (
    <div className="flex h-8 items-center gap-3">
      {labelled && <span className="w-[84px] flex-none truncate text-soft" title={info.label}>{info.label}</span>}
      {slider && <Slider label={info.label} low={low} high={high} disabled={disabled} onChange={put} />}
      <span className={`flex flex-none justify-end ${slider ? 'w-[92px]' : 'ml-auto'}`}>
        {mixed && <span className="num self-center text-[12px] text-muted">{(from + (to - from) * low).toFixed(0)}–</span>}
        <Scrub label={`${info.label} value`} value={from + (to - from) * high} unit={info.unit} min={Math.min(from, to)} max={Math.max(from, to)} disabled={disabled} onChange={(v) => put((v - from) / (to - from))} />
      </span>
    </div>
  );
}

function ColourControl({ chosen, disabled }: { chosen: readonly Chosen[]; disabled: boolean }) {
  useLevelTick();
  const show = useShow();
  const { index, values } = useScreen();
  const [raw, setRaw] = useState(false);
  const lights = chosen.flatMap(({ fixture }) => {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    const parts = type && mode ? colourParts(type, mode) : [];
    return type && parts.length > 0 ? [{ fixture, type, parts }] : [];
  });
  const first = lights[0];
  const [firstPart] = first?.parts ?? [];
  if (!first || !firstPart) return null;
  const levelOf = (attribute: string): number => {
    const key = slotKey(first.fixture.id, attribute);
    return values.get(key)?.level ?? levels.now[index.get(key) ?? -1] ?? 0;
  };
  const now = toHueSaturation(colourOf(first.type, firstPart, levelOf, first.fixture));
  const put = (target: Chromaticity): void =>
    stream(lights.flatMap(({ fixture, type, parts }) => parts.flatMap((part) => colourLevels(type, part, target, fixture).levels.map(({ attribute, level }) => ({ fixtureId: fixture.id, attribute, level })))));
  const attributesIn = (l: (typeof lights)[number]): string[] => l.parts.flatMap((p) => [...p.emitters.map((e) => e.attribute), ...p.filters, ...p.wheels.map((w) => w.attribute)]);
  const names = [...new Set(lights.flatMap(attributesIn))];
  return (
    <Section
      title="Colour"
      pending={lights.some((l) => attributesIn(l).some((a) => values.get(slotKey(l.fixture.id, a))?.recorded === false))}
      says={
        <>
          hue <b className="num mx-1 font-normal text-text">{now.hue.toFixed(0)}°</b> sat <b className="num ml-1 font-normal text-text">{(now.saturation * 100).toFixed(0)} %</b>
        </>
      }
    >
      <Pad
        label="Hue and saturation"
        says={`hue ${now.hue.toFixed(0)} degrees, saturation ${(now.saturation * 100).toFixed(0)} percent`}
        disabled={disabled}
        onPoint={(x, y) => put(hueSaturation(x * 359.9, 1 - y))}
        onStep={(dx, dy) => put(hueSaturation((now.hue + dx * 5 + 360) % 360, Math.min(1, Math.max(0, now.saturation + dy * 0.05))))}
        className="h-20 rounded-md"
        style={{ background: 'linear-gradient(#fff0, #f4f1ea), linear-gradient(90deg, #d8483c, #d8c23a 17%, #4cae5c 33%, #43b0b8 50%, #4058c4 67%, #b04ab0 83%, #d8483c)' }}
      >
        <i className="absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full shadow-[0_0_0_2px_#0e1513,inset_0_0_0_2.5px_#fff]" style={{ left: `${(now.hue / 360) * 100}%`, top: `${(1 - now.saturation) * 100}%` }} />
      </Pad>
      <div className="mt-2 flex justify-between">
        {STANDARD_COLOURS.map(([name, target]) => (
          <button key={name} type="button" aria-label={name} title={name} disabled={disabled} onClick={() => put(target)} className="size-7 rounded disabled:opacity-50" style={{ background: cssOf({ ...target, Y: 1 }) }} />
        ))}
      </div>
      <button type="button" aria-expanded={raw} onClick={() => setRaw(!raw)} className="mt-1 flex h-7 items-center text-[12px] text-muted hover:text-soft">
        {raw ? 'Hide what mixes it' : 'Show what mixes it'}
      </button>
      {raw && names.map((attribute) => <Line key={attribute} chosen={chosen} attribute={attribute} disabled={disabled} />)}
    </Section>
  );
}

function PositionControl({ chosen, disabled }: { chosen: readonly Chosen[]; disabled: boolean }) {
  const pan = useRange(chosen, 'Pan');
  const tilt = useRange(chosen, 'Tilt');
  const values = useScreen((s) => s.values);
  if (pan.able.length === 0 && tilt.able.length === 0) return null;
  const put = (p: number, t: number): void =>
    stream([
      ...pan.able.map(({ fixture }) => ({ fixtureId: fixture.id, attribute: 'Pan', level: Math.min(1, Math.max(0, p)) })),
      ...tilt.able.map(({ fixture }) => ({ fixtureId: fixture.id, attribute: 'Tilt', level: Math.min(1, Math.max(0, t)) })),
    ]);
  return (
    <Section title="Position" pending={chosen.some((c) => values.get(slotKey(c.fixture.id, 'Pan'))?.recorded === false || values.get(slotKey(c.fixture.id, 'Tilt'))?.recorded === false)}>
      <div className="flex gap-3">
        <Pad label="Pan and tilt" says={`pan ${(pan.high * 100).toFixed(0)} percent, tilt ${(tilt.high * 100).toFixed(0)} percent`} disabled={disabled} onPoint={(x, y) => put(x, 1 - y)} onStep={(dx, dy) => put(pan.high + dx * 0.005, tilt.high + dy * 0.005)} className="size-24 flex-none rounded-lg bg-ink shadow-[inset_0_0_0_1px_var(--color-line)]">
          <i className="absolute inset-x-2 top-1/2 h-px bg-line" />
          <i className="absolute inset-y-2 left-1/2 w-px bg-line" />
          <i className="absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-text" style={{ left: `${(pan.able.length > 0 ? pan.high : 0.5) * 100}%`, top: `${(1 - tilt.high) * 100}%` }} />
        </Pad>
        <div className="min-w-0 flex-1 self-center">
          <Line chosen={chosen} attribute="Pan" disabled={disabled} slider={false} />
          <Line chosen={chosen} attribute="Tilt" disabled={disabled} slider={false} />
        </div>
      </div>
    </Section>
  );
}

/** Named places of a wheel or shutter, by picture or colour and name; the slider beneath reaches what lies between. */
function Slots({ chosen, attribute, disabled }: { chosen: readonly Chosen[]; attribute: string; disabled: boolean }) {
  const show = useShow();
  const { high, able } = useRange(chosen, attribute);
  const first = able[0];
  const type = first ? show.types.get(first.fixture.typeId) : undefined;
  const channel = first ? modeOf(show, first.fixture)?.channels.find((c) => c.attribute === attribute) : undefined;
  const sets = channel?.functions?.flatMap((f) => f.sets ?? []) ?? [];
  if (!first || !type || !channel || sets.length === 0) return <Line chosen={chosen} attribute={attribute} disabled={disabled} />;
  const now = meaningOf(channel, high).set;
  return (
    <div className="py-1">
      <div className="flex items-baseline justify-between">
        <span className="text-soft">{attributeInfo(attribute).label}</span>
        <span className="text-[12px] text-muted">{sayLevel(type, channel, high, first.fixture)}</span>
      </div>
      <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label={attributeInfo(attribute).label}>
        {sets.map((set) => {
          const slot = wheelSlotAt(type, channel, levelOfSet(channel, set), first.fixture);
          const name = slot?.is.name ?? set.name;
          // Each unit goes to its own place of that name; units of another type to theirs.
          const put = (): void =>
            void live({
              command: 'set-many',
              values: able.flatMap(({ fixture }) => {
                const own = modeOf(show, fixture)?.channels.find((c) => c.attribute === attribute);
                const to = own?.functions?.flatMap((f) => f.sets ?? []).find((s) => s.name === set.name);
                return own && to ? [{ fixtureId: fixture.id, attribute, level: levelOfSet(own, to) }] : [];
              }),
            });
          return (
            <button key={`${set.name}${set.from}`} type="button" title={name} aria-pressed={now === set} disabled={disabled} onClick={put} className={`flex h-7 min-w-7 items-center justify-center gap-1.5 rounded px-1.5 text-[11.5px] ${now === set ? 'bg-standby-wash text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}>
              {slot?.is.picture ? <PatternPicture picture={slot.is.picture} size={18} label="" /> : slot?.is.color ? <i className="size-3.5 rounded-full" style={{ background: cssOf(slot.is.color) }} /> : null}
              <span className="max-w-[72px] truncate">{name}</span>
            </button>
          );
        })}
      </div>
    </div>
  );
}

export function Deck() {
  const show = useShow();
  const { selection, values, you, connection } = useScreen();
  const chosen = useChosen();
  const disabled = !mayPlay(you.role) || connection !== 'live';
  const types = [...new Set(chosen.map((c) => show.types.get(c.fixture.typeId)).flatMap((t) => (t ? [`${t.maker} ${t.name}`] : [])))];
  const pending = (family: Family): boolean => chosen.some((c) => c.attributes.some((a) => attributeInfo(a).family === family && values.get(slotKey(c.fixture.id, a))?.recorded === false));
  const others = (family: Family): string[] => [...new Set(chosen.flatMap((c) => c.attributes.filter((a) => attributeInfo(a).family === family)))];

  if (chosen.length === 0) {
    return (
      <aside aria-label="Controls" className="h-full bg-panel p-4 text-muted">
        <p className="font-semibold text-soft">Nothing selected</p>
        <p className="mt-1">Click fixtures on the plan, drag a box round them, pick a group, or type their numbers: 1 thru 8.</p>
      </aside>
    );
  }
  const pick = (nth: (i: number) => boolean) => () => select(selection.filter((_, i) => nth(i)));
  return (
    <aside aria-label="Controls" className="h-full overflow-y-auto bg-panel">
      <div className="px-4 pb-3 pt-3">
        <div className="mb-2 flex h-6 items-baseline gap-2">
          <b data-testid="selected-count" className="whitespace-nowrap text-[16px] font-[650] text-standby">
            {chosen.length} selected
          </b>
          <span className="truncate text-soft">{types.length === 1 ? types[0] : `${types.length} types`}</span>
        </div>
        <div className="flex h-8 rounded-md bg-ink p-0.5 shadow-[inset_0_0_0_1px_var(--color-line)]">
          {([['Odd', pick((i) => i % 2 === 0)], ['Even', pick((i) => i % 2 === 1)], ['Reverse', () => select([...selection].reverse())], ['None', () => select([])]] as const).map(([label, act]) => (
            <button key={label} type="button" onClick={act} className="flex-1 rounded-[5px] text-[12.5px] font-medium text-muted hover:bg-lift hover:text-text">
              {label}
            </button>
          ))}
        </div>
      </div>
      {chosen.some((c) => c.attributes.includes('Dimmer')) && (
        <Section
          title="Intensity"
          pending={pending('intensity')}
          says={
            <span className="flex gap-1">
              {([['Out', 0], ['50', 0.5], ['Full', 1]] as const).map(([label, level]) => (
                <button key={label} type="button" disabled={disabled} onClick={() => void live({ command: 'set-many', values: chosen.filter((c) => c.attributes.includes('Dimmer')).map((c) => ({ fixtureId: c.fixture.id, attribute: 'Dimmer', level })) })} className="h-7 rounded bg-raised px-2 text-[12px] text-soft hover:bg-lift disabled:opacity-45">
                  {label}
                </button>
              ))}
            </span>
          }
        >
          <Line chosen={chosen} attribute="Dimmer" disabled={disabled} labelled={false} />
        </Section>
      )}
      <ColourControl chosen={chosen} disabled={disabled} />
      <PositionControl chosen={chosen} disabled={disabled} />
      {(['beam', 'control'] as const).map(
        (family) =>
          others(family).length > 0 && (
            <Section key={family} title={family === 'beam' ? 'Beam' : 'Control'} pending={pending(family)}>
              {others(family).map((attribute) => (
                <Slots key={attribute} chosen={chosen} attribute={attribute} disabled={disabled} />
              ))}
            </Section>
          ),
      )}
    </aside>
  );
}
