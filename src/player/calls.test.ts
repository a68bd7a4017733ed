import { apply, cue, exampleShow } from '../core/testing/example.ts';
import { promptsAhead } from '../core/script/prompts.ts';
import type { MutableShow } from '../core/show/show.ts';
import { Calls } from './calls.ts';
import { desk, iden, mara, tam } from './simulated-desk.ts';

const TEXT =
  'ACT ONE\n\nMARA\nThe tide turns. Cast off! The bell rings, and fog comes over the quay.\n';
function ready(): {
  show: MutableShow;
  d: ReturnType<typeof desk>;
  sound: string;
  bell: string;
  fog: string;
} {
  const show = exampleShow();
  for (const n of [1, 2, 3]) cue(show, n, { 1: 10 * n });
  apply(show, 'import-script', { title: 'Ferry', format: 'plain', text: TEXT });
  apply(show, 'set-department', { set: { name: 'Sound' } });
  const [script] = show.scripts.values();
  const [department] = show.departments.values();
  const put = (words: string, label: string): string => {
    const from = TEXT.indexOf(words);
    apply(show, 'set-prompt', {
      set: {
        scriptId: script?.id,
        department: department?.id,
        label,
        from,
        to: from + words.length,
      },
    });
    return [...show.prompts.values()].find((p) => p.label === label)?.id ?? '';
  };
  const [bell, fog] = [put('The bell', 'Q 7, bell'), put('fog', 'Q 8, foghorn')];
  const d = desk(show);
  for (const p of [mara, tam, iden]) d.here.add(p.userId);
  d.say(mara, { command: 'go' });
  return { show, d, sound: department?.id ?? '', bell, fog };
}
const states = (d: ReturnType<typeof desk>) =>
  d.live.playback().calls.map((c) => [c.words, c.state, c.answeredBy]);
const said = (d: ReturnType<typeof desk>) =>
  d.noted.filter((n) => n.kind === 'call').map((n) => n.text);

test('stand by, an answer from who is on the board, go, and a GO that knows how late it was', () => {
  const { d } = ready();
  expect(d.say(iden, { command: 'call', do: 'standby' })).toMatchObject({
    ok: true,
    message: 'Stand by LX 2',
  });
  expect(d.say(iden, { command: 'call', do: 'standby' })).toMatchObject({
    code: 'nothing',
    message: 'LX 2 stands by already.',
  });
  const id = d.live.playback().calls[0]?.id ?? '';
  expect(d.say(tam, { command: 'answer-call', call: id })).toMatchObject({
    code: 'board',
    message: 'Mara Kell is on the board, and answers for light.',
  });
  expect(d.say(iden, { command: 'answer-call', call: id })).toMatchObject({ code: 'forbidden' });
  d.pass(2);
  expect(d.say(mara, { command: 'answer-call', call: id })).toMatchObject({ ok: true });
  expect(d.noted.at(-1)).toMatchObject({
    text: 'LX 2 stands by',
    data: { after_ms: expect.closeTo(2000, -2), calledBy: 'Iden Vale' },
  });
  // Two who answer at once: the second is told.
  expect(d.say(mara, { command: 'answer-call', call: id })).toMatchObject({
    code: 'nothing',
    message: 'Mara Kell has answered already.',
  });
  expect(states(d)).toEqual([['LX 2', 'ready', 'Mara Kell']]);
  d.pass(1);
  expect(d.say(iden, { command: 'call', do: 'go' })).toMatchObject({ message: 'Called cue 2' });
  expect(states(d)).toEqual([['LX 2', 'go', 'Mara Kell']]);
  expect(d.noted.at(-1)?.data).toMatchObject({
    answered: true,
    standby_ms: expect.closeTo(3000, -2),
    from: 'a screen',
  });
  d.pass(0.5);
  d.say(mara, { command: 'go' });
  expect(states(d)).toEqual([]);
  expect(d.noted.filter((n) => n.kind === 'go').at(-1)?.data).toMatchObject({
    calledBy: 'Iden Vale',
    late_ms: expect.closeTo(500, -2),
  });
  expect(said(d)).toEqual(['Stand by LX 2', 'LX 2 stands by', 'Called LX 2']);
});

test('a GO that comes before its call says so; what was withdrawn is gone', () => {
  const { d } = ready();
  d.say(iden, { command: 'call', do: 'standby' });
  d.pass(1);
  d.say(mara, { command: 'go' });
  d.pass(1);
  expect(d.noted.filter((n) => n.kind === 'go').at(-1)).toMatchObject({
    text: 'GO: cue 2, before it was called',
    data: { late_ms: null, calledBy: 'Iden Vale' },
  });
  d.say(iden, { command: 'call', do: 'standby' });
  expect(d.say(iden, { command: 'call', do: 'withdraw' })).toMatchObject({
    ok: true,
    message: 'Withdrew LX 3',
  });
  expect(d.say(iden, { command: 'call', do: 'withdraw' })).toMatchObject({ code: 'nothing' });
  expect(states(d)).toEqual([]);
  // A call plays nothing.
  expect(d.list()?.cueNumber).toBe(2000);
});

test('departments are called beside light, answer for themselves, and play nothing', () => {
  const { d, sound, bell } = ready();
  d.say(iden, { command: 'call', do: 'standby' });
  d.say(iden, { command: 'call', do: 'standby', department: sound, prompt: bell });
  expect(states(d)).toEqual([
    ['LX 2', 'standby', null],
    ['Sound, Q 7, bell', 'standby', null],
  ]);
  const id = d.live.playback().calls[1]?.id ?? '';
  d.say(tam, { command: 'answer-call', call: id });
  expect(d.say(iden, { command: 'call', do: 'go', department: sound, prompt: bell })).toMatchObject(
    { message: 'Called Sound, Q 7, bell' },
  );
  expect(d.live.playback().passed).toEqual({ [sound]: bell });
  const due = d.live.playback().calls.find((c) => c.department === sound);
  d.say(tam, { command: 'answer-call', call: due?.id ?? '' });
  expect(states(d)).toEqual([['LX 2', 'standby', null]]);
  expect(said(d).at(-1)).toBe('Sound, Q 7, bell: done');
  d.say(iden, { command: 'call', do: 'standby', department: sound, words: 'spare bell' });
  expect(states(d).at(-1)?.[0]).toBe('Sound, spare bell');
  expect(d.say(iden, { command: 'call', do: 'go', department: 'gone' })).toMatchObject({
    code: 'not-found',
  });
  // The department is taken away: so is its call.
  d.edit(mara, 'delete-department', { id: sound });
  d.live.together.look();
  expect(states(d)).toEqual([['LX 2', 'standby', null]]);
});

test('what comes of a department is after where the show is and after what it was given; back in the show, all of it again', () => {
  const { show, d, sound, bell, fog } = ready();
  const [script] = show.scripts.values();
  const ahead = (here: number) =>
    promptsAhead(show, script?.id ?? '', here, d.live.playback().passed).map((p) => p.id);
  expect(ahead(-1)).toEqual([bell, fog]);
  d.say(iden, { command: 'call', do: 'go', department: sound, prompt: bell });
  expect(ahead(-1)).toEqual([fog]);
  expect(ahead(TEXT.indexOf('fog'))).toEqual([]);
  d.say(mara, { command: 'goto', cue: '1', time: 0 });
  expect(ahead(-1)).toEqual([bell, fog]);
});

test('in a later draft the calls of departments stand on their words', () => {
  const { show, bell } = ready();
  const [script] = show.scripts.values();
  const later = TEXT.replace('Cast off!', 'Cast off, all of you, before the watch is out!');
  apply(show, 'import-script', { id: script?.id, title: 'Ferry', format: 'plain', text: later });
  const prompt = show.prompts.get(bell);
  expect(later.slice(prompt?.from, prompt?.to)).toBe('The bell');
  expect(prompt?.check).toBeUndefined();
});

test('forty calls stand at once, and one more is refused', () => {
  const { d, sound } = ready();
  const standby = (i: number) =>
    d.say(iden, { command: 'call', do: 'standby', department: sound, words: `extra ${i}` });
  for (let i = 1; i <= 40; i++) expect(standby(i)).toMatchObject({ ok: true });
  expect(standby(41)).toMatchObject({ code: 'limit' });
  expect(d.live.playback().calls).toHaveLength(40);
});

describe('how long calls last', () => {
  function watched() {
    const show = exampleShow();
    for (const n of [1, 2]) cue(show, n, { 1: 10 * n });
    apply(show, 'set-department', { set: { name: 'Sound' } });
    const [sound = ''] = show.departments.keys();
    const at = { ms: 1_000_000, changes: 0 };
    const first = [...show.cues.values()][0];
    const calls = new Calls({
      show,
      now_ms: () => at.ms,
      changed: () => void at.changes++,
      journal: () => undefined,
      next: () => first?.id,
      board: () => undefined,
    });
    const now = () => calls.states().calls.map((c) => [c.words, c.state, c.since_s]);
    return { show, sound, at, calls, now, list: first?.listId ?? '', cueId: first?.id ?? '' };
  }
  const LIGHT = { command: 'call', do: 'standby' } as const;

  test.each([
    ['what stands by', 'standby', false, 20 * 60],
    ['a go of light', 'go', false, 60],
    ['a go of a department', 'go', true, 30],
  ] as const)('%s, and how long ago it was', (_, does, isDepartment, lasts_s) => {
    const w = watched();
    const of = isDepartment ? { department: w.sound } : {};
    w.calls.call(iden, { command: 'call', do: does, ...of });
    expect([w.now()[0]?.[2], w.at.changes]).toEqual([0, 1]);
    w.at.ms += 1500;
    expect(w.now()[0]?.[2]).toBe(1.5);
    w.at.ms += lasts_s * 1000 - 1500;
    expect([w.now().length, w.calls.look()]).toEqual([1, false]);
    w.at.ms += 1;
    expect([w.now().length, w.calls.look(), w.calls.look()]).toEqual([0, true, false]);
  });

  test('a clock that is put back makes none of the future', () => {
    const w = watched();
    w.calls.call(iden, LIGHT);
    w.at.ms -= 5000;
    expect(w.now()[0]?.[2]).toBe(0);
  });

  test('a GO far too late is to no call', () => {
    const w = watched();
    w.calls.call(iden, { ...LIGHT, do: 'go' });
    w.at.ms += 60_001;
    expect(w.calls.went('GO', w.list, w.cueId)).toBeUndefined();
  });

  test('it is told only where something is over by it; another list’s cue, and a jump, end no call of this one', () => {
    const w = watched();
    w.calls.call(iden, { ...LIGHT, do: 'go' });
    const before = w.at.changes;
    expect(w.calls.went('GO', 'another', w.cueId)).toBeUndefined();
    expect([w.at.changes, w.now().length]).toEqual([before, 1]);
    w.at.ms += 250;
    expect(w.calls.went('GO', w.list, w.cueId)).toEqual({ by: 'Iden Vale', late_ms: 250 });
    expect([w.at.changes, w.now().length]).toEqual([before + 1, 0]);
    w.calls.went('GO', w.list, w.cueId);
    expect(w.at.changes).toBe(before + 1);
  });

  test('what it was for is gone: it is over', () => {
    const w = watched();
    w.calls.call(iden, LIGHT);
    w.calls.call(iden, { ...LIGHT, department: w.sound });
    apply(w.show, 'delete-department', { id: w.sound });
    expect([w.calls.look(), w.now().map(([words]) => words)]).toEqual([true, ['LX 1']]);
    apply(w.show, 'delete-cue', { id: w.cueId });
    expect([w.calls.look(), w.now()]).toEqual([true, []]);
  });

  test('called and answered: said again, it says so; a department that had its go says when it is done', () => {
    const w = watched();
    w.calls.call(iden, { ...LIGHT, do: 'go' });
    expect(w.calls.call(iden, LIGHT)).toMatchObject({ message: 'LX 1 is called already.' });
    const [light] = w.calls.states().calls;
    expect(w.calls.answer(tam, light?.id ?? '')).toMatchObject({
      message: 'LX 1 is called: GO.',
    });
    w.calls.call(iden, { ...LIGHT, do: 'go', department: w.sound });
    const [, sound] = w.calls.states().calls;
    expect(w.calls.answer(iden, sound?.id ?? '')).toMatchObject({ message: 'Sound is done' });
    expect(w.calls.answer(iden, sound?.id ?? '')).toMatchObject({ code: 'nothing' });
    expect(w.now().map(([words]) => words)).toEqual(['LX 1']);
  });
});
