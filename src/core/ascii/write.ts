/** A cue list as ASCII cues: each cue its whole state of intensity, with the patch, groups and submasters of the show. */
import { formatCueNumber } from '../cues/number.ts';
import { stateAt } from '../cues/tracking.ts';
import { absolute } from '../fixtures/points.ts';
import { levelOf } from '../looks/value.ts';
import { lookSlots } from '../looks/resolve.ts';
import { membersOf } from '../groups/members.ts';
import { readSlotKey, type CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';

const DIMMED = 'Dimmer';
const PER_LINE = 6;

/** Two digits of hexadecimal: as finely as the format can. */
const levelText = (level: number): string =>
  level >= 1 - 1 / 512
    ? 'FL'
    : `H${Math.round(level * 255)
        .toString(16)
        .toUpperCase()
        .padStart(2, '0')}`;

const timeText = (s: number): string => {
  const tenths = Math.round(s * 10) / 10;
  if (tenths < 60) return String(tenths);
  const rest = tenths % 60;
  return `${Math.floor(tenths / 60)}:${rest < 10 ? '0' : ''}${Math.round(rest * 10) / 10}`;
};
const oneLine = (words: string): string => words.replaceAll(/[\r\n!]+/g, ' ').trim();

/** So many on a line. */
function channelLines(levels: readonly (readonly [channel: number, level: number])[]): string[] {
  const words = [...levels]
    .sort((a, b) => a[0] - b[0])
    .map(([channel, level]) => `${channel}@${levelText(level)}`);
  return Array.from(
    { length: Math.ceil(words.length / PER_LINE) },
    (_, i) => `Chan ${words.slice(i * PER_LINE, (i + 1) * PER_LINE).join(' ')}`,
  );
}

/** Where intensity is a channel of its own. */
function patchLines(show: Show): string[] {
  return [...show.fixtures.values()]
    .sort((a, b) => a.number - b.number)
    .flatMap((f) => {
      const mode = show.types.get(f.typeId)?.modes.find((m) => m.name === f.mode);
      const channel = mode?.channels.find((c) => c.attribute === DIMMED);
      if (!channel) return [];
      const limit = f.transforms?.[DIMMED]?.max ?? 1;
      return f.patch
        .filter((p) => (p.break ?? 1) === (channel.break ?? 1))
        .map(
          (p) =>
            `Patch 1 ${f.number}<${absolute(p) + (channel.offset[0] ?? 1) - 1}@${levelText(limit)}`,
        );
    });
}

const numberOf = (show: Show, id: string): number | undefined => show.fixtures.get(id)?.number;

function cueLines(show: Show, cue: CueRow): string[] {
  const levels: [number, number][] = [];
  const parts = new Map<number, [number, number][]>();
  for (const [key, { value, cue: set }] of stateAt(show, cue.listId, cue.number)) {
    const { fixtureId, attribute } = readSlotKey(key);
    const number = numberOf(show, fixtureId);
    if (number === undefined || attribute !== DIMMED) continue;
    const level = levelOf(show, value) ?? 0;
    const part = set.id === cue.id ? value.part : undefined;
    // What goes out in a part is named there: else it would go with the whole cue.
    if (level <= 0 && part === undefined) continue;
    if (part === undefined) levels.push([number, level]);
    else parts.set(part, [...(parts.get(part) ?? []), [number, level]]);
  }
  const timing = (c: { up_s: number; down_s: number; delay_s: number }): string[] => [
    `Up ${timeText(c.up_s)} ${timeText(c.delay_s)}`,
    `Down ${timeText(c.down_s)} ${timeText(c.delay_s)}`,
  ];
  const link = cue.link && show.cues.get(cue.link.to);
  return [
    `Cue ${formatCueNumber(cue.number)}`,
    ...(cue.name === '' ? [] : [`Text ${oneLine(cue.name)}`]),
    ...timing(cue),
    ...(cue.follow_s === null ? [] : [`Followon ${timeText(cue.follow_s)}`]),
    ...(link ? [`Link ${formatCueNumber(link.number)}`] : []),
    ...channelLines(levels),
    ...(cue.parts ?? []).flatMap((p) => [
      `Part ${p.number}`,
      ...(p.name === '' ? [] : [`Text ${oneLine(p.name)}`]),
      ...timing(p),
      ...channelLines(parts.get(p.number) ?? []),
    ]),
    '',
  ];
}

function groupLines(show: Show): string[] {
  return [...show.groups.values()]
    .sort((a, b) => a.number - b.number)
    .flatMap((g) => {
      const members = membersOf(show, g).flatMap((id) => numberOf(show, id) ?? []);
      return members.length === 0
        ? []
        : [
            `Group ${g.number}`,
            `Text ${oneLine(g.name)}`,
            ...channelLines(members.map((n) => [n, 1] as const)),
            '',
          ];
    });
}

/** What a look says of intensity, by unit; what it keeps out is not of it. */
export const litBy = (show: Show, lookId: string): Map<string, number> =>
  new Map(
    [...lookSlots(show, lookId)].flatMap(([key, { level }]): [string, number][] => {
      const { fixtureId, attribute } = readSlotKey(key);
      return attribute === DIMMED && level !== undefined && level > 0 ? [[fixtureId, level]] : [];
    }),
  );

/** Faders that hold a look. */
function subLines(show: Show): string[] {
  return [...show.faders.values()]
    .filter((f) => f.holds.kind === 'look')
    .sort((a, b) => a.number - b.number)
    .flatMap((f) => {
      const levels = [...litBy(show, f.holds.id)].flatMap(([id, level]): [number, number][] => {
        const number = numberOf(show, id);
        return number === undefined ? [] : [[number, level]];
      });
      return levels.length === 0
        ? []
        : [`Sub ${f.number}`, `Text ${oneLine(f.name)}`, ...channelLines(levels), ''];
    });
}

/** A cue list as USITT ASCII (3.0): levels of intensity as they track; what has no place there is said in comments. */
export function writeAscii(show: Show, listId: string): string {
  const lines = [
    'Ident 3:0',
    'Manufacturer Wingman',
    'Console Wingman',
    '! Levels of intensity; colour, position and beam have no place in this format.',
    'Clear cues',
    '',
    ...patchLines(show),
    '',
    ...show.cuesOf(listId).flatMap((cue) => cueLines(show, cue)),
    ...groupLines(show),
    ...subLines(show),
    'Enddata',
    '',
  ];
  return lines.join('\r\n');
}
