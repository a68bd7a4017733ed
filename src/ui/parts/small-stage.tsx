/** A small stage as a cue shows it, seen from the house's plan: where light is, and in which colour. */
'use client';
import type { Consequence } from '@/core/cues/consequences';
import { stateAt } from '@/core/cues/tracking';
import { colourOf, colourParts } from '@/core/color/unit-colour';
import { displayRGB } from '@/core/color/mix';
import { levelOf } from '@/core/looks/value';
import { modeOf } from '@/core/fixtures/points';
import { slotKey } from '@/core/cues/rows';
import type { Show } from '@/core/show/show';

/** The stage in a cue, with these slots as they would be instead. */
export function lightsIn(
  show: Show,
  c: Pick<Consequence, 'listId' | 'number' | 'differences'>,
  which: 'before' | 'after',
): { x: number; y: number; level: number; css: string }[] {
  const state = stateAt(show, c.listId, c.number);
  const own = new Map(c.differences.map((d) => [d.key, d[which]]));
  const at = (id: string, attribute: string, otherwise: number): number => {
    const key = slotKey(id, attribute);
    const changed = own.get(key);
    if (changed !== undefined) return changed ?? otherwise;
    const value = state.get(key)?.value;
    return value ? (levelOf(show, value) ?? otherwise) : otherwise;
  };
  return [...show.fixtures.values()].flatMap((fixture) => {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    if (!type || !mode || fixture.patch.length === 0) return [];
    const level = at(fixture.id, 'Dimmer', 0);
    if (level < 0.01) return [];
    const [part] = colourParts(type, mode);
    const light = part
      ? displayRGB(
          colourOf(
            type,
            part,
            (a) => at(fixture.id, a, mode.channels.find((x) => x.attribute === a)?.default ?? 0),
            fixture,
          ),
        )
      : [255, 214, 160];
    return [
      {
        x: 48 + fixture.position.x * 5,
        y: 42 - fixture.position.y * 3.6,
        level,
        css: `rgba(${light.join(',')},${0.15 + level * 0.8})`,
      },
    ];
  });
}

/** Lights of a picture, small and from above. */
export function SmallStage({
  lights,
  label,
  small = false,
  wide = false,
}: {
  lights: readonly { x: number; y: number; level: number; css: string }[];
  label: string;
  small?: boolean;
  /** As wide as there is room. */ wide?: boolean;
}) {
  return (
    <svg
      viewBox="0 0 96 60"
      width={small ? 46 : 96}
      height={small ? 29 : 60}
      role="img"
      aria-label={label}
      data-theme="night"
      className={`rounded ${wide ? 'h-auto w-full bg-panel' : `flex-none ${small ? 'bg-raised' : 'bg-ink'}`}`}
    >
      <path d="M18 44V8Q48 2 78 8V44" fill="none" stroke="var(--color-line)" />
      {lights.map((l, i) => (
        <circle
          key={i}
          cx={l.x}
          cy={l.y}
          r={(1.6 + l.level * 3) * (small ? 1.5 : 1)}
          fill={l.css}
        />
      ))}
    </svg>
  );
}
