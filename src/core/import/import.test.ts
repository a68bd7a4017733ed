/** Files into a show: what they are, what they would do, all or nothing. */
import { isRefusal } from '../refusal';
import { headFile, HEAD, gdtfOf } from '../gdtf/golden';
import { planEdit } from '../edits/plan-edit';
import { idsFrom } from '../edits/define-edit';
import { newShowRows } from '../rig/defaults';
import { MutableShow } from '../show/show';
import type { FixtureRow } from '../fixtures/rows';
import { proposeImport } from './import';
import { recognise } from './recognise';
import { TABLE_FILES } from './csv';
import type { ImportOptions, Proposed } from './proposed';

let show: MutableShow;
let n = 0;
function edit(name: string, params: unknown): void {
  const planned = planEdit(show, 'owner', name, params, `e${n++}`);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned.changes);
}
beforeEach(() => {
  show = new MutableShow();
  show.apply(newShowRows('Import'));
  edit('patch-fixtures', { typeId: 'generic-dimmer', mode: '16 bit', quantity: 6, first: 101 });
});
const text = (words: string): Uint8Array => new TextEncoder().encode(words);
function propose(name: string, bytes: Uint8Array, options: ImportOptions = {}): Proposed {
  const editId = `i${n++}`;
  const proposed = proposeImport({ name, bytes }, undefined, {
    show,
    role: 'owner',
    editId,
    newId: idsFrom(editId).newId,
    options,
  });
  if (isRefusal(proposed)) throw new Error(proposed.message);
  return proposed;
}
function take(name: string, bytes: Uint8Array, options: ImportOptions = {}): Proposed {
  const proposed = propose(name, bytes, options);
  show.apply(proposed.changes);
  return proposed;
}
const does = (p: Proposed): string[] => p.items.map((i) => `${i.what} ${i.name}: ${i.does}`);

describe('what a file is', () => {
  test.each([
    ['a.gdtf', headFile(), 'gdtf'],
    ['renamed.zip', headFile(), 'gdtf'],
    ['a.asc', text('IDENT 3:0\r\nCUE 1\r\nCHAN 1@FL\r\n'), 'ascii'],
    ['p.csv', text('Channel,Instrument Type,Address\n1,Dimmer,1.1\n'), 'patch'],
    ['q.csv', text('No.;Name;Type;Address\n301;Keel;Puffin;7.1\n'), 'patch'],
    ['c.csv', text('Cue,Label,Up,Down\n1,Dusk,5,5\n'), 'cues'],
    ['g.csv', text('Group,Name,Fixtures\n1,All,101-106\n'), 'groups'],
    ['l.csv', text('Number,Family,Name,Value\n1,colour,Dusk,3200 K\n'), 'palettes'],
    ['o.csv', text('Universe,Protocol,Destination\n1,sACN,multicast\n'), 'outputs'],
    ['d.csv', text('Level,Lux\n0,0\n100,500\n'), 'curve'],
    ['s.fountain', text('INT. HARBOUR - NIGHT\n'), 'script'],
    ['s.pdf', text('%PDF-1.4'), 'script'],
    ['x.bin', new Uint8Array([1, 2, 3]), undefined],
  ] as const)('%s', (name, bytes, kind) => {
    const known = recognise({ name, bytes });
    expect(isRefusal(known) ? known : known?.kind).toBe(kind);
  });

  test('an archive that was cut off says so, whatever it is called', () => {
    const cut = headFile().slice(0, -40);
    expect(() => propose('a.gdtf', cut)).toThrow(/“a.gdtf” cannot be opened.*broken/);
  });
});

describe('a maker’s file', () => {
  test('is a type of the show; the same again changes nothing', () => {
    expect(does(take('oriel.gdtf', headFile()))).toEqual(['type Quillon Oriel 300 wash: new']);
    const again = propose('oriel.gdtf', headFile());
    expect([does(again), again.changes]).toEqual([['type Quillon Oriel 300 wash: same'], []]);
  });

  test('a newer file of a type in use says what would change, and takes its place; programming stays', () => {
    take('oriel.gdtf', headFile());
    const [type] = [...show.types.values()].filter((t) => t.name.startsWith('Oriel'));
    edit('patch-fixtures', { typeId: type?.id, mode: 'Basic', quantity: 2, first: 201 });
    const newer = HEAD.replace('2026-03-02', '2026-06-09').replace(
      /<DMXChannel DMXBreak="1" Offset="8".*?<\/DMXChannel>/s,
      '',
    );
    const proposed = take('oriel-2.gdtf', gdtfOf(newer));
    expect(does(proposed)).toEqual([
      'type Quillon Oriel 300 wash: changed',
      'mode mode “Basic”: changed',
    ]);
    expect(proposed.items[1]?.says).toBe('without Colour wheel, of 201–202');
    expect(proposed.summary).toContain('2026-03-02 → 2026-06-09');
    expect([...show.fixtures.values()].filter((f) => f.typeId === type?.id)).toHaveLength(2);
  });

  test('a newer file without a mode that is in use is refused, with who uses it', () => {
    take('oriel.gdtf', headFile());
    const [type] = [...show.types.values()].filter((t) => t.name.startsWith('Oriel'));
    edit('patch-fixtures', { typeId: type?.id, mode: 'Basic', quantity: 1, first: 201 });
    expect(() =>
      propose('oriel-2.gdtf', gdtfOf(HEAD.replace('Name="Basic"', 'Name="Other"'))),
    ).toThrow(/201 uses mode “Basic”/);
  });

  test('another type of the same name keeps its own', () => {
    take('oriel.gdtf', headFile());
    const other = HEAD.replace('5c1f6f0e', '6c1f6f0e');
    expect(does(take('other.gdtf', gdtfOf(other)))).toEqual([
      'type Quillon Oriel 300 wash (2): new',
    ]);
  });
});

describe('tables', () => {
  test('groups: made, changed, members that are not there said; out and in again the same', () => {
    const proposed = take(
      'g.csv',
      text(
        'Group;Name;Fixtures\n1;Front;101 thru 104\n2;Odd;105, 101, 103, 999\nx;No;101\n3;Bad;what\n',
      ),
    );
    expect(does(proposed)).toEqual(['group 1 Front: new', 'group 2 Odd: new']);
    expect(proposed.problems.map((p) => p.where)).toEqual(['line 3', 'line 4', 'line 5']);
    const numbers = (group: number): (number | undefined)[] =>
      [...show.groups.values()]
        .find((g) => g.number === group)
        ?.fixtures.map((id) => show.fixtures.get(id)?.number) ?? [];
    expect(numbers(2)).toEqual([105, 101, 103]);
    const again = propose('g.csv', text(TABLE_FILES['groups.csv']?.(show) ?? ''));
    expect(again.items.map((i) => i.does)).toEqual(['same', 'same']);
    expect(again.changes).toEqual([]);
  });

  test('palettes: those that say something for any unit; out and in again the same', () => {
    const proposed = take(
      'p.csv',
      text(
        'Number,Family,Name,Value\n1,color,Dusk,3200 K\n2,colour,Tide,xy 0.2 0.3\n3,intensity,Half,50 %\n4,position,Quay,"1,5 at 2 0"\n5,beam,None,\n',
      ),
    );
    expect(proposed.items.map((i) => i.does)).toEqual(['new', 'new', 'new', 'new']);
    expect(proposed.problems).toHaveLength(1);
    const any = [...show.palettes.values()].map((p) => p.any);
    expect(any).toContainEqual({ kelvin: 3200 });
    expect(any).toContainEqual({ level: 0.5 });
    expect(any).toContainEqual({ point: { x: 1.5, y: 2, z: 0 } });
    expect(propose('p.csv', text(TABLE_FILES['palettes.csv']?.(show) ?? '')).changes).toEqual([]);
  });

  test('outputs: where universes go; out and in again the same', () => {
    take(
      'o.csv',
      text(
        'Universe,Protocol,Destination,Number there,Priority,On\n5,sACN,multicast,15,120,yes\n6,Art-Net,10.0.0.7,,,no\n0,sACN,,,,\n',
      ),
    );
    const routes = [...show.routes.values()].filter((r) => r.universe > 4);
    expect(routes.map(({ id, ...r }) => (void id, r))).toEqual([
      {
        universe: 5,
        protocol: 'sacn',
        destination: 'multicast',
        wire: 15,
        priority: 120,
        on: true,
      },
      {
        universe: 6,
        protocol: 'artnet',
        destination: '10.0.0.7',
        wire: 5,
        priority: 100,
        on: false,
      },
    ]);
    take('o.csv', text('Universe,Protocol,To,Card,Wire\n7,artnet,,eth1,6\n'));
    expect([...show.routes.values()].find((r) => r.universe === 7)).toMatchObject({
      destination: 'nodes',
      card: 'eth1',
    });
    expect(propose('o.csv', text(TABLE_FILES['outputs.csv']?.(show) ?? '')).changes).toEqual([]);
  });

  test('a name that a spreadsheet would run is written as words, and read back without the mark', () => {
    take('g.csv', text('Group,Name,Fixtures\n1,=1+1,101\n'));
    const written = TABLE_FILES['groups.csv']?.(show) ?? '';
    expect(written).toContain("'=1+1");
    expect(propose('g.csv', text(written)).changes).toEqual([]);
  });

  test('a patch with anything wrong brings nothing, and says every line; columns can be chosen', () => {
    const bad = propose('p.csv', text('Chan,Type,Address\n301,Puffin,7.1\n302,Dimmer,7.999\n'));
    expect([bad.changes, bad.problems.length]).toEqual([[], 2]);
    const odd = text('A,B,C\n301,Dimmer,7.1\n');
    expect(recognise({ name: 'x.csv', bytes: odd })).toBeUndefined();
    const good = take('x.csv', odd, { kind: 'patch', columns: { number: 0, type: 1, address: 2 } });
    expect(does(good)).toEqual(['fixture 301 Dimmer: new']);
  });

  test('a measured curve goes onto chosen units: light follows the level, or what is sent does', () => {
    const [first] = [...show.fixtures.values()] as [FixtureRow];
    take('lux.csv', text('Level,Lux\n0,0\n50,100\n100,400\n'), { fixtures: [first.number] });
    const curve = show.fixtures.get(first.id)?.transforms?.Dimmer?.curve as number[];
    // A quarter of the light is there at half of what is sent.
    expect([curve[0], curve[8], curve[32]]).toEqual([0, 0.5, 1]);
    take('dmx.csv', text('Level,DMX\n0,0\n50,191.25\n100,255\n'), { fixtures: [first.number] });
    expect((show.fixtures.get(first.id)?.transforms?.Dimmer?.curve as number[])[16]).toBe(0.75);
    expect(propose('dmx.csv', text('Level,DMX\n0,0\n100,255\n')).problems).toHaveLength(1);
  });
});

test('a script is a script, and its next draft where that is said', () => {
  expect(does(take('ferry.txt', text('ACT ONE\nMARA\nAll aboard.\n')))).toEqual([
    'script ferry: new',
  ]);
  const [script] = [...show.scripts.values()];
  expect(
    does(take('ferry-2.txt', text('ACT ONE\nMARA\nAll aboard now.\n'), { script: script?.id })),
  ).toEqual(['script ferry: changed']);
});

test('what Wingman does not read, and a show file, are refused in a sentence', () => {
  expect(() => propose('x.bin', new Uint8Array([1, 2, 3]))).toThrow(
    /nothing that Wingman takes into a show/,
  );
});
