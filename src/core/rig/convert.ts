/**
 * One unit's programming said in another type's attributes: what stays, what is converted (colours through the
 * emitters, positions through degrees, slots through their names), what is lost. Nothing is lost without being named.
 */
import { clamp } from '../numbers.ts';
import { chromaticity } from '../color/mix.ts';
import { colourLevels, colourOf, colourParts } from '../color/unit-colour.ts';
import type { Channel, Mode, TypeRow } from '../types/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import {
  attributeInfo,
  attributesOf,
  baseOf,
  cellOf,
  familyOf,
  spreadOverCells,
} from './attributes.ts';
import { levelOfRaw, levelOfSet, meaningOf } from './channel.ts';

/** A type in one of its modes, before or after. */
export interface Side {
  type: TypeRow;
  mode: Mode;
}

/** Levels by attribute; null lets go. */
export type Setting = Map<string, number | null>;

/** What becomes of a value when its unit becomes another. */
export type Fate = 'same' | 'palette' | 'converted' | 'clipped' | 'dropped';
/** What becomes of one attribute. */
export interface FateOf {
  attribute: string;
  fate: Fate;
  /** The new type's attributes, in words. */
  into: string;
}

const channelOf = (side: Side, attribute: string): Channel | undefined =>
  side.mode.channels.find((c) => c.attribute === attribute);

/** The new type's attributes that an attribute can go into. */
function targetsOf(from: Side, to: Side, attribute: string): string[] {
  const has = attributesOf(to.mode);
  if (has.includes(attribute)) return [attribute];
  const base = baseOf(attribute);
  // Cells of another number: a cell goes to the whole unit; the whole unit to every cell.
  if (cellOf(attribute) === 0) return spreadOverCells(to.mode, attribute);
  if (has.includes(base)) return firstCell(from, attribute) ? [base] : [];
  return [];
}
const firstCell = (from: Side, attribute: string): boolean => {
  const base = baseOf(attribute);
  const cells = from.mode.channels
    .filter((c) => baseOf(c.attribute) === base)
    .map((c) => cellOf(c.attribute));
  return cellOf(attribute) === Math.min(...cells);
};

interface Converted {
  level: number;
  fate: Fate;
}

/** One level through what it means: physical value, or the name of a range. */
function convertLevel(
  a: Channel | undefined,
  b: Channel | undefined,
  level: number,
): Converted | undefined {
  // A virtual dimmer on either side: the level is the intensity.
  if (!a || !b) return { level, fate: 'same' };
  const meaning = meaningOf(a, level);
  const many = (a.functions?.length ?? 0) > 1 || (b.functions?.length ?? 0) > 1;
  if (many || meaning.set) {
    const name = meaning.set?.name ?? meaning.function?.name;
    const set = b.functions?.flatMap((f) => f.sets ?? []).find((s) => s.name === name);
    if (set) return { level: levelOfSet(b, set), fate: 'converted' };
    const same = b.functions?.find((f) => f.name === name);
    if (!same) return undefined;
    const span = same.physicalTo - same.physicalFrom;
    const share = span === 0 ? 0 : (meaning.physical - same.physicalFrom) / span;
    return {
      level: levelOfRaw(b, Math.round(same.from + (same.to - same.from) * clamp(share))),
      fate: share < 0 || share > 1 ? 'clipped' : 'converted',
    };
  }
  if (a.physicalFrom === b.physicalFrom && a.physicalTo === b.physicalTo)
    return { level, fate: 'same' };
  const span = b.physicalTo - b.physicalFrom;
  const share = span === 0 ? 0 : (meaning.physical - b.physicalFrom) / span;
  const slack = 1e-6;
  return {
    level: clamp(share),
    fate: share < -slack || share > 1 + slack ? 'clipped' : 'converted',
  };
}

const isColour = (attribute: string): boolean =>
  familyOf(attribute) === 'colour' && baseOf(attribute) !== 'CTO';

/**
 * What a cue sets, for the new type.
 * @param setting what the cue sets for the unit
 * @param shown all that the unit shows in that cue, so that a colour of which the cue sets a part is known whole
 */
export function convertSetting(
  from: Side,
  to: Side,
  fixture: Pick<FixtureRow, 'wheels'>,
  setting: Setting,
  shown: ReadonlyMap<string, number>,
): { setting: Setting; fates: FateOf[] } {
  const result: Setting = new Map();
  const fates: FateOf[] = [];
  const put = (attribute: string, level: number | null): void =>
    void result.set(attribute, level === null ? null : Math.round(level * 1e6) / 1e6);

  const colours = [...setting.keys()].filter(isColour);
  const sameColours = sameColourSystem(from, to);
  if (colours.length > 0 && !sameColours) {
    const target = colourTarget(from, fixture, setting, shown);
    const parts = colourParts(to.type, to.mode);
    const letGo = colours.every((a) => setting.get(a) === null);
    let off = 0;
    for (const part of parts) {
      if (letGo)
        for (const e of [...part.emitters.map((x) => x.attribute), ...part.filters]) put(e, null);
      else if (target) {
        const answer = colourLevels(to.type, part, target);
        off = Math.max(off, answer.off_uv);
        for (const { attribute, level } of answer.levels) put(attribute, level);
      }
    }
    const done = parts.length > 0 && (letGo || target !== undefined);
    const fate = off > 0.02 ? 'clipped' : 'converted';
    for (const attribute of colours)
      fates.push({
        attribute,
        fate: done ? fate : 'dropped',
        into: done ? 'colour' : '',
      });
  }

  for (const [attribute, level] of setting) {
    if (isColour(attribute) && !sameColours) continue;
    const targets = targetsOf(from, to, attribute);
    const converted = targets.map((t) =>
      level === null
        ? ({ level: null, fate: 'same' } as const)
        : convertLevel(channelOf(from, attribute), channelOf(to, t), level),
    );
    let fate: Fate = 'dropped';
    targets.forEach((t, i) => {
      const answer = converted[i];
      if (!answer) return;
      put(t, answer.level);
      fate = t !== attribute && answer.fate === 'same' ? 'converted' : answer.fate;
    });
    fates.push({
      attribute,
      fate,
      into: fate === 'dropped' ? '' : targets.map((t) => attributeInfo(t).label).join(', '),
    });
  }
  return { setting: result, fates };
}

/** Same emitters of the same colours, cell by cell: levels stay as they are. */
function sameColourSystem(from: Side, to: Side): boolean {
  const say = (side: Side): string =>
    JSON.stringify(
      colourParts(side.type, side.mode).map((p) => [
        p.cell,
        p.emitters,
        p.filters,
        p.wheels.map((w) =>
          side.type.wheels?.find((x) => x.name === baseOf(w.attribute))?.slots.map((s) => s.name),
        ),
      ]),
    );
  return say(from) === say(to);
}

function colourTarget(
  from: Side,
  fixture: Pick<FixtureRow, 'wheels'>,
  setting: Setting,
  shown: ReadonlyMap<string, number>,
) {
  const part = colourParts(from.type, from.mode)[0];
  if (!part) return undefined;
  const levelOf = (attribute: string): number =>
    setting.get(attribute) ?? shown.get(attribute) ?? channelOf(from, attribute)?.default ?? 0;
  return chromaticity(colourOf(from.type, part, levelOf, fixture));
}
