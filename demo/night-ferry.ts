/** The Night Ferry, a chamber musical of our own: the rig of Tidewater Hall, the first act's cues, and all that they are made of. */
import { aimUnit, type Turn } from '../src/core/aim/unit.ts';
import { hueSaturation, kelvin, type Chromaticity } from '../src/core/color/mix.ts';
import { colourLevels, colourParts } from '../src/core/color/unit-colour.ts';
import { parseCueNumber } from '../src/core/cues/number.ts';
import { planEdit } from '../src/core/edits/plan-edit.ts';
import { modeOf } from '../src/core/fixtures/points.ts';
import { attributesOf } from '../src/core/rig/attributes.ts';
import { reachOf } from '../src/core/palettes/resolve.ts';
import { newShowRows } from '../src/core/rig/defaults.ts';
import { isRefusal } from '../src/core/refusal.ts';
import { ACT_TWO } from './act-two.ts';
import { writeBook } from './book.ts';
import type { DemoCue, Setting } from './cue.ts';
import { layWaltz } from './waltz.ts';
import { keepSheets } from './sheets.ts';
import { buildSet, keepPictures, moreInCues } from './pictures.ts';
import type { TypeRow } from '../src/core/types/rows.ts';
import { MutableShow, type RowChange } from '../src/core/show/show.ts';
import { DEMO_TYPES as T } from './types.ts';

interface Batch {
  type: TypeRow;
  /** The first one, if not said. */
  mode?: string;
  first: number;
  quantity: number;
  label: string;
  at: [number, number];
  hang: string;
}

const RIG: Batch[] = [
  { type: T.profile, first: 1, quantity: 8, label: 'FOH #', at: [1, 1], hang: 'FOH bridge' },
  { type: T.profile, first: 9, quantity: 2, label: 'Special #', at: [1, 9], hang: 'Bar 1' },
  { type: T.fresnel, first: 11, quantity: 8, label: 'Deck #', at: [1, 11], hang: 'Bar 2' },
  { type: T.practical, first: 19, quantity: 2, label: 'Lantern #', at: [1, 19], hang: '' },
  { type: T.profile, first: 21, quantity: 3, label: 'Side R #', at: [1, 21], hang: 'Boom R' },
  { type: T.profile, first: 24, quantity: 3, label: 'Side L #', at: [1, 24], hang: 'Boom L' },
  { type: T.fresnel, first: 27, quantity: 10, label: 'Back #', at: [1, 27], hang: 'Bar 3' },
  { type: T.house, first: 98, quantity: 2, label: 'House #', at: [1, 101], hang: '' },
  { type: T.par, first: 41, quantity: 6, label: 'Front par #', at: [2, 1], hang: 'Bar 1' },
  { type: T.par, first: 47, quantity: 6, label: 'Back par #', at: [2, 25], hang: 'Bar 3' },
  {
    type: T.batten,
    mode: '4 cells',
    first: 61,
    quantity: 6,
    label: 'Cyc top #',
    at: [2, 61],
    hang: 'Bar 4',
  },
  { type: T.batten, first: 71, quantity: 3, label: 'Cyc foot #', at: [2, 141], hang: 'Floor' },
  {
    type: T.wash,
    mode: 'Full with control',
    first: 101,
    quantity: 4,
    label: 'Wash #',
    at: [3, 1],
    hang: 'Bar 2',
  },
  {
    type: T.spot,
    mode: 'Wide',
    first: 111,
    quantity: 4,
    label: 'Spot #',
    at: [3, 101],
    hang: 'Bar 1',
  },
  { type: T.five, first: 81, quantity: 4, label: 'Key #', at: [4, 1], hang: 'FOH bridge' },
  { type: T.haze, first: 91, quantity: 1, label: 'Haze SR', at: [4, 101], hang: '' },
];

/** Places that differ from an even spread: x and y in metres. */
const along = (first: number, count: number, x: number, y: number): [number, [number, number]][] =>
  Array.from({ length: count }, (_, i) => [
    first + i,
    [Math.round((-x + (2 * x * i) / (count - 1)) * 100) / 100, y],
  ]);
const PLACES: Record<number, [number, number]> = {
  ...Object.fromEntries([
    ...along(11, 8, 4.3, 3.6),
    ...along(27, 10, 4.5, 5.6),
    ...along(47, 6, 4.2, 4.75),
    ...along(81, 4, 4.6, -3.15),
  ]),
  9: [-0.6, 1.6],
  10: [0.6, 1.6],
  19: [-3.5, 2.6],
  20: [3.5, 2.6],
  41: [-4.2, 1.6],
  42: [-3.2, 1.6],
  43: [-2.2, 1.6],
  44: [2.2, 1.6],
  45: [3.2, 1.6],
  46: [4.2, 1.6],
  91: [-7.2, 8.4],
  98: [-3, -4.7],
  99: [3, -4.7],
  101: [-5.5, 3.6],
  102: [5.5, 3.6],
  103: [-5.5, 5.6],
  104: [5.5, 5.6],
  111: [-5.5, 1.6],
  112: [5.5, 1.6],
  113: [-1.6, 1.6],
  114: [1.6, 1.6],
};
/** Units that hang elsewhere than the others that were patched with them. */
const HANGS: Record<number, string> = { 103: 'Bar 3', 104: 'Bar 3' };

const GROUPS: [string, number[]][] = [
  ['FOH warm', [1, 3, 5, 7]],
  ['FOH cool', [2, 4, 6, 8]],
  ['Keys', [81, 82, 83, 84]],
  ['Deck', [11, 12, 13, 14, 15, 16, 17, 18]],
  ['Sides R', [21, 22, 23]],
  ['Sides L', [24, 25, 26]],
  ['Back', [27, 28, 29, 30, 31, 32, 33, 34, 35, 36]],
  ['Front pars', [41, 42, 43, 44, 45, 46]],
  ['Back pars', [47, 48, 49, 50, 51, 52]],
  ['Cyc top', [61, 62, 63, 64, 65, 66]],
  ['Cyc foot', [71, 72, 73]],
  ['Washes', [101, 102, 103, 104]],
  ['Spots', [111, 112, 113, 114]],
  ['Lanterns', [19, 20]],
  ['House', [98, 99]],
];

/** The show's colours, as palettes: a cue follows the palette, whatever mixes the unit's colour. */
const COLOURS: Record<string, Chromaticity> = {
  lantern: kelvin(2700),
  paper: kelvin(4200),
  moon: kelvin(8500),
  dusk: hueSaturation(262, 0.42),
  night: hueSaturation(212, 0.72),
  deep: hueSaturation(228, 0.86),
  ember: hueSaturation(22, 0.72),
  port: hueSaturation(6, 0.82),
  dawn: hueSaturation(18, 0.38),
  fog: hueSaturation(185, 0.16),
};

/** Levels in percent; a group's name or fixture numbers; only what changes. */
const CUES: DemoCue[] = [
  {
    number: '1',
    name: 'Preset',
    call: 'House open',
    up: 3,
    set: [
      ['House', 70],
      ['FOH warm', 20],
      ['Cyc top', 25, 'dusk'],
      ['Lanterns', 30],
      ['Back', 12],
      ['91', undefined],
    ],
  },
  {
    number: '2',
    name: 'House out',
    call: 'Clearance',
    up: 8,
    set: [
      ['House', 0],
      ['FOH warm', 0],
    ],
  },
  {
    number: '3',
    name: 'Quay at dusk',
    call: 'Seven',
    up: 6,
    set: [
      ['FOH warm', 62],
      ['FOH cool', 35],
      ['Sides L', 35],
      ['Sides R', 28],
      ['Back', 40],
      ['Cyc top', 55, 'dusk'],
      ['Cyc foot', 40, 'ember'],
      ['Back pars', 45, 'dusk'],
      ['Washes', 40, 'lantern', [0, 3.4]],
    ],
  },
  {
    number: '4',
    name: 'Ship’s bell',
    call: 'A bell',
    up: 2,
    down: 4,
    set: [
      ['Sides L', 50],
      ['Sides R', 20],
      ['10', 90],
      ['FOH cool', 25],
    ],
  },
  {
    number: '5',
    name: 'All aboard',
    call: 'All aboard',
    up: 5,
    down: 7,
    set: [
      ['FOH cool', 60],
      ['Washes', 75, 'lantern', [0, 2.2]],
      ['Front pars', 50, 'lantern'],
      ['10', 0],
    ],
  },
  {
    number: '6',
    name: 'Engine room',
    call: 'Cast off!',
    up: 6,
    set: [
      ['FOH warm', 18],
      ['FOH cool', 0],
      ['Sides L', 0],
      ['Sides R', 0],
      ['Back', 80],
      ['Cyc top', 10, 'port'],
      ['Cyc foot', 0],
      ['Washes', 100, 'ember', [0, 4.6]],
      ['Front pars', 30, 'port'],
      ['Back pars', 70, 'port'],
    ],
  },
  {
    number: '7',
    name: 'Pistons',
    call: 'follow',
    up: 1,
    follow: 2,
    set: [
      ['101', 60],
      ['103', 30],
      ['Spots', 45, undefined, [0, 4]],
    ],
  },
  {
    number: '8',
    name: 'Open water',
    call: 'Open',
    up: 12,
    down: 10,
    set: [
      ['Back', 25],
      ['Cyc top', 60, 'night'],
      ['Cyc foot', 35, 'deep'],
      ['Back pars', 55, 'night'],
      ['Front pars', 20, 'night'],
      ['Washes', 20, 'moon', [-1, 3]],
      ['Spots', 0],
      ['FOH warm', 40],
      ['Keys', 30, 'moon'],
    ],
  },
  {
    number: '9',
    name: 'Skerry light',
    call: 'There!',
    up: 3,
    down: 5,
    set: [
      ['FOH warm', 20],
      ['Keys', 15],
      ['Back', 10],
      ['Washes', 0],
      ['9', 100],
      ['Spots', 70, undefined, [-3, 3.4]],
    ],
  },
  {
    number: '9.5',
    name: 'Beam sweeps',
    call: 'follow',
    up: 2,
    follow: 3,
    set: [
      ['Spots', 80, undefined, [3, 3.4]],
      ['Back', 60],
    ],
  },
  {
    number: '10',
    name: 'The ledger',
    call: 'Page one',
    up: 4,
    down: 6,
    set: [
      ['FOH warm', 55],
      ['Sides L', 45],
      ['Sides R', 45],
      ['Keys', 60, 'paper'],
      ['Spots', 30, undefined, [1.2, 2.2]],
      ['9', 0],
    ],
  },
  {
    number: '11',
    name: 'Fog bank',
    call: 'Slow her',
    up: 15,
    set: [
      ['FOH cool', 40],
      ['Back', 70],
      ['Cyc top', 45, 'fog'],
      ['Cyc foot', 45, 'fog'],
      ['Back pars', 50, 'fog'],
      ['Spots', 0],
      ['Washes', 50, 'fog', [0, 5.2]],
    ],
  },
  {
    number: '12',
    name: 'Letter, read',
    call: 'Dear',
    up: 5,
    down: 8,
    set: [
      ['FOH warm', 65],
      ['10', 85],
      ['Washes', 15],
      ['Cyc top', 20],
    ],
  },
  {
    number: '12.5',
    name: 'Letter, folded',
    call: 'Yours',
    up: 4,
    set: [
      ['10', 40],
      ['Lanterns', 60],
    ],
  },
  {
    number: '13',
    name: 'The band strikes up',
    call: 'One, two',
    up: 0.5,
    set: [
      ['Front pars', 80, 'ember'],
      ['Back pars', 85, 'port'],
      ['Washes', 90, 'lantern', [0, 3.8]],
      ['Deck', 60],
    ],
  },
  {
    number: '14',
    name: 'Waltz on deck',
    call: 'Take my hand',
    up: 8,
    set: [
      ['Front pars', 55, 'dusk'],
      ['Back pars', 60, 'dusk'],
      ['Deck', 35],
      ['Cyc top', 50, 'deep'],
      ['Lanterns', 90],
    ],
  },
  {
    number: '15',
    name: 'Lamp goes out',
    call: 'Blow',
    up: 0,
    set: [
      ['Lanterns', 0],
      ['Deck', 10],
    ],
  },
  {
    number: '16',
    name: 'Man overboard',
    call: 'Look!',
    up: 0.3,
    down: 1,
    set: [
      ['FOH warm', 10],
      ['FOH cool', 90],
      ['Spots', 100, undefined, [-3.6, 1.2]],
      ['Front pars', 0],
      ['Washes', 60, 'moon'],
    ],
  },
  {
    number: '17',
    name: 'Searching',
    call: 'follow',
    up: 4,
    follow: 1.5,
    set: [
      ['Spots', 100, undefined, [3.6, 1.2]],
      ['Keys', 20, 'moon'],
    ],
  },
  {
    number: '18',
    name: 'Found',
    call: 'Here, here',
    up: 3,
    set: [
      ['Spots', 60, undefined, [0.8, 1.4]],
      ['FOH warm', 50],
      ['FOH cool', 40],
    ],
  },
  {
    number: '19',
    name: 'First grey',
    call: 'Is it day',
    up: 25,
    set: [
      ['Cyc top', 35, 'fog'],
      ['Cyc foot', 40, 'dawn'],
      ['Back pars', 40, 'moon'],
      ['Spots', 0],
    ],
  },
  {
    number: '20',
    name: 'Landfall',
    call: 'Lights!',
    up: 10,
    set: [
      ['FOH warm', 80],
      ['FOH cool', 60],
      ['Sides L', 70],
      ['Sides R', 70],
      ['Back', 50],
      ['Cyc top', 85, 'dawn'],
      ['Cyc foot', 80, 'lantern'],
      ['Back pars', 60, 'dawn'],
      ['Washes', 90, 'dawn', [0, 2.8]],
      ['Keys', 70, 'paper'],
    ],
  },
  {
    number: '21',
    name: 'Mooring',
    call: 'Make fast',
    up: 6,
    down: 8,
    set: [
      ['Washes', 45],
      ['Lanterns', 50],
      ['Back pars', 30],
    ],
  },
  {
    number: '22',
    name: 'Interval',
    call: 'Curtain',
    up: 4,
    set: [
      ['House', 80],
      ['FOH warm', 25],
      ['FOH cool', 0],
      ['Sides L', 0],
      ['Sides R', 0],
      ['Back', 15],
      ['Washes', 0],
      ['Keys', 0],
      ['Back pars', 0],
      ['Deck', 0],
      ['Cyc top', 30, 'dusk'],
      ['Cyc foot', 0],
    ],
  },
];

const UNIVERSES: [number, string][] = [
  [1, 'Dimmers'],
  [2, 'Pars and cyc'],
  [3, 'Heads'],
  [4, 'Keys'],
];

/** Circuits of the house: name, breaker, phase, and who hangs on them. */
const CIRCUITS: [string, number, 1 | 2 | 3, number[]][] = [
  ['D1', 32, 1, [1, 2, 3, 4, 5, 6, 7, 8]],
  ['D2', 32, 2, [11, 12, 13, 14, 15, 16, 17, 18]],
  ['D3', 40, 3, [27, 28, 29, 30, 31, 32, 33, 34, 35, 36]],
  ['D4', 20, 1, [9, 10, 21, 22, 23, 24, 25, 26]],
  ['D5', 10, 2, [19, 20]],
  ['H1', 20, 3, [98, 99]],
  ['L1', 16, 1, [41, 42, 43, 44, 45, 46, 47, 48, 49, 50, 51, 52]],
  ['L2', 16, 2, [61, 62, 63, 64, 65, 66, 71, 72, 73]],
  ['L3', 10, 3, [81, 82, 83, 84]],
  ['M1', 10, 1, [101, 102, 103, 104]],
  ['M2', 13, 2, [111, 112, 113, 114]],
  ['W2', 10, 3, [91]],
];

type EditFn = (name: string, params: unknown) => void;

/** What tonight's rig has beyond addresses: circuits, preheat and curves, limits, inverts, own patterns, a second lantern, a spare. */
function furnish(edit: EditFn, id: (number: number) => string, show: MutableShow): void {
  for (const [name, breaker_A, phase, numbers] of CIRCUITS) {
    edit('set-circuit', { set: { name, breaker_A, phase } });
    const circuitId = [...show.circuits.values()].find((c) => c.name === name)?.id;
    edit('change-fixtures', { fixtures: numbers.map((n) => ({ id: id(n), set: { circuitId } })) });
  }
  const set = (numbers: readonly number[], fields: Record<string, unknown>): void =>
    edit('change-fixtures', { fixtures: numbers.map((n) => ({ id: id(n), set: fields })) });
  // Long filaments are kept warm; the old fresnels answer late at the bottom.
  set([1, 2, 3, 4, 5, 6, 7, 8], { transforms: { Dimmer: { min: 0.04, curve: 's' } } });
  set([27, 28, 29, 30, 31, 32, 33, 34, 35, 36], {
    transforms: { Dimmer: { curve: [0, 0.06, 0.14, 0.25, 0.38, 0.52, 0.68, 0.84, 1] } },
  });
  set([19, 20], { transforms: { Dimmer: { max: 0.7 } } });
  // The zooms of the pair on bar 1 count the other way round; neither may look into the audience.
  set([111, 112], { transforms: { Tilt: { min: 0.08, max: 0.92 }, Zoom: { invert: true } } });
  set([113, 114], {
    wheels: {
      Gobo1: {
        '4': { name: 'Birch leaves', picture: 'pattern:leaves' },
        '6': { name: 'Fjord ripple', picture: 'pattern:waves' },
      },
    },
  });
  // The second lantern of the quay stands on the same number.
  edit('change-fixtures', {
    fixtures: [
      {
        id: id(20),
        set: {
          patch: [
            { universe: 1, address: 20 },
            { universe: 1, address: 40 },
          ],
        },
      },
    ],
  });
  // A spare head in the store: its number is kept, its address is not.
  edit('patch-fixtures', {
    typeId: T.spot.id,
    mode: 'Wide',
    quantity: 1,
    first: 115,
    label: 'Spot spare',
    off: true,
  });
}

/** Edits of the demo, one after the other: the same ids every time. */
function editing(show: MutableShow): EditFn {
  let n = 0;
  return (name, params) => {
    const planned = planEdit(show, 'owner', name, params, `nf${(n++).toString(36)}`);
    if (isRefusal(planned)) throw new Error(`${name}: ${planned.message}`);
    show.apply(planned.changes);
  };
}

/** Types and units at their addresses. */
function patchRig(edit: EditFn, show: MutableShow): void {
  show.apply(newShowRows('The Night Ferry', 'Tidewater Hall · rehearsal 3'));
  for (const b of RIG)
    edit('patch-fixtures', {
      typeId: b.type.id,
      mode: b.mode ?? b.type.modes[0]?.name,
      quantity: b.quantity,
      first: b.first,
      label: b.label,
      universe: b.at[0],
      address: b.at[1],
      hang: b.hang,
    });
}

/** The show with its rig alone, a tenth of the work: for whoever hangs there. */
export function nightFerryRig(): MutableShow {
  const show = new MutableShow();
  patchRig(editing(show), show);
  return show;
}

/** All rows of the show, made by the same edits that people use. */
export function nightFerryRows(): RowChange[] {
  const show = new MutableShow();
  const edit = editing(show);
  const id = (number: number): string => show.fixtureByNumber(number)?.id ?? '';

  patchRig(edit, show);
  edit('change-fixtures', {
    fixtures: Object.entries(PLACES).map(([number, [x, y]]) => {
      const fixture = show.fixtureByNumber(Number(number));
      const hang = HANGS[Number(number)] ?? fixture?.hang;
      return { id: fixture?.id, set: { hang, position: { x, y, z: fixture?.position.z ?? 0 } } };
    }),
  });
  for (const [number, name] of UNIVERSES) edit('name-universe', { number, name });
  // Ready for the house's own network, and off until it is there.
  for (const [number] of UNIVERSES)
    edit('set-route', {
      set: {
        universe: number,
        protocol: 'sacn',
        destination: 'multicast',
        wire: number,
        priority: 100,
        on: false,
      },
    });
  furnish(edit, id, show);
  buildSet(edit, show, id);
  const groups = new Map<string, string[]>();
  for (const [name, numbers] of GROUPS) {
    groups.set(name, numbers.map(id));
    edit('record-group', { name, fixtures: numbers.map(id) });
  }

  const palettes = new Map<string, string>();
  for (const [name, colour] of Object.entries(COLOURS)) {
    edit('record-palette', {
      family: 'colour',
      name: `${name[0]?.toUpperCase()}${name.slice(1)}`,
      any: { colour: { x: Math.round(colour.x * 1e5) / 1e5, y: Math.round(colour.y * 1e5) / 1e5 } },
    });
    palettes.set(name, [...show.palettes.values()].at(-1)?.id ?? '');
  }

  keepPictures(edit, show, id);

  /** Heads take the way with the least travel from where they are. */
  const last = new Map<string, Turn>();
  const valuesFor = ([who, level, colour, aim]: Setting): {
    fixtureId: string;
    attribute: string;
    level: number;
    palette?: string;
  }[] =>
    (groups.get(who) ?? [id(Number(who))]).flatMap((fixtureId, i, all) => {
      const fixture = show.fixtures.get(fixtureId);
      const mode = fixture ? modeOf(show, fixture) : undefined;
      const type = fixture ? show.types.get(fixture.typeId) : undefined;
      if (!mode || !type) throw new Error(`cue names “${who}”, which is not in the rig`);
      const has = new Set(attributesOf(mode));
      const values: { fixtureId: string; attribute: string; level: number; palette?: string }[] =
        [];
      const set = (attribute: string, value: number, palette?: string): void => {
        if (has.has(attribute))
          values.push({
            fixtureId,
            attribute,
            level: Math.round(value * 10000) / 10000,
            ...(palette === undefined ? {} : { palette }),
          });
      };
      if (level !== undefined) set('Dimmer', level / 100);
      if (who === '91') {
        set('Fog1', 0.35);
        set('Fan1', 0.5);
      }
      const target = colour ? COLOURS[colour] : undefined;
      if (target && colour) {
        for (const part of colourParts(type, mode))
          for (const { attribute, level: share } of colourLevels(type, part, target).levels)
            set(attribute, share, palettes.get(colour));
      }
      if (typeof aim === 'string') {
        const palette = [...show.palettes.values()].find(
          (p) => p.family === 'position' && p.name === aim,
        );
        for (const [attribute, share] of palette && fixture ? reachOf(show, palette, fixture) : [])
          set(attribute, share, palette?.id);
      } else if (aim) {
        // Several heads spread a little across the point, so that they read as several.
        const spread = (i - (all.length - 1) / 2) * 0.5;
        const to = fixture
          ? aimUnit(
              { fixture, mode, type },
              { x: aim[0] + spread, y: aim[1], z: 0 },
              last.get(fixtureId),
            )
          : undefined;
        if (to) {
          last.set(fixtureId, to);
          set('Pan', to.Pan);
          set('Tilt', to.Tilt);
        }
      }
      return values;
    });

  const all = [...CUES, ...ACT_TWO];
  for (const cue of all) {
    const number = parseCueNumber(cue.number);
    edit('record-cue', {
      listId: 'main',
      number,
      name: cue.name,
      up_s: cue.up,
      down_s: cue.down ?? cue.up,
      values: cue.set.flatMap(valuesFor),
    });
    const row = show.cuesOf('main').find((c) => c.number === number);
    edit('change-cue', { id: row?.id, set: { call: cue.call === 'follow' ? '' : cue.call } });
  }
  // “Pistons”, “Beam sweeps” and “Searching” come by themselves after the cue before them.
  for (const [i, cue] of all.entries()) {
    const before = all[i - 1];
    if (cue.follow === undefined || !before) continue;
    const row = show.cuesOf('main').find((c) => c.number === parseCueNumber(before.number));
    edit('change-cue', { id: row?.id, set: { follow_s: cue.follow } });
  }
  moreInCues(edit, show, id);
  writeBook(edit, show, id);
  layWaltz(edit, show, valuesFor);
  keepSheets(edit, show);
  return [...show.rows()].map(
    ({ table, row }) => ({ table, id: row.id, before: null, after: row }) as RowChange,
  );
}
