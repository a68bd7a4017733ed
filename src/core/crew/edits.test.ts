/** Parts, pages and notes: what people give each other. */
import { likesLost } from '../notes/likes.ts';
import { planEdit } from '../edits/plan-edit.ts';
import { aboutNote } from '../notes/words.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import type { MutableShow } from '../show/show.ts';

const MARA = { userId: 'mara', name: 'Mara Kell', at: '2026-11-24T19:00:00Z' };
const IDEN = { userId: 'iden', name: 'Iden Vale', at: '2026-11-24T19:05:00Z' };
let edits = 0;
function by(
  who: typeof MARA,
  show: MutableShow,
  name: string,
  params: unknown,
  role: 'owner' | 'viewer' = 'owner',
) {
  const planned = planEdit(show, role, name, params, `c${edits++}`, who);
  if (!isRefusal(planned)) show.apply(planned.changes);
  return planned;
}
const part = (
  show: MutableShow,
  name: string,
  fixtures: number[],
  more: Record<string, unknown> = {},
) => ({
  set: {
    name,
    userId: 'mara',
    userName: 'Mara Kell',
    fixtures: fixtures.map((n) => idOf(show, n)),
    lists: [],
    ...more,
  },
});

test('a fixture and a list are in one part at most; the refusal says in whose', () => {
  const show = exampleShow();
  expect(apply(show, 'set-part', part(show, 'Front', [1, 2], { lists: ['main'] })).summary).toBe(
    'Gave part “Front”, 2 fixtures and 1 list, to Mara Kell',
  );
  expect(refused(show, 'set-part', part(show, 'Rest', [2, 3])).message).toBe(
    'Fixture 2 is in part “Front” of Mara Kell already. A fixture is in one part.',
  );
  expect(refused(show, 'set-part', part(show, 'Rest', [], { lists: ['main'] })).message).toBe(
    'List “Main list” is in part “Front” of Mara Kell already. A list is in one part.',
  );
  expect(refused(show, 'set-part', part(show, 'Rest', [])).code).toBe('invalid');
  expect(
    refused(show, 'set-part', { set: { ...part(show, 'Rest', [4]).set, fixtures: ['gone'] } }).code,
  ).toBe('not-found');
  // A part may keep what is in it when it is changed.
  const id = [...show.parts.keys()][0];
  apply(show, 'set-part', { id, ...part(show, 'Front', [2, 3]) });
  expect([...show.parts.values()].map((p) => [p.fixtures, p.lists])).toEqual([
    [[idOf(show, 2), idOf(show, 3)], []],
  ]);
  expect(apply(show, 'delete-part', { id }).summary).toBe(
    'Part “Front” is everybody’s again (was Mara Kell’s)',
  );
  expect(refused(show, 'delete-part', { id }).code).toBe('not-found');
  expect(refused(show, 'set-part', { id, ...part(show, 'Front', [2]) }).code).toBe('not-found');
});

test('what is in somebody’s part is edited by nobody else, and everything beside it is', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10, 4: 10 });
  apply(show, 'set-part', part(show, 'Front', [1]));
  const set = (n: number) => ({
    cells: [
      {
        cueId: show.cuesOf('main')[0]?.id,
        fixtureId: idOf(show, n),
        attribute: 'Dimmer',
        set: { level: 0.7 },
      },
    ],
  });
  expect(by(IDEN, show, 'set-values', set(1))).toMatchObject({
    refused: true,
    code: 'part',
    message: expect.stringContaining('Mara Kell'),
  });
  expect(isRefusal(by(IDEN, show, 'set-values', set(4)))).toBe(false);
  expect(isRefusal(by(MARA, show, 'set-values', set(1)))).toBe(false);
});

test('whose a part is, its person says, or an owner: nobody else takes it, changes it or gives it away', () => {
  const show = exampleShow();
  apply(show, 'set-part', part(show, 'Front', [1]));
  const [id] = show.parts.keys();
  const mine = {
    id,
    set: { ...part(show, 'Front', [1]).set, userId: 'iden', userName: 'Iden Vale' },
  };
  expect(planEdit(show, 'programmer', 'set-part', mine, 'p1', IDEN)).toMatchObject({
    code: 'part',
    message:
      'Part “Front” is Mara Kell’s: they give it away, or an owner does. Ask Mara Kell for it. Nothing was changed.',
  });
  expect(planEdit(show, 'programmer', 'delete-part', { id }, 'p2', IDEN)).toMatchObject({
    code: 'part',
  });
  expect(isRefusal(planEdit(show, 'owner', 'delete-part', { id }, 'p3', IDEN))).toBe(false);
  const given = planEdit(show, 'programmer', 'set-part', mine, 'p4', MARA);
  if (isRefusal(given)) throw new Error(given.message);
  show.apply(given.changes);
  // Given away, it is not theirs to give again: the second of two answers is refused.
  expect(
    planEdit(
      show,
      'programmer',
      'set-part',
      { ...mine, set: { ...mine.set, userId: 'tam', userName: 'Tam Brevik' } },
      'p5',
      MARA,
    ),
  ).toMatchObject({ code: 'part', message: expect.stringContaining('is Iden Vale’s') });
});

test('a note is left by who looks, worked off by who programs, and taken back by who left it', () => {
  const show = exampleShow();
  const cueId = cue(show, 2, { 1: 10 });
  expect(by(IDEN, show, 'add-note', { kind: 'other', text: '  ' }, 'viewer')).toMatchObject({
    code: 'invalid',
  });
  expect(by(IDEN, show, 'add-note', { kind: 'slow', cueId: 'gone' }, 'viewer')).toMatchObject({
    code: 'not-found',
  });
  expect(
    by(IDEN, show, 'add-note', { kind: 'bright', cueId, text: 'the bow' }, 'viewer'),
  ).toMatchObject({ summary: 'Left a note on cue 2: too bright, the bow' });
  const id = [...show.notes.keys()][0] ?? '';
  expect(show.notes.get(id)).toMatchObject({
    cueId,
    cueNumber: 2000,
    by: { name: 'Iden Vale', at: IDEN.at },
  });
  // An open note of somebody else is not swept away.
  expect(by(MARA, show, 'delete-note', { id })).toMatchObject({
    code: 'forbidden',
    message: expect.stringContaining('Iden Vale'),
  });
  by(MARA, show, 'finish-note', { id, done: true });
  expect(show.notes.get(id)?.done).toEqual(MARA);
  by(MARA, show, 'finish-note', { id, done: false });
  expect(show.notes.get(id)?.done).toBeUndefined();
  by(MARA, show, 'finish-note', { id, done: true });
  expect(by(MARA, show, 'delete-note', { id })).toMatchObject({
    summary: 'Deleted a note on cue 2',
  });
  expect(by(MARA, show, 'finish-note', { id, done: true })).toMatchObject({ code: 'not-found' });
  by(IDEN, show, 'add-note', { kind: 'other', text: 'Longer' }, 'viewer');
  expect(by(IDEN, show, 'delete-note', { id: [...show.notes.keys()][0] })).toMatchObject({
    summary: 'Deleted a note on the show',
  });
});

describe('notes as designers write them', () => {
  const DOT =
    'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const note = (show: MutableShow) => [...show.notes.values()][0];

  test('on a unit, a place or words, with a photo, a drawing and for whom; it says what it is about after that is gone', () => {
    const show = exampleShow();
    apply(show, 'import-script', {
      title: 'Ferry',
      format: 'plain',
      text: 'The tide turns. Cast off!',
    });
    const scriptId = [...show.scripts.keys()][0];
    const planned = by(
      IDEN,
      show,
      'add-note',
      {
        kind: 'dark',
        text: 'lift it',
        fixtureId: idOf(show, 1),
        photo: DOT,
        drawing: { picture: DOT, lines: [[0, 0, 1, 1]] },
        to: { userId: 'mara', name: 'Mara Kell' },
      },
      'viewer',
    );
    expect(planned).toMatchObject({
      summary:
        'Left a note on unit 1: too dark, lift it (with a photo, with a drawing, for Mara Kell)',
    });
    expect(note(show)).toMatchObject({ fixtureNumber: 1, to: { userId: 'mara' } });
    expect(show.photos.size).toBe(2);
    by(MARA, show, 'delete-fixtures', { ids: [idOf(show, 1)] });
    expect(aboutNote(show, note(show) as never)).toBe('unit 1');
    // Its pictures go with it, and come back with an undo of one change.
    by(IDEN, show, 'delete-note', { id: note(show)?.id }, 'viewer');
    expect(show.photos.size).toBe(0);
    expect(
      by(IDEN, show, 'add-note', { kind: 'other', text: 'here', place: { x: 1, y: 2 } }, 'viewer'),
    ).toMatchObject({ summary: 'Left a note on a place on the stage: here' });
    expect(
      by(IDEN, show, 'add-note', { kind: 'slow', words: { scriptId, from: 16, to: 25 } }, 'viewer'),
    ).toMatchObject({ summary: 'Left a note on “Cast off!”: too slow' });
  });

  test.each<[string, object, string]>([
    ['words that are not there', { words: { scriptId: 'gone', from: 0, to: 5 } }, 'not-found'],
    ['a unit that is gone', { fixtureId: 'gone' }, 'not-found'],
    ['nothing said and nothing shown', { text: '' }, 'invalid'],
    ['a photo that is no picture', { photo: 'data:text/html;base64,PGI+' }, 'invalid'],
    [
      'a photo of half a megabyte',
      { photo: `data:image/png;base64,${'A'.repeat(500_000)}` },
      'invalid',
    ],
    ['a drawing beyond the picture', { drawing: { lines: [[0, 0, 2, 2]] } }, 'invalid'],
    ['a drawing of one point', { drawing: { lines: [[0, 0]] } }, 'invalid'],
  ])('%s is refused, and nothing is kept', (_, params, code) => {
    const show = exampleShow();
    expect(
      by(IDEN, show, 'add-note', { kind: 'other', text: 'x', ...params }, 'viewer'),
    ).toMatchObject({ code });
    expect([show.notes.size, show.photos.size]).toEqual([0, 0]);
  });

  test('answers stand under it in their order, it is given to somebody, and a show keeps 200 pictures', () => {
    const show = exampleShow();
    by(IDEN, show, 'add-note', { kind: 'slow' }, 'viewer');
    const id = note(show)?.id;
    by(MARA, show, 'reply-note', { id, text: 'by how much?' });
    by(IDEN, show, 'reply-note', { id, text: ' by half ' }, 'viewer');
    expect(by(IDEN, show, 'reply-note', { id, text: '   ' }, 'viewer')).toMatchObject({
      code: 'invalid',
    });
    expect(note(show)?.replies?.map((r) => [r.by.name, r.text])).toEqual([
      ['Mara Kell', 'by how much?'],
      ['Iden Vale', 'by half'],
    ]);
    by(IDEN, show, 'give-note', { id, to: { userId: 'mara', name: 'Mara Kell' } }, 'viewer');
    expect(note(show)?.to?.name).toBe('Mara Kell');
    for (let i = 0; i < 200; i++)
      by(IDEN, show, 'add-note', { kind: 'other', photo: DOT }, 'viewer');
    expect(by(IDEN, show, 'add-note', { kind: 'other', photo: DOT }, 'viewer')).toMatchObject({
      code: 'limit',
    });
  });
});

describe('a word of liking', () => {
  const AT = { userId: 'mara', name: 'Mara Kell', at: '2026-11-24T20:00:00Z' };
  const change = (show: MutableShow, name: string, params: unknown) => {
    const planned = planEdit(show, 'owner', name, params, `l${edits++}`, MARA);
    if (isRefusal(planned)) throw new Error(planned.message);
    const lost = likesLost(show, planned.changes, AT);
    show.apply([...planned.changes, ...lost]);
    return lost;
  };
  const liked = (show: MutableShow, number: number): string => {
    const id = show.cuesOf('main').find((c) => c.number === number * 1000)?.id ?? '';
    by(IDEN, show, 'like-cue', { cueId: id, on: true }, 'viewer');
    return id;
  };

  test('is lost when the cue looks or moves differently, with what changed; not for its name or note', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 40 });
    const id = liked(show, 1);
    expect(by(IDEN, show, 'like-cue', { cueId: id, on: true }, 'viewer')).toMatchObject({
      code: 'nothing',
    });
    expect(change(show, 'change-cue', { id, set: { name: 'Dawn', note: 'x' } })).toEqual([]);
    expect(change(show, 'change-cue', { id, set: { up_s: 9 } })).toMatchObject([
      {
        after: {
          lost: { by: { name: 'Mara Kell' }, text: expect.stringMatching(/^up .* → 9 s$/) },
        },
      },
    ]);
    // Once is enough; said again, it stands again.
    expect(change(show, 'change-cue', { id, set: { up_s: 8 } })).toEqual([]);
    by(IDEN, show, 'like-cue', { cueId: id, on: true }, 'viewer');
    expect([...show.likes.values()]).toMatchObject([{ by: { name: 'Iden Vale' } }]);
    expect(
      change(show, 'set-values', {
        cells: [{ cueId: id, fixtureId: idOf(show, 1), attribute: 'Dimmer', set: { level: 0.7 } }],
      }),
    ).toMatchObject([
      { after: { lost: { text: 'intensity of fixture 1 in cue 1: 40 % → 70 %' } } },
    ]);
  });

  test('is lost by what tracks into it from another cue, and kept where that does not reach', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 40 });
    cue(show, 2, { 2: 40 });
    cue(show, 3, { 1: 90 });
    liked(show, 2);
    const three = liked(show, 3);
    const one = show.cuesOf('main')[0]?.id;
    const lost = change(show, 'set-values', {
      cells: [{ cueId: one, fixtureId: idOf(show, 1), attribute: 'Dimmer', set: { level: 0.7 } }],
    });
    expect(lost).toMatchObject([
      { after: { lost: { text: '1 value that it shows changed in cue 1' } } },
    ]);
    expect([...show.likes.values()].find((l) => l.cueId === three)?.lost).toBeUndefined();
  });

  test('goes with its cue, and is taken back by who gave it', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 40 });
    const id = liked(show, 1);
    expect(by(MARA, show, 'like-cue', { cueId: id, on: false })).toMatchObject({ code: 'nothing' });
    by(IDEN, show, 'like-cue', { cueId: id, on: false }, 'viewer');
    expect(show.likes.size).toBe(0);
    by(MARA, show, 'delete-cue', { id: liked(show, 1) });
    expect(show.likes.size).toBe(0);
  });
});
