/** Beam: zoom, edge, iris, patterns by their pictures, strobe in hertz, shutters drawn as a frame; and what is left over. */
'use client';
import { attributeInfo, baseOf } from '@/core/rig/attributes';
import { counts, levelOfSet, meaningOf, sayLevel, sayWhen, wheelSlotAt } from '@/core/rig/channel';
import { strobeOf } from '@/core/rig/shutter';
import type { Family } from '@/core/show/fields';
import type { Channel } from '@/core/types/rows';
import { Scrub } from '../../parts/controls';
import { cssOf, PatternPicture } from '../../parts/patterns';
import { live, streamCommand } from '../../state/commands';
import { channelOf, useLevels, useRange, type Chosen } from './chosen';
import { Line } from './Line';
import { Section } from './Section';
import { Shutters } from './Shutters';

const FIRST = ['Zoom', 'Focus1', 'Iris', 'Frost1'];

/** Named places of a wheel or shutter, by picture or colour and name. */
function Slots({
  chosen,
  attribute,
  disabled,
}: {
  chosen: readonly Chosen[];
  attribute: string;
  disabled: boolean;
}) {
  const { level, able } = useRange(chosen, attribute);
  const first = able[0];
  const channel = first ? channelOf(first, attribute) : undefined;
  const levelAt = useLevels();
  const others = (a: string): number | undefined => first && levelAt(first.fixture.id, a);
  const sets = channel?.functions?.flatMap((f) => (f.sets ?? []).map((set) => ({ set, f }))) ?? [];
  if (!first || !channel || sets.length === 0)
    return <Line chosen={chosen} attribute={attribute} disabled={disabled} />;
  const now = meaningOf(channel, level, others).set;
  return (
    <div className="py-1">
      <div className="flex items-baseline justify-between">
        <span className="text-soft">{attributeInfo(attribute).label}</span>
        <span className="text-[12px] text-muted">
          {sayLevel(first.type, channel, level, first.fixture, others)}
        </span>
      </div>
      <div
        className="mt-1 flex flex-wrap gap-1"
        role="group"
        aria-label={attributeInfo(attribute).label}
      >
        {sets.map(({ set, f }) => {
          const isOff = !counts(f, others);
          const slot = wheelSlotAt(first.type, channel, levelOfSet(channel, set), first.fixture);
          const name = slot?.is.name ?? set.name;
          // Each unit goes to its own place of that name; units of another type to theirs.
          const put = (): void =>
            void live({
              command: 'set-many',
              values: able.flatMap((c) => {
                const own = channelOf(c, attribute);
                const to = own?.functions
                  ?.flatMap((f) => f.sets ?? [])
                  .find((s) => s.name === set.name);
                return own && to
                  ? [{ fixtureId: c.fixture.id, attribute, level: levelOfSet(own, to) }]
                  : [];
              }),
            });
          return (
            <button
              key={`${set.name}${set.from}`}
              type="button"
              title={isOff && f.when ? `${name}: ${sayWhen(f.when)}` : name}
              aria-pressed={now === set}
              disabled={disabled || isOff}
              onClick={put}
              className={`flex h-7 min-w-7 items-center justify-center gap-1.5 rounded px-1.5 text-[11.5px] disabled:opacity-45 ${now === set ? 'bg-standby-wash text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}
            >
              {slot?.is.picture && <PatternPicture picture={slot.is.picture} size={18} label="" />}
              {!slot?.is.picture && slot?.is.color && (
                <i className="size-3.5 rounded-full" style={{ background: cssOf(slot.is.color) }} />
              )}
              <span className="max-w-[72px] truncate">{name}</span>
            </button>
          );
        })}
      </div>
    </div>
  );
}

const isStrobing = (shutter: Channel | undefined): boolean =>
  shutter !== undefined && strobeOf(shutter) !== undefined;

/** One strobe for units that have a channel for it and for those that do it with their shutter. */
function Strobe({ chosen, disabled }: { chosen: readonly Chosen[]; disabled: boolean }) {
  const own = useRange(chosen, 'Shutter1Strobe');
  const shutter = useRange(chosen, 'Shutter1');
  const strobing = shutter.able.filter((c) => isStrobing(channelOf(c, 'Shutter1')));
  if (own.able.length + strobing.length === 0) return null;
  const first = strobing[0];
  const channel = first ? channelOf(first, 'Shutter1') : undefined;
  const meaning = channel ? meaningOf(channel, shutter.level) : undefined;
  const isStrobe = channel !== undefined && meaning?.function === strobeOf(channel);
  const shuttered = isStrobe ? (meaning?.physical ?? 0) : 0;
  const hz = own.able.length > 0 ? own.high : shuttered;
  const put = (v: number): void =>
    streamCommand('strobe', { command: 'set', attribute: 'Shutter1Strobe', physical: v });
  return (
    <div className="flex h-8 items-center gap-2">
      <span className="w-[86px] flex-none text-soft">Strobe</span>
      <span className="flex flex-1 gap-1">
        {[0, 2, 6, 12].map((v) => (
          <button
            key={v}
            type="button"
            disabled={disabled}
            onClick={() => put(v)}
            className="num h-7 flex-1 rounded bg-raised text-[11.5px] text-soft hover:bg-lift disabled:opacity-45"
          >
            {v === 0 ? 'off' : v}
          </button>
        ))}
      </span>
      <span className="flex w-[80px] flex-none justify-end">
        <Scrub
          label="Strobe value"
          value={Math.round(hz * 10) / 10}
          digits={1}
          step={0.5}
          unit="Hz"
          min={0}
          max={25}
          disabled={disabled}
          onChange={put}
        />
      </span>
    </div>
  );
}

/** Attributes of the beam. */
export function BeamControl({
  chosen,
  family,
  disabled,
}: {
  chosen: readonly Chosen[];
  family: Family & ('beam' | 'control');
  disabled: boolean;
}) {
  const all = [
    ...new Set(
      chosen.flatMap((c) =>
        c.attributes.filter((a) => attributeInfo(a).family === family).map(baseOf),
      ),
    ),
  ];
  if (all.length === 0) return null;
  const blades = all.filter((a) => /^Blade\d/.test(a) || a === 'ShaperRot');
  const lines = [
    ...FIRST.filter((a) => all.includes(a)),
    ...all.filter((a) => !FIRST.includes(a) && !blades.includes(a) && a !== 'Shutter1Strobe'),
  ];
  return (
    <Section
      title={family === 'beam' ? 'Beam' : 'Control'}
      family={family}
      chosen={chosen}
      disabled={disabled}
    >
      {lines.map((attribute) => (
        <Slots key={attribute} chosen={chosen} attribute={attribute} disabled={disabled} />
      ))}
      {family === 'beam' && <Strobe chosen={chosen} disabled={disabled} />}
      {blades.length > 0 && <Shutters chosen={chosen} disabled={disabled} />}
    </Section>
  );
}
