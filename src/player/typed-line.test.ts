/** A line that is typed at a remote or a script: read against what its person holds, and done step by step. */
import { isRefusal } from '../core/refusal.ts';
import { cue, idOf } from '../core/testing/example.ts';
import type { EditRequest } from '../store/commit.ts';
import { desk, mara } from './simulated-desk.ts';
import { typeLine } from './typed-line.ts';

function typing(answers: { edit?: object; reverse?: object } = {}) {
  const d = desk();
  const edits: (EditRequest & { by: string })[] = [];
  const reversed: unknown[][] = [];
  const counts = { caughtUp: 0 };
  const type = (text: string) =>
    typeLine(d.live, mara, text, {
      store: {
        edit: (_, by, request) => {
          edits.push({ ...request, by: by.name });
          return Promise.resolve((answers.edit ?? { summary: 'Done' }) as never);
        },
        reverse: (...what) => {
          reversed.push(what);
          return Promise.resolve((answers.reverse ?? { summary: 'Undone' }) as never);
        },
      },
      command: (actor, command) => Promise.resolve(d.live.whoever(command as never, actor)),
      caughtUp: () => Promise.resolve(void counts.caughtUp++),
    });
  return { d, type, edits, reversed, counts };
}

test('levels are set, and what was selected by one line is what the next is about', async () => {
  const { d, type } = typing();
  expect(await type('1 thru 3 at 40')).toMatchObject({ ok: true });
  expect(d.live.held('mara').values.map((v) => v.level)).toEqual([0.4, 0.4, 0.4]);
  expect(await type('at 70')).toMatchObject({ ok: true });
  expect(d.live.held('mara').values.map((v) => v.level)).toEqual([0.7, 0.7, 0.7]);
  expect(d.live.held('mara').selection).toHaveLength(3);
});

test('nothing and nonsense are refused, each in its words, and nothing is done', async () => {
  const { d, type, edits } = typing();
  expect(await type('')).toMatchObject({ code: 'invalid', message: 'Nothing was typed.' });
  const no = await type('1 at frog');
  expect(isRefusal(no) && no.message).toBeTruthy();
  expect(isRefusal(no) && no.fields).toEqual({ text: isRefusal(no) && no.message });
  expect([d.live.held('mara').values, edits]).toEqual([[], []]);
});

test('recording takes what is held, as the show was when the line was read; the player has it before the answer', async () => {
  const { d, type, edits, counts } = typing();
  await type('1 at 40');
  expect(await type('record cue 7')).toEqual({ ok: true, message: 'Done' });
  expect(edits).toHaveLength(1);
  expect(edits[0]).toMatchObject({
    edit: 'record-cue',
    by: 'Mara Kell',
    seen: d.live.copy.seq,
    params: { number: 7000, values: [{ attribute: 'Dimmer', level: 0.4 }] },
  });
  expect(edits[0]?.editId).toMatch(/^p[0-9a-z]{10,}$/);
  expect(counts.caughtUp).toBe(1);
  await type('record cue 8');
  expect(edits[1]?.editId).not.toBe(edits[0]?.editId);
});

test('an update takes what is held and not recorded yet', async () => {
  const { d, type, edits } = typing();
  cue(d.show, 1, { 3: 10 });
  await type('1 at 40');
  d.edit(mara, 'record-cue', {
    listId: 'main',
    number: 9000,
    values: d.live.held('mara').values.map(({ fixtureId, attribute, level }) => ({
      fixtureId,
      attribute,
      level,
    })),
  });
  await type('2 at 60');
  expect(d.live.held('mara').values.map((v) => v.recorded ?? false)).toEqual([true, false]);
  await type('update cue 9');
  expect(edits[0]?.params).toMatchObject({ values: [{ fixtureId: idOf(d.show, 2), level: 0.6 }] });
});

test('what a step refuses is the answer; undo and redo are of the one who types', async () => {
  const no = { refused: true, code: 'clash', message: 'Cue 7 is there already.' };
  const refusing = typing({ edit: no, reverse: no });
  await refusing.type('1 at 40');
  expect(await refusing.type('record cue 7')).toEqual(no);
  expect(await refusing.type('undo')).toEqual(no);
  expect(refusing.counts.caughtUp).toBe(0);
  const { d, type, reversed, counts } = typing();
  expect(await type('undo')).toEqual({ ok: true, message: 'Undone' });
  expect(await type('redo')).toMatchObject({ ok: true });
  expect(reversed.map(([show, by, which]) => [show, by, which])).toEqual([
    [d.live.id, mara, 'undo'],
    [d.live.id, mara, 'redo'],
  ]);
  expect(counts.caughtUp).toBe(2);
});
