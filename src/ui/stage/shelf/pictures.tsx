/** Pictures made from what a tile holds: the light's colour, a level, where it falls, a pattern, a wave. */
'use client';
import { clamp } from '@/core/numbers';
import { useEffect, useMemo, useRef } from 'react';
import { kelvin } from '@/core/color/mix';
import { colourOf, colourParts } from '@/core/color/unit-colour';
import { displayRGB } from '@/core/color/mix';
import { phases } from '@/core/effects/spread';
import { appliedTo, hertz, phaseOf, waveAt } from '@/core/effects/wave';
import { lookSlots } from '@/core/looks/resolve';
import { levelOf } from '@/core/looks/value';
import { reachOf } from '@/core/palettes/resolve';
import { modeOf } from '@/core/fixtures/points';
import { slotKey } from '@/core/cues/rows';
import type { EffectRow } from '@/core/effects/rows';
import type { LookRow } from '@/core/looks/rows';
import type { PaletteRow } from '@/core/palettes/rows';
import { wheelSlotAt } from '@/core/rig/channel';
import type { Show } from '@/core/show/show';
import { cssOf, PatternPicture } from '../../parts/patterns';

const BOX = 'h-10 w-full overflow-hidden rounded-t-md';
const rgb = (c: readonly number[], a = 1): string => `rgba(${c[0]},${c[1]},${c[2]},${a})`;

/** A pool of light of this colour on a dark floor. */
function Pool({ css }: { css: string }) {
  return (
    <div
      className={BOX}
      style={{
        background: `radial-gradient(90% 120% at 50% 100%, ${css}, var(--color-stage) 120%)`,
      }}
    />
  );
}

/** Colours that a palette gives its units, at most a few, for one that differs by unit. */
function coloursOf(show: Show, palette: PaletteRow): string[] {
  const found = new Set<string>();
  for (const fixture of show.fixtures.values()) {
    if (found.size >= 5) break;
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    const reach = reachOf(show, palette, fixture);
    const [part] = type && mode && reach.size > 0 ? colourParts(type, mode) : [];
    if (type && part)
      found.add(rgb(displayRGB(colourOf(type, part, (a) => reach.get(a) ?? 0, fixture))));
  }
  return [...found];
}

/** What a palette looks like, small. */
export function PalettePicture({
  show,
  palette,
  version,
}: {
  show: Show;
  palette: PaletteRow;
  version: string;
}) {
  const colours = useMemo(() => {
    void version;
    if (palette.family !== 'colour') return [];
    const any = palette.any?.kelvin ? kelvin(palette.any.kelvin) : palette.any?.colour;
    return any ? [cssOf({ ...any, Y: 1 })] : coloursOf(show, palette);
  }, [show, palette, version]);
  if (palette.family === 'colour') {
    if (colours.length <= 1) return <Pool css={colours[0] ?? 'var(--color-lift)'} />;
    return (
      <div className={`${BOX} flex`}>
        {colours.map((c) => (
          <i
            key={c}
            className="flex-1"
            style={{
              background: `radial-gradient(90% 120% at 50% 100%, ${c}, var(--color-stage) 120%)`,
            }}
          />
        ))}
      </div>
    );
  }
  if (palette.family === 'intensity') {
    const levels =
      palette.any?.level !== undefined
        ? [palette.any.level]
        : [
            ...Object.values(palette.fixtures),
            ...Object.values(palette.types),
            ...Object.values(palette.groups ?? {}),
          ]
            .flatMap((o) => o.Dimmer ?? [])
            .slice(0, 12);
    return (
      <div className={`${BOX} flex items-end gap-0.5 bg-ink px-3 pt-1.5`}>
        {levels.map((l, i) => (
          <i
            key={i}
            className="flex-1 rounded-t-sm bg-soft"
            style={{ height: `${Math.max(4, l * 100)}%`, opacity: 0.3 + l * 0.7 }}
          />
        ))}
      </div>
    );
  }
  if (palette.family === 'position') return <Target point={palette.any?.point} />;
  return <Pattern show={show} palette={palette} />;
}

/** The stage from above with the point on it. */
function Target({ point }: { point: { x: number; y: number } | undefined }) {
  const x = point ? 48 + Math.max(-8, Math.min(8, point.x)) * 5 : 48;
  const y = point ? 34 - Math.max(0, Math.min(9, point.y)) * 3.4 : 20;
  return (
    <svg
      viewBox="0 0 96 40"
      preserveAspectRatio="xMidYMid slice"
      className={`${BOX} bg-ink`}
      aria-hidden="true"
    >
      <path d="M10 36H86M18 36V5Q48 0 78 5V36" fill="none" stroke="var(--color-line)" />
      {point ? (
        <g stroke="var(--color-soft)" fill="none">
          <path d={`M22 3 ${x} ${y} 74 3`} strokeOpacity="0.3" />
          <circle cx={x} cy={y} r="4" />
          <path d={`M${x} ${y - 7}v4M${x} ${y + 3}v4M${x - 7} ${y}h4M${x + 3} ${y}h4`} />
        </g>
      ) : (
        <g stroke="var(--color-muted)" fill="none">
          {[28, 41, 55, 68].map((at, i) => (
            <path key={at} d={`M${at} 4l${[-4, 3, -2, 5][i]} 22`} />
          ))}
        </g>
      )}
    </svg>
  );
}

function Pattern({ show, palette }: { show: Show; palette: PaletteRow }) {
  const slot = useMemo(() => {
    for (const fixture of show.fixtures.values()) {
      const type = show.types.get(fixture.typeId);
      const channel = modeOf(show, fixture)?.channels.find((c) => c.attribute === 'Gobo1');
      const level = channel ? reachOf(show, palette, fixture).get('Gobo1') : undefined;
      const found =
        type && channel && level !== undefined
          ? wheelSlotAt(type, channel, level, fixture)
          : undefined;
      if (found?.is.picture) return found.is.picture;
    }
    return undefined;
  }, [show, palette]);
  return (
    <div className={`${BOX} grid place-items-center bg-ink text-soft`}>
      {slot ? (
        <PatternPicture picture={slot} size={30} label="" />
      ) : (
        <i className="size-6 rounded-full border-2 border-muted bg-lift" />
      )}
    </div>
  );
}

/** A small stage with the look's units lit. */
export function LookPicture({
  show,
  look,
  version,
}: {
  show: Show;
  look: LookRow;
  version: string;
}) {
  const lights = useMemo(() => {
    void version;
    const slots = lookSlots(show, look.id);
    const ids = new Set([...slots.values()].map((s) => s.fixtureId));
    return [...ids].slice(0, 160).flatMap((id) => {
      const fixture = show.fixtures.get(id);
      const type = fixture ? show.types.get(fixture.typeId) : undefined;
      const mode = fixture ? modeOf(show, fixture) : undefined;
      if (!fixture || !type || !mode) return [];
      const at = (a: string): number => {
        const s = slots.get(slotKey(id, a));
        return s?.level === undefined
          ? (mode.channels.find((c) => c.attribute === a)?.default ?? 0)
          : (levelOf(show, {
              fixtureId: id,
              attribute: a,
              level: s.level,
              ...(s.palette === undefined ? {} : { palette: s.palette }),
            }) ?? 0);
      };
      const [part] = colourParts(type, mode);
      const c = part ? displayRGB(colourOf(type, part, at, fixture)) : [255, 214, 160];
      return [
        { x: 48 + fixture.position.x * 5, y: 32 - fixture.position.y * 3, level: at('Dimmer'), c },
      ];
    });
  }, [show, look, version]);
  return (
    <svg
      viewBox="0 0 96 40"
      preserveAspectRatio="xMidYMid slice"
      className={`${BOX} bg-ink`}
      aria-hidden="true"
    >
      {lights.map((l, i) => (
        <circle
          key={i}
          cx={l.x}
          cy={l.y}
          r={2 + l.level * 3}
          fill={rgb(l.c, 0.12 + l.level * 0.8)}
        />
      ))}
    </svg>
  );
}

const UNITS = 6;
const PICTURE_MS = 66;

/** All moving pictures of a page are drawn at once, some fifteen times a second. */
const drawings = new Set<(now: number) => void>();
let timer: ReturnType<typeof setInterval> | undefined;
function draws(draw: (now: number) => void): () => void {
  draw(0);
  if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) return () => undefined;
  drawings.add(draw);
  timer ??= setInterval(() => {
    for (const each of drawings) each(performance.now());
  }, PICTURE_MS);
  return () => {
    drawings.delete(draw);
    if (drawings.size > 0) return;
    clearInterval(timer);
    timer = undefined;
  };
}

/** An effect as it goes over a few units: up and down by its first lane, lit by the intensity’s. */
export function MovingEffect({ effect }: { effect: Omit<EffectRow, 'id' | 'number'> }) {
  const dots = useRef<(SVGCircleElement | null)[]>([]);
  useEffect(() => {
    const where = phases(UNITS, effect.spread);
    const intensity = effect.tracks.find((t) => t.attribute === 'Dimmer');
    const high = effect.tracks.find((t) => t !== intensity);
    const hz = hertz(effect.speed, TEMPO_BPM);
    return draws((now) => {
      where.forEach((offset, i) => {
        const phase = phaseOf(effect.direction, (now / 1000) * hz, offset);
        const y = 33 - (high ? waveAt(high, phase) : 0.5) * 26;
        const light = intensity ? clamp(appliedTo(intensity, 0.5, phase)) : 1;
        dots.current[i]?.setAttribute('cy', String(y));
        dots.current[i]?.setAttribute('fill-opacity', String(0.12 + 0.88 * light));
      });
    });
  }, [effect]);
  return (
    <svg viewBox="0 0 96 40" className={`${BOX} bg-ink`} aria-hidden="true">
      {Array.from({ length: UNITS }, (_, i) => (
        <circle
          key={i}
          ref={(dot) => void (dots.current[i] = dot)}
          cx={11 + i * 14.8}
          r={4.5}
          fill="var(--color-soft)"
        />
      ))}
    </svg>
  );
}
const TEMPO_BPM = 100;
