/** Rows and their fields in words, for history, comparing and merging. */
import { formatCueNumber } from '../cues/number.ts';
import { numberRanges } from '../words.ts';
import { formatPoints } from '../rig/addresses.ts';
import { attributeInfo } from '../rig/attributes.ts';
import type { AnyRow, RowOf, TableName } from './tables.ts';
import type { NoteKind } from '../notes/rows.ts';
import type { PatchPoint } from '../fixtures/rows.ts';
import type { ValueRow } from '../cues/rows.ts';
import type { Show } from './show.ts';

/** What words need of a show. */
export type Named = Pick<
  Show,
  | 'fixtures'
  | 'cues'
  | 'lists'
  | 'palettes'
  | 'looks'
  | 'effects'
  | 'groups'
  | 'types'
  | 'circuits'
  | 'scripts'
>;

/** A name in quotes after what it is of; nothing where there is none. */
const quoted = (name: string | undefined, before = ''): string =>
  name === undefined || name.trim() === '' ? '' : `${before} “${name}”`;

/** A row in words: `fixture 12`, `cue 2.5`. */
export function describeRow(show: Named, table: TableName, row: AnyRow | null): string {
  if (!row) return 'a row';
  const named = row as { number?: number; name?: string };
  switch (table) {
    case 'fixtures':
      return `fixture ${(row as RowOf['fixtures']).number}`;
    case 'cues': {
      const cue = row as RowOf['cues'];
      // The first list is the one that is meant when none is named.
      const list = [...show.lists.values()].some(
        (l) => l.number < (show.lists.get(cue.listId)?.number ?? 0),
      )
        ? show.lists.get(cue.listId)?.name
        : undefined;
      return `cue ${formatCueNumber(cue.number)}${list ? ` of ${list}` : ''}`;
    }
    case 'calls':
      return `the call${quoted((row as RowOf['calls']).quote, ' on')}`;
    case 'values': {
      const { cueId, fixtureId, attribute } = row as ValueRow;
      const cue = show.cues.get(cueId);
      return `${attributeInfo(attribute).label.toLowerCase()} of fixture ${show.fixtures.get(fixtureId)?.number ?? '?'} in cue ${cue ? formatCueNumber(cue.number) : '?'}`;
    }
    case 'palettes':
    case 'looks':
    case 'effects':
    case 'faders':
    case 'lists':
      return `${table.slice(0, -1)} ${named.number ?? ''}${quoted(named.name)}`;
    case 'groups':
    case 'layouts':
    case 'parts':
    case 'pages':
    case 'sounds':
    case 'pictures':
      return `${table.slice(0, -1)}${quoted(named.name)}`;
    case 'types': {
      const type = row as RowOf['types'];
      return `type ${type.maker} ${type.name}`;
    }
    case 'routes':
      return `the route of universe ${(row as RowOf['routes']).universe}`;
    case 'universes':
      return `universe ${(row as RowOf['universes']).number}`;
    case 'circuits':
      return `circuit ${(row as RowOf['circuits']).name}`;
    case 'scripts':
      return `script${quoted((row as RowOf['scripts']).title)}`;
    case 'pieces':
      return `“${(row as RowOf['pieces']).name || (row as RowOf['pieces']).kind}” of the plan`;
    case 'departments':
      return `department “${named.name ?? ''}”`;
    case 'prompts':
      return `“${(row as RowOf['prompts']).label}” in the script`;
    case 'photos':
      return 'a picture of a note';
    case 'likes': {
      const like = row as RowOf['likes'];
      const cue = show.cues.get(like.cueId);
      return `that ${like.by.name} likes cue ${cue ? formatCueNumber(cue.number) : '?'}`;
    }
    case 'notes':
      return `a note of ${(row as RowOf['notes']).by.name}`;
    case 'settings':
      return 'the show’s name and notes';
  }
}

const FIELDS: Record<string, string> = {
  up_s: 'up',
  down_s: 'down',
  delay_s: 'delay',
  family_s: 'family times',
  familyDelay_s: 'family delays',
  follow_s: 'follow',
  after_s: 'after',
  fade_s: 'fade',
  back_s: 'time back',
  release_s: 'release',
  prePosition: 'early moves',
  atEnd: 'at the end',
  keepsThroughRelease: 'keeps through release',
  startsWhenRaised: 'starts when raised',
  releasesAtZero: 'releases at zero',
  operatorNote: 'note for the operator',
  designerNote: 'note for the designer',
  call: 'called on',
  typeId: 'type',
  patch: 'address',
  wasAt: 'address before',
  hang: 'hangs on',
  noGrandMaster: 'not under the grand master',
  swapPanTilt: 'pan and tilt swapped',
  circuitId: 'circuit',
  any: 'for any unit',
  types: 'by type',
  fixtures: 'fixtures',
  groups: 'groups',
  listId: 'list',
  cueId: 'cue',
  userName: 'given to',
  userId: 'given to',
  lamp_K: 'lamp',
  weight_kg: 'weight',
  idle_W: 'idle',
  panSpeed_deg_s: 'pan speed',
  tiltSpeed_deg_s: 'tilt speed',
  scriptId: 'script',
  transforms: 'limits',
  wheels: 'wheel slots',
  z: 'height over the floor',
  height: 'how tall',
  breaker_A: 'breaker',
  wire: 'number on the wire',
  watts: 'watts',
  cueNumber: 'cue',
  fixtureNumber: 'unit',
  fixtureId: 'unit',
  replies: 'answers',
  to: 'for',
  drawing: 'drawing',
  lost: 'changed since',
  department: 'department',
  block: 'complete as it stands',
  from: 'place in the script',
  aside: 'findings put aside',
};
export const fieldName = (field: string): string =>
  FIELDS[field] ?? field.replace(/([A-Z])/g, ' $1').toLowerCase();

/** Units of fields whose numbers are said as they are. */
const UNITS: Record<string, string> = {
  lamp_K: ' K',
  weight_kg: ' kg',
  idle_W: ' W',
  watts: ' W',
  breaker_A: ' A',
  rotation: '°',
  lean: '°',
  panSpeed_deg_s: ' °/s',
  tiltSpeed_deg_s: ' °/s',
  z: ' m',
  height: ' m',
};
/** Kinds of notes, as they are left. */
export const NOTE_WORDS: Record<NoteKind, string> = {
  slow: 'too slow',
  fast: 'too fast',
  bright: 'too bright',
  dark: 'too dark',
  other: 'in words',
};
export const PROTOCOL_NAMES: Record<RowOf['routes']['protocol'], string> = {
  sacn: 'sACN',
  artnet: 'Art-Net',
};
/** What a call keeps to be found again in a later draft; nobody reads it. */
export const isHidden = (table: TableName, field: string): boolean =>
  (table === 'calls' || table === 'prompts') && ['before', 'after', 'to'].includes(field);

/** Fields that say how long something takes or when it begins. */
export const isTime = (field: string): boolean =>
  /_s$/.test(field) || ['curve', 'clock', 'parts', 'link'].includes(field);

const seconds = (v: number): string => `${Math.round(v * 100) / 100} s`;
const percent = (v: number): string => `${Math.round(v * 1000) / 10} %`;

/** The value of a field in words, short enough for a line. */
export function sayField(show: Named, table: TableName, field: string, value: unknown): string {
  if (value === undefined || value === null || value === '')
    return field === 'level' && value === null ? 'let go' : 'nothing';
  if (value === true) return 'yes';
  if (value === false) return 'no';
  if (typeof value === 'number') {
    const unit = UNITS[field];
    if (unit !== undefined) return `${Math.round(value * 100) / 100}${unit}`;
    if (/_s$/.test(field)) return seconds(value);
    // Characters from the script's beginning tell nobody anything.
    if (table === 'calls' || table === 'prompts') return 'a place in the text';
    if (field === 'level' || field === 'opacity') return percent(value);
    if (table === 'cues' && field === 'number') return formatCueNumber(value);
    if (field === 'cueNumber') return formatCueNumber(value);
    return String(Math.round(value * 1000) / 1000);
  }
  if (typeof value === 'string') return sayText(show, field, value);
  if (Array.isArray(value)) return sayList(show, field, value);
  return sayObject(show, field, value as Record<string, unknown>);
}

function sayText(show: Named, field: string, value: string): string {
  if (field === 'circuitId') return show.circuits.get(value)?.name ?? 'one that is gone';
  if (field === 'scriptId') return show.scripts.get(value)?.title ?? 'one that is gone';
  if (field === 'kind' && value in NOTE_WORDS) return NOTE_WORDS[value as NoteKind];
  if (field === 'protocol') return PROTOCOL_NAMES[value as keyof typeof PROTOCOL_NAMES];
  if (field === 'typeId') return show.types.get(value)?.name ?? value;
  if (field === 'photo') return 'a photo';
  if (field === 'fixtureId') return `unit ${show.fixtures.get(value)?.number ?? '?'}`;
  if (field === 'palette') return nameOf(show.palettes.get(value));
  if (field === 'look') return nameOf(show.looks.get(value));
  if (field === 'listId') return show.lists.get(value)?.name ?? value;
  if (field === 'cueId' || field === 'to')
    return `cue ${show.cues.get(value) ? formatCueNumber(show.cues.get(value)?.number ?? 0) : '?'}`;
  if (field === 'data') return `${Math.round((value.length * 3) / 4 / 1024)} kB`;
  return value.length > 90 ? `“${value.slice(0, 88)}…”` : `“${value}”`;
}
const nameOf = (row: { number: number; name: string } | undefined): string =>
  row ? `${row.number} ${row.name}` : 'one that is gone';

function sayList(show: Named, field: string, value: unknown[]): string {
  if (value.length === 0) return field === 'patch' ? 'off the rig' : 'nothing';
  if (field === 'patch' || field === 'wasAt') return formatPoints(value as PatchPoint[]);
  if (field === 'fixtures') {
    const numbers = value.flatMap((id) => show.fixtures.get(String(id))?.number ?? []);
    return numbers.length === value.length ? numberRanges(numbers) : `${value.length} members`;
  }
  return `${value.length} ${field === 'actions' ? (value.length === 1 ? 'action' : 'actions') : field === 'parts' ? (value.length === 1 ? 'part' : 'parts') : value.length === 1 ? 'entry' : 'entries'}`;
}

function sayObject(show: Named, field: string, value: Record<string, unknown>): string {
  const entries = Object.entries(value);
  if (entries.length === 0) return 'nothing';
  if (field === 'link')
    return `to ${sayText(show, 'to', String(value.to))}${typeof value.times === 'number' ? `, ${value.times} times` : ''}`;
  if (field === 'holds') return sayHeld(show, String(value.kind), String(value.id));
  if (field === 'any') return sayAny(value);
  if (field === 'speed')
    return typeof value.hz === 'number' ? `${value.hz} Hz` : `${String(value.beats)} beats a cycle`;
  if (field === 'chase') return sayChase(value);
  if (field === 'spread') return saySpread(value);
  if (field === 'transforms')
    return entries.map(([k]) => attributeInfo(k).label.toLowerCase()).join(', ');
  if (field === 'effect') return nameOf(show.effects.get(String(value.id)));
  if (field === 'position' || field === 'point')
    return entries.map(([k, v]) => `${k} ${Number(v).toFixed(2)} m`).join(', ');
  if (field === 'by' || field === 'done' || (field === 'to' && 'name' in value))
    return String(value.name);
  if (field === 'lost') return String(value.text);
  if (field === 'drawing') return `${Array.isArray(value.lines) ? value.lines.length : 0} lines`;
  if (field === 'words') return `“${String(value.quote)}”`;
  if (field === 'place')
    return entries.map(([k, v]) => `${k} ${Number(v).toFixed(2)} m`).join(', ');
  if (entries.length > 4 || entries.some(([, v]) => typeof v === 'object'))
    return `${entries.length} ${entries.length === 1 ? 'entry' : 'entries'}`;
  return entries
    .map(
      ([k, v]) => `${fieldName(k)} ${sayField(show, 'cues', /_s$/.test(field) ? `${k}_s` : k, v)}`,
    )
    .join(', ');
}

const HELD = { list: 'lists', look: 'looks', group: 'groups', effect: 'effects' } as const;
function sayHeld(show: Named, kind: string, id: string): string {
  const rows =
    kind in HELD
      ? (show[HELD[kind as keyof typeof HELD]] as ReadonlyMap<
          string,
          { number: number; name: string }
        >)
      : undefined;
  return `${kind} ${nameOf(rows?.get(id))}`;
}

/** What a palette says for any unit. */
function sayAny(any: Record<string, unknown>): string {
  const { level, colour, kelvin, point } = any as {
    level?: number;
    colour?: { x: number; y: number };
    kelvin?: number;
    point?: { x: number; y: number; z: number };
  };
  return [
    level === undefined ? '' : percent(level),
    kelvin === undefined ? '' : `${kelvin} K`,
    colour === undefined ? '' : `colour x ${colour.x.toFixed(3)} y ${colour.y.toFixed(3)}`,
    point === undefined ? '' : `${point.x} ${point.y} ${point.z} m`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** How an effect is laid over a selection. */
function saySpread(spread: Record<string, unknown>): string {
  const {
    turns = 1,
    groups = 0,
    blocks = 1,
    wings = 1,
    seed,
  } = spread as { turns?: number; groups?: number; blocks?: number; wings?: number; seed?: number };
  return [
    `${turns} ${turns === 1 ? 'cycle' : 'cycles'} from first to last`,
    groups > 0 ? `repeats after ${groups}` : '',
    blocks > 1 ? `${blocks} neighbours together` : '',
    wings > 1 ? `mirrored in ${wings} parts` : '',
    seed === undefined ? '' : 'by chance',
  ]
    .filter(Boolean)
    .join(', ');
}

function sayChase(chase: Record<string, unknown>): string {
  const { on, speed, share, direction, count } = chase as {
    on?: boolean;
    speed?: { bpm?: number; step_s?: number };
    share?: number;
    direction?: string;
    count?: number;
  };
  const pace =
    speed?.bpm === undefined
      ? speed?.step_s === undefined
        ? ''
        : `${speed.step_s} s a step`
      : `${speed.bpm} steps a minute`;
  return [
    on === false ? 'off' : '',
    pace,
    direction ?? '',
    share === undefined ? '' : `${percent(share)} fade`,
    count === undefined ? '' : `${count} times`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** What a value of a cue says: `70 %, palette 12 Ferry blue`. */
export function sayValue(show: Named, value: ValueRow | null): string {
  if (!value) return 'not set here';
  if (value.level === null) return 'let go';
  const follows = [
    value.look === undefined ? '' : `look ${nameOf(show.looks.get(value.look))}`,
    value.palette === undefined ? '' : nameOf(show.palettes.get(value.palette)),
    value.effect ? `effect ${nameOf(show.effects.get(value.effect.id))}` : '',
  ].filter(Boolean);
  const times = [
    value.fade_s === undefined ? '' : `in ${seconds(value.fade_s)}`,
    value.delay_s === undefined ? '' : `after ${seconds(value.delay_s)}`,
    value.part === undefined ? '' : `part ${value.part}`,
  ].filter(Boolean);
  return [
    ...(value.palette !== undefined || value.look !== undefined ? [] : [percent(value.level)]),
    ...follows,
    ...times,
  ].join(', ');
}
