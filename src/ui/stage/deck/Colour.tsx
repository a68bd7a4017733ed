/** Colour that means the same on unlike units: hue and saturation, white in kelvin, swatches, what mixes it, and how near each kind comes. */
'use client';
import { clamp } from '@/core/numbers';
import { useState } from 'react';
import {
  chromaticity,
  hueSaturation,
  kelvin,
  toHueSaturation,
  type Chromaticity,
} from '@/core/color/mix';
import { chromaticityDeltaE } from '@/core/color/delta-e';
import { colourOf, colourParts, type ColourPart } from '@/core/color/unit-colour';
import { correlatedKelvin } from '@/core/color/white';
import { numberRanges } from '@/core/words';
import { SWATCHES } from '@/core/palettes/standard';
import { baseOf } from '@/core/rig/attributes';
import { Pad, Scrub } from '../../parts/controls';
import { cssOf } from '../../parts/patterns';
import { said, streamCommand } from '../../state/commands';
import { useLevels, type Chosen } from './chosen';
import { Line } from './Line';
import { Section } from './Section';

const WARM_K = 2000;
const COOL_K = 10_000;

interface Kind {
  chosen: Chosen;
  parts: ColourPart[];
  numbers: number[];
}

/** Units that change colour, one of each kind standing for the others. */
function kindsOf(chosen: readonly Chosen[]): { kinds: Kind[]; able: Chosen[] } {
  const kinds = new Map<string, Kind>();
  const able: Chosen[] = [];
  for (const c of chosen) {
    const key = `${c.type.id}/${c.mode.name}`;
    const known = kinds.get(key);
    const parts = known?.parts ?? colourParts(c.type, c.mode);
    if (parts.length === 0) continue;
    able.push(c);
    if (known) known.numbers.push(c.fixture.number);
    else kinds.set(key, { chosen: c, parts, numbers: [c.fixture.number] });
  }
  return { kinds: [...kinds.values()], able };
}

/** Below this nobody minds between kinds, above the second everybody sees it: CIEDE2000. */
const [SEEN_DELTA_E, PLAIN_DELTA_E] = [2, 8];

type LevelAt = ReturnType<typeof useLevels>;
const lightOf = ({ chosen: { type, fixture }, parts: [part] }: Kind, at: LevelAt) =>
  part && colourOf(type, part, (a) => at(fixture.id, a), fixture);

/** Kinds that look otherwise than the first where they are meant to be the same, and by how much. */
function apart(
  here: Chromaticity,
  others: readonly Kind[],
  at: LevelAt,
): { kind: Kind; deltaE: number }[] {
  return others.flatMap((kind) => {
    const light = lightOf(kind, at);
    const there = light && chromaticity(light);
    const deltaE = there ? chromaticityDeltaE(here, there) : 0;
    return deltaE > SEEN_DELTA_E ? [{ kind, deltaE }] : [];
  });
}

/** What mixes their colour, by the names of GDTF. */
const mixersOf = (kinds: readonly Kind[]): string[] => [
  ...new Set(
    kinds
      .flatMap((k) => k.parts)
      .flatMap((p) => [
        ...p.emitters.map((e) => baseOf(e.attribute)),
        ...p.filters.map(baseOf),
        ...p.wheels.map((w) => baseOf(w.attribute)),
      ]),
  ),
];

/** One colour on unlike units, and how near each comes. */
export function ColourControl({
  chosen,
  disabled,
}: {
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const at = useLevels();
  const [fanTo, setFanTo] = useState(false);
  const { kinds, able } = kindsOf(chosen);
  const [first, ...others] = kinds;
  if (!first) return null;
  const light = lightOf(first, at);
  const now = light ? toHueSaturation(light) : { hue: 0, saturation: 0 };
  const here = light ? chromaticity(light) : undefined;
  const press = ({ x, y }: Chromaticity): void => {
    if (fanTo && here) void said({ command: 'colour', x: here.x, y: here.y, to: { x, y } });
    else void said({ command: 'colour', x, y });
    setFanTo(false);
  };
  return (
    <Section
      title="Colour"
      family="colour"
      chosen={chosen}
      disabled={disabled}
      says={
        <>
          hue <b className="num mx-1 font-normal text-text">{now.hue.toFixed(0)}°</b> sat{' '}
          <b className="num ml-1 font-normal text-text">{(now.saturation * 100).toFixed(0)}%</b>
        </>
      }
      fan={
        able.length > 1 && (
          <button
            type="button"
            aria-pressed={fanTo}
            disabled={disabled}
            title="From this colour to another: press, then press a swatch"
            onClick={() => setFanTo(!fanTo)}
            className={`h-7 flex-none rounded-md px-2 text-[12px] ${fanTo ? 'bg-standby-wash text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}
          >
            to …
          </button>
        )
      }
    >
      <HuePad now={now} disabled={disabled} />
      <White
        kelvin={here && correlatedKelvin(here)}
        disabled={disabled}
        onChange={(k) => streamCommand('colour', { command: 'colour', kelvin: k })}
      />
      <div className="mt-1.5 grid grid-cols-9 gap-1" role="group" aria-label="Swatches">
        {SWATCHES.map(([name, target]) => (
          <button
            key={name}
            type="button"
            aria-label={name}
            title={fanTo ? `To ${name}` : name}
            disabled={disabled}
            onClick={() => press(target)}
            className="relative h-7 rounded after:absolute after:-inset-0.5 hover:inset-ring-2 hover:inset-ring-light/70 disabled:opacity-50"
            style={{ background: cssOf({ ...target, Y: 1 }) }}
          />
        ))}
      </div>
      <Apart of={here ? apart(here, others, at) : []} />
      <Mixers attributes={mixersOf(kinds)} chosen={chosen} disabled={disabled} />
    </Section>
  );
}

function HuePad({
  now,
  disabled,
}: {
  now: { hue: number; saturation: number };
  disabled: boolean;
}) {
  const put = (c: Chromaticity): void =>
    streamCommand('colour', { command: 'colour', x: c.x, y: c.y });
  return (
    <Pad
      label="Hue and saturation"
      says={`hue ${now.hue.toFixed(0)} degrees, saturation ${(now.saturation * 100).toFixed(0)} percent`}
      disabled={disabled}
      onPoint={(x, y) => put(hueSaturation(x * 359.9, 1 - y))}
      onStep={(dx, dy) =>
        put(hueSaturation((now.hue + dx * 5 + 360) % 360, clamp(now.saturation + dy * 0.05)))
      }
      className="h-20 rounded-md"
      style={{
        background:
          'linear-gradient(#fff0, #f4f1ea), linear-gradient(90deg, #d8483c, #d8c23a 17%, #4cae5c 33%, #43b0b8 50%, #4058c4 67%, #b04ab0 83%, #d8483c)',
      }}
    >
      <i
        className="pointer-events-none absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full shadow-[0_0_0_2px_var(--color-stage),inset_0_0_0_2.5px_var(--color-light)]"
        style={{ left: `${(now.hue / 360) * 100}%`, top: `${(1 - now.saturation) * 100}%` }}
      />
    </Pad>
  );
}

function Apart({ of }: { of: ReturnType<typeof apart> }) {
  if (of.length === 0) return null;
  return (
    <p className="mt-1.5 text-[12px] leading-4 text-muted">
      {of.map(({ kind: { chosen, numbers }, deltaE }) => (
        <span
          key={`${chosen.type.id}${chosen.mode.name}`}
          className={`mr-2 ${deltaE > PLAIN_DELTA_E ? 'text-warning' : ''}`}
          title="CIEDE2000 difference to the first selected, at one brightness"
        >
          {chosen.type.name} ({numberRanges(numbers)}) is{' '}
          <span className="num">ΔE {deltaE.toFixed(0)}</span> off
        </span>
      ))}
    </p>
  );
}

/** The emitters, filters and wheels themselves, where somebody wants them. */
function Mixers({
  attributes,
  chosen,
  disabled,
}: {
  attributes: readonly string[];
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="mt-0.5 flex h-7 items-center text-[12px] text-muted hover:text-soft"
      >
        {isOpen ? 'Hide what mixes it' : 'Show what mixes it'}
      </button>
      {isOpen &&
        attributes.map((attribute) => (
          <Line key={attribute} chosen={chosen} attribute={attribute} disabled={disabled} />
        ))}
    </>
  );
}

/** White light by its temperature, warm to cool as lamps are: even in mired, as the eye counts. */
function White({
  kelvin: now,
  disabled,
  onChange,
}: {
  kelvin: number | undefined;
  disabled: boolean;
  onChange: (k: number) => void;
}) {
  const place = (k: number): number => (1 / WARM_K - 1 / k) / (1 / WARM_K - 1 / COOL_K);
  const at = (t: number): number => 1 / (1 / WARM_K - t * (1 / WARM_K - 1 / COOL_K));
  const stops = [0, 0.25, 0.5, 0.75, 1].map((t) => cssOf({ ...kelvin(at(t)), Y: 1 }));
  return (
    <div className="mt-2 flex h-7 items-center gap-2">
      <span className="w-9 flex-none text-[12px] text-muted">White</span>
      <Pad
        label="White"
        says={now ? `${now.toFixed(0)} kelvin` : 'a colour'}
        disabled={disabled}
        onPoint={(x) => onChange(Math.round(at(x) / 10) * 10)}
        onStep={(dx) =>
          onChange(clamp(Math.round((now ?? 3200) / 50) * 50 + dx * 50, WARM_K, COOL_K))
        }
        className="h-3.5 flex-1 rounded"
        style={{ background: `linear-gradient(90deg, ${stops.join(',')})` }}
      >
        {now !== undefined && (
          <i
            className="pointer-events-none absolute -top-1 h-5 w-2.5 -translate-x-1/2 rounded bg-text shadow-[0_0_0_2px_var(--color-panel)]"
            style={{ left: `${clamp(place(now)) * 100}%` }}
          />
        )}
      </Pad>
      <Scrub
        label="White value"
        value={now === undefined ? null : Math.round(now / 10) * 10}
        unit="K"
        min={WARM_K}
        max={COOL_K}
        step={50}
        disabled={disabled}
        onChange={onChange}
      />
    </div>
  );
}
