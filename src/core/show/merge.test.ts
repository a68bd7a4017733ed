import fc from 'fast-check';
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { compareShows, takeOver } from './compare.ts';
import { sectionsOfCues } from '../script/sections.ts';
import { mergeShows, type Decisions } from './merge.ts';
import { differences, showBefore } from './past.ts';
import { slotKey } from '../cues/rows.ts';
import type { MutableShow, RowChange } from './show.ts';

const NOTHING_DECIDED: Decisions = { rules: [], choices: {} };
const rowsOf = (show: MutableShow): string[] =>
  [...show.rows()]
    .map(({ table, row }) => `${table} ${JSON.stringify(row, Object.keys(row).sort())}`)
    .sort();
const level = (
  show: MutableShow,
  cueNumber: number,
  fixture: number,
): number | null | undefined => {
  const c = show.cuesOf('main').find((x) => x.number === cueNumber * 1000);
  return c ? show.valuesOf(c.id).get(slotKey(idOf(show, fixture), 'Dimmer'))?.level : undefined;
};
const set = (show: MutableShow, cueNumber: number, fixture: number, percent: number): void => {
  const cueId = show.cuesOf('main').find((c) => c.number === cueNumber * 1000)?.id;
  apply(show, 'set-values', {
    cells: [
      { cueId, fixtureId: idOf(show, fixture), attribute: 'Dimmer', set: { level: percent / 100 } },
    ],
  });
};
function began(): { base: MutableShow; ours: MutableShow; theirs: MutableShow } {
  const base = exampleShow();
  for (const n of [1, 2, 3]) cue(base, n, { 1: 10 * n, 2: 20 }, { name: `Cue ${n}`, up_s: 3 });
  return { base, ours: base.clone(), theirs: base.clone() };
}
const merged = (
  base: MutableShow,
  ours: MutableShow,
  theirs: MutableShow,
  decisions = NOTHING_DECIDED,
): { show: MutableShow; result: ReturnType<typeof mergeShows> } => {
  const result = mergeShows(base, ours, theirs, decisions);
  const show = ours.clone();
  show.apply(result.changes);
  return { show, result };
};

describe('coming together', () => {
  test('what only one side changed comes in, per cue, fixture and attribute', () => {
    const { base, ours, theirs } = began();
    set(ours, 1, 1, 50);
    set(theirs, 1, 2, 60);
    apply(theirs, 'change-cue', { id: theirs.cuesOf('main')[1]?.id, set: { name: 'The lamp' } });
    apply(ours, 'change-cue', { id: ours.cuesOf('main')[1]?.id, set: { up_s: 7 } });
    cue(theirs, 4, { 3: 100 }, { name: 'New' });
    const { show, result } = merged(base, ours, theirs);
    expect(result.conflicts).toEqual([]);
    expect([level(show, 1, 1), level(show, 1, 2), level(show, 4, 3)]).toEqual([0.5, 0.6, 1]);
    expect(show.cuesOf('main')[1]).toMatchObject({ name: 'The lamp', up_s: 7 });
  });

  test('what both changed differently is asked, in words, and stays ours until somebody says otherwise', () => {
    const { base, ours, theirs } = began();
    set(ours, 2, 1, 50);
    set(theirs, 2, 1, 80);
    const { show, result } = merged(base, ours, theirs);
    expect(result.open).toBe(1);
    expect(result.conflicts[0]).toMatchObject({
      title: 'intensity of fixture 1 in cue 2',
      base: '20 %',
      ours: '50 %',
      theirs: '80 %',
    });
    expect(level(show, 2, 1)).toBe(0.5);
    const key = result.conflicts[0]?.key ?? '';
    const chosen = merged(base, ours, theirs, { rules: [], choices: { [key]: 'theirs' } });
    expect([chosen.result.open, level(chosen.show, 2, 1)]).toEqual([0, 0.8]);
  });

  test('the same change on both sides is no conflict', () => {
    const { base, ours, theirs } = began();
    set(ours, 2, 1, 50);
    set(theirs, 2, 1, 50);
    const { result } = merged(base, ours, theirs);
    expect([result.conflicts, result.changes]).toEqual([[], []]);
  });

  test('a palette that both updated is merged fixture by fixture', () => {
    const { base, ours, theirs } = began();
    for (const s of [base, ours, theirs])
      s.apply([
        {
          table: 'palettes',
          id: 'p',
          before: null,
          after: {
            id: 'p',
            number: 1,
            family: 'intensity',
            name: 'Glow',
            fixtures: { [idOf(s, 1)]: { Dimmer: 0.2 }, [idOf(s, 2)]: { Dimmer: 0.2 } },
            types: {},
          },
        },
      ]);
    const values = (show: MutableShow, number: number, l: number): void =>
      void apply(show, 'record-palette', {
        family: 'intensity',
        id: 'p',
        how: 'merge',
        values: [{ fixtureId: idOf(show, number), attribute: 'Dimmer', level: l }],
      });
    values(ours, 1, 0.5);
    values(theirs, 2, 0.7);
    const { show, result } = merged(base, ours, theirs);
    expect(result.open).toBe(0);
    expect(show.palettes.get('p')?.fixtures).toEqual({
      [idOf(show, 1)]: { Dimmer: 0.5 },
      [idOf(show, 2)]: { Dimmer: 0.7 },
    });
  });

  test('a cue that one deleted and the other worked on is asked about; nothing is lost silently', () => {
    const { base, ours, theirs } = began();
    const id = base.cuesOf('main')[1]?.id ?? '';
    apply(ours, 'delete-cue', { id });
    apply(theirs, 'change-cue', { id, set: { name: 'Kept' } });
    const { show, result } = merged(base, ours, theirs);
    expect(result.conflicts[0]).toMatchObject({
      title: 'cue 2',
      ours: 'deleted',
      theirs: 'changed',
    });
    expect(show.cues.has(id)).toBe(false);
    const back = merged(base, ours, theirs, { rules: [{ side: 'theirs' }], choices: {} });
    expect(back.show.cues.get(id)?.name).toBe('Kept');
  });

  test('both made a cue 4: theirs comes in beside it, and it is said', () => {
    const { base, ours, theirs } = began();
    cue(ours, 4, { 1: 40 }, { name: 'Mine' });
    cue(theirs, 4, { 1: 60 }, { name: 'Yours' });
    const { show, result } = merged(base, ours, theirs);
    expect(
      show
        .cuesOf('main')
        .map((c) => [c.number, c.name])
        .slice(3),
    ).toEqual([
      [4000, 'Mine'],
      [4100, 'Yours'],
    ]);
    expect(result.notes).toEqual(['Cue 4 “Yours” came in as 4.1: there is another cue 4.']);
  });

  test('both patched a new unit at one number and address: theirs gets the next number and comes in off the rig', () => {
    const { base, ours, theirs } = began();
    for (const [s, label] of [
      [ours, 'Mine'],
      [theirs, 'Yours'],
    ] as const)
      apply(s, 'patch-fixtures', {
        typeId: 'generic-dimmer',
        mode: '8 bit',
        quantity: 1,
        first: 50,
        universe: 1,
        address: 400,
        label,
      });
    const { show, result } = merged(base, ours, theirs);
    expect([
      show.fixtureByNumber(50)?.label,
      show.fixtureByNumber(51)?.label,
      show.fixtureByNumber(51)?.patch,
      show.fixtureByNumber(51)?.wasAt,
    ]).toEqual(['Mine', 'Yours', [], [{ universe: 1, address: 400 }]]);
    expect(result.notes).toHaveLength(2);
  });

  test('“mine for act 2” decides act two and nothing else', () => {
    const { base, ours, theirs } = began();
    const text =
      'ACT ONE\n\nSCENE 1\n\nThe bell rings.\n\nACT TWO\n\nSCENE 2\n\nThe lamp goes out.\n';
    for (const s of [base]) {
      apply(s, 'import-script', { title: 'Script', format: 'plain', text });
      const scriptId = [...s.scripts.keys()][0];
      for (const [n, word] of [
        [0, 'bell'],
        [2, 'lamp'],
      ] as const)
        apply(s, 'set-call', {
          scriptId,
          cueId: s.cuesOf('main')[n]?.id,
          from: text.indexOf(word),
          to: text.indexOf(word) + 4,
        });
    }
    const [a, b] = [base.clone(), base.clone()];
    void ours;
    void theirs;
    expect([...sectionsOfCues(base).values()].map((s) => s.act)).toEqual([
      'ACT ONE',
      'ACT ONE',
      'ACT TWO',
    ]);
    for (const n of [2, 3]) {
      set(a, n, 1, 50);
      set(b, n, 1, 80);
    }
    const { show, result } = merged(base, a, b, {
      rules: [{ side: 'theirs' }, { side: 'ours', act: 'ACT TWO' }],
      choices: {},
    });
    expect([result.open, level(show, 2, 1), level(show, 3, 1)]).toEqual([0, 0.8, 0.5]);
  });

  test('a rule for a scene decides that scene and nothing else of its act', () => {
    const base = exampleShow();
    for (const n of [1, 2, 3]) cue(base, n, { 1: 10 * n });
    const text = 'ACT ONE\n\nSCENE 1\n\nThe bell rings.\n\nSCENE 2\n\nThe lamp goes out.\n';
    apply(base, 'import-script', { title: 'Script', format: 'plain', text });
    const scriptId = [...base.scripts.keys()][0];
    for (const [n, word] of [
      [0, 'bell'],
      [2, 'lamp'],
    ] as const)
      apply(base, 'set-call', {
        scriptId,
        cueId: base.cuesOf('main')[n]?.id,
        from: text.indexOf(word),
        to: text.indexOf(word) + 4,
      });
    expect([...sectionsOfCues(base).values()].map((s) => s.scene)).toEqual([
      'SCENE 1',
      'SCENE 1',
      'SCENE 2',
    ]);
    const [a, b] = [base.clone(), base.clone()];
    for (const n of [1, 2, 3]) {
      set(a, n, 1, 50);
      set(b, n, 1, 80);
    }
    const { show, result } = merged(base, a, b, {
      rules: [{ side: 'theirs', scene: 'SCENE 2' }],
      choices: {},
    });
    expect([result.open, level(show, 1, 1), level(show, 2, 1), level(show, 3, 1)]).toEqual([
      2, 0.5, 0.5, 0.8,
    ]);
    const both = merged(base, a, b, {
      rules: [{ side: 'theirs' }, { side: 'ours', act: 'ACT ONE', scene: 'SCENE 2' }],
      choices: {},
    });
    expect([both.result.open, level(both.show, 1, 1), level(both.show, 3, 1)]).toEqual([
      0, 0.8, 0.5,
    ]);
  });

  /** One side's work: levels, names and new cues, as pairs of numbers. */
  const work = fc.array(
    fc.tuple(
      fc.integer({ min: 1, max: 3 }),
      fc.integer({ min: 1, max: 6 }),
      fc.integer({ min: 0, max: 100 }),
    ),
    { maxLength: 8 },
  );
  const doing = (show: MutableShow, edits: [number, number, number][]): void => {
    for (const [c, f, l] of edits) {
      if (level(show, c, f) !== l / 100) set(show, c, f, l);
    }
  };
  test('property: merging nobody’s work changes nothing, and merging into an untouched show gives the other’s', () => {
    fc.assert(
      fc.property(work, (edits) => {
        const { base, ours, theirs } = began();
        doing(theirs, edits);
        expect(mergeShows(base, theirs, base, NOTHING_DECIDED).changes).toEqual([]);
        expect(rowsOf(merged(base, ours, theirs).show)).toEqual(rowsOf(theirs));
      }),
      { numRuns: 40 },
    );
  });
  test('property: a conflict is a cell that both changed to something different, and every other cell is whoever’s changed it', () => {
    fc.assert(
      fc.property(work, work, (mine, yours) => {
        const { base, ours, theirs } = began();
        doing(ours, mine);
        doing(theirs, yours);
        const { show, result } = merged(base, ours, theirs, {
          rules: [{ side: 'theirs' }],
          choices: {},
        });
        for (const c of [1, 2, 3]) {
          for (const f of [1, 2, 3, 4, 5, 6]) {
            const [b, o, t] = [level(base, c, f), level(ours, c, f), level(theirs, c, f)];
            expect(level(show, c, f)).toBe(t === b ? o : t);
            const key = `values/${base.cuesOf('main')[c - 1]?.id}:${idOf(base, f)}:Dimmer`;
            expect(result.conflicts.some((x) => x.key === key)).toBe(o !== b && t !== b && o !== t);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('the show as it was', () => {
  test('property: taking back what was done gives the rows of before, and the differences lead there again', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 100 })), {
          minLength: 1,
          maxLength: 10,
        }),
        (edits) => {
          const show = exampleShow();
          cue(show, 1, { 1: 10 });
          const then = show.clone();
          const log: { rows: RowChange[] }[] = [];
          for (const [i, [f, l]] of edits.entries()) {
            // What a cue shows already is refused, and leaves nothing to take back.
            const planned = planEdit(
              show,
              'owner',
              'record-cue',
              {
                listId: 'main',
                number: 1000 + (i % 3) * 1000,
                values: [{ fixtureId: idOf(show, f), attribute: 'Dimmer', level: l / 100 }],
              },
              `edit-${i}`,
            );
            if (isRefusal(planned)) {
              expect(planned.code).toBe('nothing');
              continue;
            }
            show.apply(planned.changes);
            log.push({ rows: planned.changes });
          }
          expect(rowsOf(showBefore(show, log))).toEqual(rowsOf(then));
          const back = show.clone();
          back.apply(differences(show, then));
          expect(rowsOf(back)).toEqual(rowsOf(then));
        },
      ),
      { numRuns: 30 },
    );
  });

  test('compared in words, with units that change alike in one line, and times apart from the rest', () => {
    const { base, ours } = began();
    for (const f of [1, 2]) set(ours, 3, f, 45);
    apply(ours, 'change-cue', {
      id: ours.cuesOf('main')[0]?.id,
      set: { name: 'Harbour', up_s: 8 },
    });
    apply(ours, 'change-fixtures', { fixtures: [{ id: idOf(ours, 3), set: { label: 'Bow' } }] });
    const items = compareShows(base, ours);
    expect(
      items.map((i) => [
        i.section,
        i.title,
        i.lines.map((l) => `${l.label}: ${l.before} → ${l.after}`),
      ]),
    ).toEqual([
      ['patch', 'fixture 3 “Bow”', ['label: “FOH 3” → “Bow”']],
      ['cues', 'cue 1 “Harbour”', ['name: “Cue 1” → “Harbour”']],
      [
        'cues',
        'cue 3 “Cue 3”: what it sets',
        ['1 intensity: 30 % → 45 %', '2 intensity: not set here → 45 %'],
      ],
      ['times', 'cue 1 “Harbour”', ['up: 3 s → 8 s']],
    ]);
  });

  test('parts are taken over without the rest: a cue’s times and not its name', () => {
    const { base, ours } = began();
    apply(ours, 'change-cue', {
      id: ours.cuesOf('main')[0]?.id,
      set: { name: 'Harbour', up_s: 8 },
    });
    set(ours, 3, 1, 45);
    const id = base.cuesOf('main')[0]?.id ?? '';
    const back = ours.clone();
    back.apply(takeOver(ours, base, new Set([`cues/${id}/times`])).changes);
    expect([back.cues.get(id)?.name, back.cues.get(id)?.up_s, level(back, 3, 1)]).toEqual([
      'Harbour',
      3,
      0.45,
    ]);
  });
});
