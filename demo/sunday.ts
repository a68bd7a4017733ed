/** Sunday at Tidewater: the same hall as a chapel, an order of service instead of a script, and faders for a volunteer. */
import { planEdit } from '../src/core/edits/plan-edit.ts';
import { isRefusal } from '../src/core/refusal.ts';
import { newShowRows } from '../src/core/rig/defaults.ts';
import { sheetFrom } from '../src/core/sheets/templates.ts';
import { MutableShow, type RowChange } from '../src/core/show/show.ts';
import { SUNDAY_ORDER } from './script.ts';
import { DEMO_TYPES as T } from './types.ts';

/** On which item, with which name, levels of nave, chancel, lectern and house in percent, and how long. */
const CUES: [
  item: string,
  name: string,
  nave: number,
  chancel: number,
  lectern: number,
  house: number,
  up_s: number,
][] = [
  ['Bell and quiet', 'Gathering', 30, 20, 0, 60, 8],
  ['Welcome', 'Welcome', 50, 40, 70, 40, 4],
  ['Hymn: The water', 'First hymn', 70, 60, 20, 60, 6],
  ['Reading', 'Reading', 30, 30, 85, 20, 5],
  ['Thoughts', 'Thoughts', 35, 30, 80, 25, 5],
  ['Silence', 'Silence', 10, 25, 0, 5, 12],
  ['Hymn: Lamps', 'Second hymn', 75, 65, 20, 60, 6],
  ['Notices', 'Notices', 55, 35, 70, 50, 3],
  ['Blessing', 'Blessing', 40, 80, 30, 30, 8],
];

export const SUNDAY_SHEET = 'The service';

export function sundayRows(): RowChange[] {
  const show = new MutableShow();
  let n = 0;
  const edit = (name: string, params: unknown): void => {
    const planned = planEdit(show, 'owner', name, params, `su${(n++).toString(36)}`);
    if (isRefusal(planned)) throw new Error(`${name}: ${planned.message}`);
    show.apply(planned.changes);
  };
  show.apply(newShowRows('Sunday at Tidewater', 'Tidewater Hall · chapel'));
  const patch = (
    type: typeof T.par,
    first: number,
    quantity: number,
    label: string,
    at: [number, number],
    hang: string,
  ): void =>
    edit('patch-fixtures', {
      typeId: type.id,
      mode: type.modes[0]?.name,
      quantity,
      first,
      label,
      universe: at[0],
      address: at[1],
      hang,
    });
  patch(T.fresnel, 1, 8, 'Nave #', [1, 1], 'Bar 2');
  patch(T.profile, 9, 2, 'Lectern #', [1, 9], 'FOH bridge');
  patch(T.house, 98, 2, 'House #', [1, 101], '');
  patch(T.par, 41, 6, 'Chancel #', [1, 201], 'Bar 3');
  const ids = (first: number, count: number): string[] =>
    Array.from({ length: count }, (_, i) => show.fixtureByNumber(first + i)?.id ?? '');
  const groups: [string, string[]][] = [
    ['Nave', ids(1, 8)],
    ['Chancel', ids(41, 6)],
    ['Lectern', ids(9, 2)],
    ['House', ids(98, 2)],
  ];
  for (const [name, fixtures] of groups) edit('record-group', { name, fixtures });
  edit('import-script', { title: 'Order of service', format: 'order', text: SUNDAY_ORDER });
  const scriptId = [...show.scripts.keys()][0] ?? '';
  CUES.forEach(([item, name, ...rest], i) => {
    const levels = rest.slice(0, 4);
    const values = groups.flatMap(([, fixtures], g) =>
      fixtures.map((fixtureId) => ({
        fixtureId,
        attribute: 'Dimmer',
        level: (levels[g] ?? 0) / 100,
      })),
    );
    edit('record-cue', { listId: 'main', number: (i + 1) * 1000, name, up_s: rest[4], values });
    const cueId = show.cuesOf('main').at(-1)?.id;
    const from = SUNDAY_ORDER.indexOf(item);
    edit('set-call', { scriptId, cueId, from, to: from + item.length });
  });
  for (const [name] of groups) {
    const id = [...show.groups.values()].find((g) => g.name === name)?.id;
    edit('set-fader', {
      set: {
        name,
        holds: { kind: 'group', id },
        mode: name === 'House' ? 'proportional' : 'inhibiting',
        flash: 'full',
      },
    });
  }
  // What a volunteer sees on Sundays: the parts of the service as large buttons, and two faders.
  const cues = show.cuesOf('main').filter((c) => c.name !== 'Notices');
  const faders = [...show.faders.values()].filter(
    (f) => f.name === 'Lectern' || f.name === 'House',
  );
  const { set, pieces } = sheetFrom(show, 'volunteer', SUNDAY_SHEET);
  const buttons = pieces.filter((p) => p.is.kind === 'cue');
  const uprights = pieces.filter((p) => p.is.kind === 'fader');
  edit('set-sheet', {
    set,
    pieces: [
      ...pieces.filter((p) => p.is.kind === 'now'),
      ...buttons.map((p, i) => ({
        ...p,
        label: cues[i]?.name,
        is: { kind: 'cue', cue: cues[i]?.id },
      })),
      ...uprights.map((p, i) => ({
        ...p,
        is: { kind: 'fader', fader: faders[i]?.id, as: 'upright' },
      })),
    ],
  });
  return [...show.rows()].map(
    ({ table, row }) => ({ table, id: row.id, before: null, after: row }) as RowChange,
  );
}
