/** What can be put on a sheet: pieces of each kind, and what the show has, each as the piece that it would be. */
import { rowsByNumber } from '@/core/show/numbered';
import { byNumber } from '@/core/select/select';
import { HELD_TABLES } from '@/core/faders/rows';
import { PLAYED_KINDS } from '@/core/palettes/rows';
import { formatCueNumber } from '@/core/cues/number';
import { firstList, type Show } from '@/core/show/show';
import type { AreaRow } from '@/core/areas/rows';
import type { PictureRow } from '@/core/plan/rows';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { PieceIs, PieceRow } from '@/core/sheets/rows';
import { sizeOfPiece } from '@/core/sheets/size';
import { boxOf } from '@/core/areas/within';
import { KIND_WORDS } from '../words';

/** Something that can be put on a sheet. */
export interface Thing {
  /** Among all things. */
  id: string;
  name: string;
  is: PieceIs;
  size: Pick<PieceRow, 'w' | 'h'>;
  /** What goes on beside it, each of the same size. */
  more?: readonly PieceIs[];
}
/** Things of one kind. */
export interface Things {
  title: string;
  things: Thing[];
}

const thing = (id: string, name: string, is: PieceIs): Thing => ({
  id,
  name,
  is,
  size: sizeOfPiece(is),
});

/** A unit as that. */
export const unitThing = (f: Pick<FixtureRow, 'id' | 'number' | 'label'>): Thing =>
  thing(`fixtures/${f.id}`, `${f.number} ${f.label}`.trim(), { kind: 'unit', fixture: f.id });
/** An area as that. */
export const areaThing = (a: Pick<AreaRow, 'id' | 'name'>): Thing =>
  thing(`areas/${a.id}`, a.name, { kind: 'area', area: a.id });
/** Several units at once, in their order. */
export const unitsThing = ([first, ...others]: readonly [FixtureRow, ...FixtureRow[]]): Thing => ({
  ...unitThing(first),
  name: `${others.length + 1} units`,
  more: others.map((f) => ({ kind: 'unit', fixture: f.id })),
});

/** Where there are none, one is added. */
export const PICTURES = 'Pictures';
/** A picture as that. */
export const pictureThing = (p: Pick<PictureRow, 'id' | 'name'>): Thing =>
  thing(`pictures/${p.id}`, p.name, { kind: 'picture', picture: p.id });

/** From cold to warm, as a run that serves as it is. */
const USUAL_STOPS = [
  { x: 0.17, y: 0.1 },
  { x: 0.31, y: 0.33 },
  { x: 0.46, y: 0.41 },
  { x: 0.6, y: 0.34 },
];
const USUAL_PAD = { left: -5, right: 5, near: 0, far: 6 } as const;

/** The part of the floor that the show's areas take, for a pad. */
function padOf(show: Show): Omit<Extract<PieceIs, { kind: 'pad' }>, 'kind'> {
  const corners = [...show.areas.values()].flatMap((a) => a.corners);
  return corners.length > 0 ? boxOf(corners) : USUAL_PAD;
}

/** Kinds that stand for no row of the show. */
function plainThings(show: Show): Thing[] {
  const kinds: PieceIs[] = [
    { kind: 'plan', turn_deg: 0, areas: true },
    { kind: 'level' },
    { kind: 'colours', stops: USUAL_STOPS },
    { kind: 'field' },
    { kind: 'pad', ...padOf(show) },
    { kind: 'time', time_s: 3 },
    { kind: 'command', text: '1 thru 8 at full' },
    { kind: 'action', action: { do: 'release-looks' } },
    { kind: 'master', as: 'upright' },
    { kind: 'release-all' },
    { kind: 'now' },
    { kind: 'script' },
    { kind: 'notes' },
    { kind: 'clock', shows: 'time' },
    { kind: 'words', text: 'Words' },
    { kind: 'frame' },
    { kind: 'line' },
  ];
  return [
    ...kinds.map((is) => thing(`kind/${is.kind}`, KIND_WORDS[is.kind], is)),
    thing('kind/blackout', 'Blackout', { kind: 'master', as: 'blackout' }),
    thing('kind/cue-clock', 'What is left of the cue', { kind: 'clock', shows: 'cue' }),
  ];
}

/** Control macros of the types in the rig, each for all units that have it. */
function macroThings(show: Show): Thing[] {
  const units = new Map<string, string[]>();
  for (const f of byNumber(show))
    for (const { name } of show.types.get(f.typeId)?.macros ?? [])
      units.set(name, [...(units.get(name) ?? []), f.id]);
  return [...units].map(([macro, fixtures]) =>
    thing(`macros/${macro}`, macro, {
      kind: 'action',
      action: { do: 'macro', macro, fixtures: fixtures.slice(0, MOST_OF_MACRO) },
    }),
  );
}
/** An action runs a macro on at most so many units. */
const MOST_OF_MACRO = 1000;

/** @param sheetId the sheet that they would go on: it does not lead to itself */
export function thingsOf(show: Show, sheetId: string): Things[] {
  const list = firstList(show);
  return [
    { title: 'Pieces', things: plainThings(show) },
    {
      title: 'Groups',
      things: rowsByNumber(show.groups).map((g) =>
        thing(`groups/${g.id}`, g.name, { kind: 'group', group: g.id }),
      ),
    },
    {
      title: 'Areas',
      things: rowsByNumber(show.areas).map(areaThing),
    },
    ...PLAYED_KINDS.map((of) => ({
      title: { palette: 'Palettes', look: 'Looks', effect: 'Effects' }[of],
      things: rowsByNumber<{ id: string; number: number; name: string }>(show[HELD_TABLES[of]]).map(
        (r) =>
          thing(`${of}/${r.id}`, r.name, {
            kind: 'tile',
            of,
            id: r.id,
            press: of === 'look' ? 'play' : 'give',
          }),
      ),
    })),
    {
      title: 'Lists',
      things: rowsByNumber(show.lists).map((l) =>
        thing(`lists/${l.id}`, `GO ${l.name}`, { kind: 'list', list: l.id, press: 'go' }),
      ),
    },
    {
      title: 'Cues',
      things: show.cuesOf(list?.id ?? '').map((c) =>
        thing(`cues/${c.id}`, `${formatCueNumber(c.number)} ${c.name}`.trim(), {
          kind: 'cue',
          cue: c.id,
        }),
      ),
    },
    {
      title: 'Faders',
      things: rowsByNumber(show.faders).map((f) =>
        thing(`faders/${f.id}`, f.name, { kind: 'fader', fader: f.id, as: 'upright' }),
      ),
    },
    { title: 'Control macros', things: macroThings(show) },
    {
      title: 'Units',
      things: byNumber(show)
        .filter((f) => f.patch.length > 0)
        .map(unitThing),
    },
    {
      title: 'Sheets',
      things: rowsByNumber(show.sheets)
        .filter((s) => s.id !== sheetId)
        .map((s) => thing(`sheets/${s.id}`, s.name, { kind: 'sheet', sheet: s.id })),
    },
    {
      title: PICTURES,
      things: [...show.pictures.values()].map(pictureThing),
    },
  ].filter((t) => t.things.length > 0 || t.title === PICTURES);
}

/** Those whose names have all of the words. */
export const searched = (things: readonly Thing[], words: string): Thing[] => {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return things.filter((t) => wanted.every((w) => t.name.toLowerCase().includes(w)));
};
