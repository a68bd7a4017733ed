/** Sheets: surfaces of pieces that are looked at, touched and played. */
import { z } from 'zod';
import { CueAction } from '../cues/rows.ts';
import { PLAYED_KINDS } from '../palettes/rows.ts';
import { ROLES } from '../roles.ts';
import { Level, Name, RowId, idOf, Time } from '../show/fields.ts';

/** Pieces that one sheet has at most. */
export const MOST_PIECES = 1000;
/** Steps of the grid that a sheet has each way, at least and at most. */
export const STEPS = { least: 6, most: 200 } as const;
/** A sheet as it is made: about as wide as a screen is beside the list of sheets. */
export const USUAL_STEPS = { columns: 48, rows: 34 } as const;

const Steps = z.number().int().min(STEPS.least).max(STEPS.most);

/** A sheet: a page that people lay out for a job. */
export const SheetRow = z.object({
  id: idOf('sheets'),
  number: z.number().int().min(1).max(999),
  name: Name,
  /** What it is for, in a few words. */
  about: z.string().trim().max(120, 'At most 120 characters.').optional(),
  /** Size in steps of its grid, which are as wide as they are tall. */
  columns: Steps,
  rows: Steps,
  /** Roles that it is given to as a whole (given.ts). */
  given: z.array(z.enum(ROLES)).min(1).max(ROLES.length).optional(),
});
export type SheetRow = z.infer<typeof SheetRow>;

/** What a press on a list’s piece may do. */
export const LIST_PRESSES = ['go', 'back', 'pause', 'release', 'toggle', 'round'] as const;
/** How a fader’s piece is drawn and moved. */
export const FADER_FORMS = ['upright', 'level', 'knob', 'flash'] as const;
/** Quarter turns of a plan, degrees clockwise. */
export const TURNS_DEG = [0, 90, 180, 270] as const;
/** Colours from which a colour run or field is made: CIE 1931 xy. */
const Stop = z.object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) });
export type Stop = z.infer<typeof Stop>;

/** Who a run, a field or a pad sets: a group; absent: what is selected. */
const Who = { group: idOf('groups').optional() };

/** A part of the stage floor, in metres. */
const Part = z.object({
  left: z.number().min(-500).max(500),
  right: z.number().min(-500).max(500),
  near: z.number().min(-500).max(500),
  far: z.number().min(-500).max(500),
});
export type Part = z.infer<typeof Part>;

/** What a piece is. What it points at may be gone: that is said on it, and it does nothing. */
export const PieceIs = z.discriminatedUnion('kind', [
  /** The live plan of the stage, or a layout of it. */
  z.object({
    kind: z.literal('plan'),
    layout: idOf('layouts').optional(),
    turn_deg: z.literal(TURNS_DEG).default(0),
    areas: z.boolean().default(true),
    /** A part of the stage, in metres; absent: all of it. */
    part: Part.optional(),
  }),
  /** A unit, or what one of its cells shows. */
  z.object({
    kind: z.literal('unit'),
    fixture: idOf('fixtures'),
    cell: z.number().int().min(1).max(999).optional(),
  }),
  z.object({ kind: z.literal('area'), area: idOf('areas') }),
  z.object({ kind: z.literal('group'), group: idOf('groups') }),
  /** Given to what is selected, or played by itself. */
  z.object({
    kind: z.literal('tile'),
    of: z.enum(PLAYED_KINDS),
    id: RowId,
    press: z.enum(['give', 'play']),
  }),
  z.object({ kind: z.literal('list'), list: idOf('lists'), press: z.enum(LIST_PRESSES) }),
  /** Goes to its cue; with another one, to and fro between the two. */
  z.object({ kind: z.literal('cue'), cue: idOf('cues'), other: idOf('cues').optional() }),
  z.object({ kind: z.literal('fader'), fader: idOf('faders'), as: z.enum(FADER_FORMS) }),
  /** A fader up to a level, or down again when it is there. */
  z.object({ kind: z.literal('to'), fader: idOf('faders'), level: Level, time_s: Time }),
  z.object({ kind: z.literal('master'), as: z.enum(['upright', 'level', 'blackout']) }),
  z.object({ kind: z.literal('release-all') }),
  z.object({ kind: z.literal('level'), ...Who }),
  z.object({
    kind: z.literal('colours'),
    ...Who,
    stops: z.array(Stop).min(2, 'A colour run has at least two colours.').max(12),
  }),
  z.object({ kind: z.literal('field'), ...Who }),
  /** A part of the stage floor, in metres, over which a finger aims. */
  z.object({
    kind: z.literal('pad'),
    ...Who,
    ...Part.shape,
  }),
  /** What is pressed after it takes this time. */
  z.object({ kind: z.literal('time'), time_s: Time }),
  /** What a cue does besides light, at a press. */
  z.object({ kind: z.literal('action'), action: CueAction }),
  z.object({ kind: z.literal('command'), text: z.string().trim().min(1).max(400) }),
  z.object({ kind: z.literal('clock'), shows: z.enum(['time', 'cue']) }),
  z.object({ kind: z.literal('now'), list: idOf('lists').optional() }),
  z.object({ kind: z.literal('script') }),
  z.object({ kind: z.literal('notes') }),
  z.object({ kind: z.literal('words'), text: z.string().trim().min(1).max(400) }),
  z.object({ kind: z.literal('frame') }),
  /** Along the longer side of its place. */
  z.object({ kind: z.literal('line') }),
  z.object({ kind: z.literal('picture'), picture: idOf('pictures') }),
  z.object({ kind: z.literal('sheet'), sheet: idOf('sheets') }),
]);
export type PieceIs = z.infer<typeof PieceIs>;
/** What a piece may be. */
export type PieceKind = PieceIs['kind'];

/** Colours that a piece may have, by their tokens. */
export const PIECE_COLOURS = [
  'plain',
  'amber',
  'rose',
  'violet',
  'blue',
  'teal',
  'green',
  'sand',
] as const;
/** Pictures that a piece may have. */
export const PIECE_ICONS = [
  'sun',
  'moon',
  'spot',
  'house',
  'people',
  'person',
  'music',
  'speech',
  'film',
  'cloud',
  'fire',
  'water',
  'star',
  'bell',
  'door',
  'stop',
] as const;

/** In steps of the sheet's grid from its upper left corner; a step has tenths. */
const Place = z.number().min(0).max(STEPS.most);
const Size = z.number().min(0.5, 'A piece is at least half a step.').max(STEPS.most);

/** A piece of a sheet: what it is, and where it lies. */
export const PieceRow = z.object({
  id: idOf('sheetpieces'),
  sheet: idOf('sheets'),
  x: Place,
  y: Place,
  w: Size,
  h: Size,
  /** Higher ones lie in front. */
  z: z.number().int().min(0).max(99_999),
  /** Instead of what it is called by itself. */
  label: z.string().trim().max(60, 'At most 60 characters.').optional(),
  colour: z.enum(PIECE_COLOURS).optional(),
  icon: z.enum(PIECE_ICONS).optional(),
  /** Pieces of one together are chosen and moved as one. */
  together: z.string().min(1).max(120).optional(),
  is: PieceIs,
});
export type PieceRow = z.infer<typeof PieceRow>;

/** A piece as it is put down: one that has an id is changed, one that has none is new. */
export const PutPiece = PieceRow.omit({ id: true, sheet: true }).extend({
  id: idOf('sheetpieces').optional(),
});
export type PutPiece = z.infer<typeof PutPiece>;
