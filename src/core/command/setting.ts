/** What is set on fixtures: levels in people's units, from one to another, more or less than now, and their times. */
import { numberRanges, plural } from '../words.ts';
import type { CommandOf, LiveCommand } from '../live/commands.ts';
import { modeOf } from '../fixtures/points.ts';
import { attributeInfo, findAttribute, spreadOverCells } from '../rig/attributes.ts';
import { strobeOf } from '../rig/shutter.ts';
import { CURVES, PIVOTS, type Curve, type Grouping, type Pivot } from '../select/fan.ts';
import type { Channel } from '../types/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { Complaint, THRU, type Reader } from './reader.ts';

/** Levels that have words, percent. */
export const FULL: Record<string, number> = { full: 100, fl: 100, out: 0 };

/** What a line sets, and how that reads before Enter. */
export interface Set_ {
  command: LiveCommand;
  /** More of the same line, after it. */
  then: LiveCommand[];
  says: string;
}

/** `30`, `30%`, `45°`, `3200K`, `12hz`. */
const NUMBER = /^\d+(\.\d+)?(%|°|k|hz|deg)?$/i;

/** A value in the attribute's unit, checked against what these units can do. */
function value(
  r: Reader,
  attribute: string,
  fixtures: readonly FixtureRow[],
  relative = false,
): { value: number; says: string } {
  const sign = r.takeKey('-');
  const word = r.next();
  const named = word && !sign && !relative ? FULL[word.key] : undefined;
  const info = attributeInfo(attribute);
  const percent = info.unit === '%' || info.unit === 'slot';
  if (word && named !== undefined && percent)
    return { value: named, says: named === 100 ? 'full' : 'out' };
  const number =
    word && NUMBER.test(word.text) ? Number.parseFloat(word.text) * (sign ? -1 : 1) : undefined;
  if (!word || number === undefined)
    throw new Complaint(
      word
        ? `“${word.text}” is not a level.`
        : 'Here a level is missing: a percentage, full or out.',
      word ?? r.previous(),
    );
  if (relative) return { value: number, says: `${number} ${percent ? '%' : info.unit}` };
  if (percent) {
    if (number < 0 || number > 100)
      throw new Complaint(`A level goes from 0 to 100 %; ${number} does not.`, word);
    return { value: number, says: `${number} %` };
  }
  const ranges = fixtures.flatMap((f) =>
    channelsOf(r, f, attribute).map(
      (c) =>
        [Math.min(c.physicalFrom, c.physicalTo), Math.max(c.physicalFrom, c.physicalTo)] as const,
    ),
  );
  if (ranges.length === 0 && attribute !== 'Shutter1Strobe')
    throw new Complaint(`None of these has ${info.label.toLowerCase()}.`, word);
  const [low, high] =
    ranges.length === 0
      ? [0, 25]
      : [Math.min(...ranges.map(([a]) => a)), Math.max(...ranges.map(([, b]) => b))];
  if (number < low || number > high)
    throw new Complaint(
      `${info.label} goes from ${low} to ${high} ${info.unit}; ${number} does not.`,
      word,
    );
  return { value: number, says: `${number} ${info.unit}` };
}

const channelsOf = (r: Reader, f: FixtureRow, attribute: string): Channel[] => {
  const mode = modeOf(r.context.show, f);
  return mode
    ? spreadOverCells(mode, attribute).flatMap((a) =>
        mode.channels.filter((c) => c.attribute === a),
      )
    : [];
};

const can = (r: Reader, f: FixtureRow, attribute: string): boolean => {
  const mode = modeOf(r.context.show, f);
  return (
    mode !== undefined &&
    (spreadOverCells(mode, attribute).length > 0 ||
      (attribute === 'Shutter1Strobe' &&
        mode.channels.some((c) => c.attribute === 'Shutter1' && strobeOf(c) !== undefined)))
  );
};

interface Times {
  fade_s?: number;
  delay_s?: number;
  /** Times that are spread over the fixtures. */
  fans: { what: 'fade' | 'delay'; stops: number[]; shape: ReturnType<typeof shape> }[];
  says: string;
}

/** Which time is said next, if any. */
function timeWord(r: Reader): 'fade' | 'delay' | undefined {
  if (r.takeKey('time', 'in')) return 'fade';
  return r.takeKey('delay') ? 'delay' : undefined;
}

/** `time 4`, `time 0 thru 5`, `delay 1`. */
function times(r: Reader): Times {
  const t: Times = { fans: [], says: '' };
  for (;;) {
    const what = timeWord(r);
    if (!what) return t;
    const stops = [r.seconds()];
    while (THRU.has(r.peek()?.key ?? '')) {
      r.next();
      stops.push(r.seconds());
    }
    const text = stops.length > 1 ? `${stops.join(' to ')} s` : `${stops[0]} s`;
    if (stops.length > 1 || (stops[0] ?? 0) > 0)
      t.says += what === 'fade' ? ` in ${text}` : ` after ${text}`;
    if (stops.length > 1) {
      const how = shape(r);
      t.says += how.says;
      t.fans.push({ what, stops, shape: how });
    } else if (what === 'fade') t.fade_s = stops[0] ?? 0;
    else t.delay_s = stops[0] ?? 0;
  }
}

interface SaidShape extends Grouping {
  mirrored?: boolean;
  curve?: Curve;
  pivot?: Pivot;
  says: string;
}

const shaped = (
  { mirrored = false, curve = 'even', pivot, together, again }: SaidShape,
  from: Pivot,
) => ({
  pivot: pivot ?? from,
  curve,
  mirrored,
  ...(together === undefined ? {} : { together }),
  ...(again === undefined ? {} : { again }),
});

/** `mirrored`, `curve s`, `from first`, `together 2`, `again 4`. */
function shape(r: Reader): SaidShape {
  const found: SaidShape = { says: '' };
  for (;;) {
    if (r.takeKey('mirrored', 'mirror')) {
      found.mirrored = true;
      found.pivot = 'mirrored';
      found.says += ', mirrored';
    } else if (r.takeKey('curve')) {
      const word = r.next();
      const curve = CURVES.find((c) => c === word?.key);
      if (!curve)
        throw new Complaint(`A curve is one of ${CURVES.join(', ')}.`, word ?? r.previous());
      found.curve = curve;
      found.says += `, curve ${curve}`;
    } else if (r.takeKey('together')) {
      found.together = r.whole('how many neighbours go together');
      found.says += `, ${found.together} together`;
    } else if (r.takeKey('again')) {
      r.takeKey('after');
      found.again = r.whole('after how many it begins again');
      if (found.again < 2) throw new Complaint('It begins again after at least two.', r.previous());
      found.says += `, again after ${found.again}`;
    } else if (r.takeKey('from')) {
      r.takeKey('the');
      const word = r.next();
      const pivot = PIVOTS.find((p) => p === word?.key);
      if (!pivot)
        throw new Complaint(
          `A fan goes from ${PIVOTS.slice(0, 3).join(', ')}.`,
          word ?? r.previous(),
        );
      found.pivot = pivot;
      found.says += `, from the ${pivot}`;
    } else return found;
  }
}

/** What a line sets: an attribute, and the fixtures among those meant that have it. */
interface About {
  r: Reader;
  attribute: string;
  able: readonly FixtureRow[];
  /** Their numbers. */
  fixtures: number[];
  /** Of 0 to 100 %, or of slots: no value below nothing. */
  percent: boolean;
}

/** What is sent, and how it is read back, without its times. */
type Meant = readonly [command: LiveCommand, says: string];

/** The attribute that is named; intensity where none is. */
function attributeNamed(r: Reader): string {
  const word = r.peek();
  if (!word || ['at', '@', 'by', 'fan'].includes(word.key) || FULL[word.key] !== undefined)
    return 'Dimmer';
  const found = findAttribute(word.text);
  if (!found)
    throw new Complaint(
      `“${word.text}” is not understood here; expected “at”, “time” or an attribute such as pan.`,
      word,
    );
  r.next();
  return found;
}

/** Values or times spread over the fixtures. @param pivot where it begins, if the line does not say */
const spread = (
  { attribute, fixtures }: About,
  over: Pick<CommandOf<'fan'>, 'what' | 'by' | 'stops'>,
  s: SaidShape,
  pivot: Pivot,
): CommandOf<'fan'> => ({ command: 'fan', fixtures, attribute, ...over, ...shaped(s, pivot) });

/** `fan 20 from first mirrored`. */
function fanned(about: About): Meant | null {
  const { r, attribute, able } = about;
  if (!r.takeKey('fan')) return null;
  if (able.length < 2) throw new Complaint('A fan needs at least two fixtures.', r.previous());
  const by = value(r, attribute, able, true);
  const s = shape(r);
  return [
    { ...spread(about, { what: 'value', by: by.value }, s, 'middle'), mirrored: false },
    `fanned by ${by.says}${s.says}`,
  ];
}

/** `* 0.9`. */
function multiplied({ r, attribute, fixtures }: About): Meant | null {
  const scale = r.peek();
  if (!scale || !/^[*x×]/.test(scale.key)) return null;
  r.next();
  const text = scale.text.length > 1 ? scale.text.slice(1) : (r.next()?.text ?? '');
  if (!/^\d+(\.\d+)?$/.test(text))
    throw new Complaint('Here a factor is missing, such as * 0.9', r.previous());
  return [{ command: 'nudge', fixtures, attribute, times: Number(text) }, `times ${text}`];
}

/** `by -10`, `+ 10`. Percent cannot be negative, so `at -10` is less than now; degrees can, so `by -10` says it. */
function nudged({ r, attribute, able, fixtures, percent }: About): Meant | null {
  const isLess = percent && r.peek()?.key === '-';
  if (!r.takeKey('by') && r.peek()?.key !== '+' && !isLess) return null;
  r.takeKey('+');
  const by = value(r, attribute, able, true);
  return [
    { command: 'nudge', fixtures, attribute, add: by.value },
    by.value < 0 ? `less by ${by.says.slice(1)}` : `more by ${by.says}`,
  ];
}

/** `70`, or `20 thru 80 mirrored`. */
function reached(about: About): Meant {
  const { r, attribute, able, fixtures, percent } = about;
  const first = value(r, attribute, able);
  const stops = [first];
  while (THRU.has(r.peek()?.key ?? '')) {
    r.next();
    stops.push(value(r, attribute, able));
  }
  if (stops.length === 1)
    return [
      percent
        ? { command: 'set', fixtures, attribute, level: first.value / 100 }
        : { command: 'set', fixtures, attribute, physical: first.value },
      first.says,
    ];
  if (able.length < 2)
    throw new Complaint('A fan needs at least two fixtures; this is one.', r.previous());
  const s = shape(r);
  return [
    spread(about, { what: 'value', stops: stops.map((x) => x.value) }, s, 'first'),
    `${stops.map((x) => x.says).join(' to ')}${s.says}`,
  ];
}

/** With the times at the end of the line: of all of them, and fanned over them. */
function timed(about: About, command: LiveCommand) {
  const { r } = about;
  const t = times(r);
  r.end();
  const then = t.fans.map((f) => spread(about, { what: f.what, stops: f.stops }, f.shape, 'first'));
  const delays = t.delay_s !== undefined && command.command !== 'nudge';
  return {
    command: {
      ...command,
      ...(t.fade_s === undefined ? {} : { fade_s: t.fade_s }),
      ...(delays ? { delay_s: t.delay_s } : {}),
    } as LiveCommand,
    then,
    says: t.says,
  };
}

/** `at 70 time 4 delay 1`, `pan at 30`, `at 20 thru 80 mirrored`, `pan by 10`, `at * 0.9`, `tilt fan 20 from first`, `time 3`. */
export function setting(r: Reader, ids: readonly string[], typed: boolean): Set_ {
  const { show } = r.context;
  const meant = ids.flatMap((id) => show.fixtures.get(id) ?? []);
  if (meant.length === 0)
    throw new Complaint(
      'Nothing is selected: begin with fixture numbers, such as 1 thru 8.',
      r.peek(),
    );
  const word = r.peek();
  if (word && (word.key === 'time' || word.key === 'delay')) return heldTimes(r, meant);
  const attribute = attributeNamed(r);
  const info = attributeInfo(attribute);
  const label = info.label.toLowerCase();
  const able = meant.filter((f) => can(r, f, attribute));
  if (able.length === 0) throw new Complaint(`None of these has ${label}.`, word);
  const about: About = {
    r,
    attribute,
    able,
    fixtures: able.map((f) => f.number),
    percent: info.unit === '%' || info.unit === 'slot',
  };

  const fan = fanned(about);
  if (!fan) r.takeKey('at', '@');
  const [command, said] = fan ?? multiplied(about) ?? nudged(about) ?? reached(about);
  const { says: inTime, ...sent } = timed(about, command);

  const who = typed
    ? plural(able.length, 'fixture')
    : `the ${plural(able.length, 'selected fixture')}`;
  const without = meant.length - able.length;
  const some = without > 0 ? ` (${without} have none)` : '';
  return { ...sent, says: `${who} · ${label} ${said}${inTime}${some} · into your programmer` };
}

/** `1 thru 8 time 3`: times of what is held, without moving it. */
function heldTimes(r: Reader, fixtures: readonly FixtureRow[]): Set_ {
  const word = r.peek();
  const t = times(r);
  r.end();
  if (t.fans.length > 0)
    throw new Complaint('Say of what the times are spread: pan at 30 time 0 thru 5', word);
  const numbers = fixtures.map((f) => f.number);
  const command: LiveCommand = {
    command: 'times',
    fixtures: numbers,
    ...(t.fade_s === undefined ? {} : { fade_s: t.fade_s }),
    ...(t.delay_s === undefined ? {} : { delay_s: t.delay_s }),
  };
  return {
    command,
    then: [],
    says: `what you hold of ${numberRanges(numbers)}${t.says || ' without a time of its own'}`,
  };
}

/** A percentage, for masters. */
export const percentage = (r: Reader): { level: number; says: string } => {
  const v = value(r, 'Dimmer', []);
  return { level: v.value / 100, says: v.says };
};
