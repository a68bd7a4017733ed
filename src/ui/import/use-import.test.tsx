/**
 * Many files at once: each is looked at once, one after the other, and again only where something about it was said.
 * @jest-environment jsdom
 */
import { act, renderHook, waitFor } from '@testing-library/react';
import { isReady, useImport, type Choices } from './use-import';

interface Asked {
  name: string;
  preview: boolean;
  query: URLSearchParams;
  answer: (body: object, status?: number) => Promise<void>;
}
/** What was asked of the server and has no answer yet; and all that ever was. */
let open: Asked[] = [];
let names: string[] = [];
beforeEach(() => {
  open = [];
  names = [];
  globalThis.fetch = jest.fn((url: string, init: RequestInit) => {
    const { searchParams: query } = new URL(url, 'http://house');
    return new Promise((resolve) => {
      const name = query.get('name') ?? '';
      names.push(name);
      open.push({
        name,
        preview: query.get('preview') === '1' && init.method === 'POST',
        query,
        answer: async (body, status = 200) => {
          open = open.filter((o) => o.name !== name);
          await act(async () => {
            resolve({ ok: status < 400, status, json: () => Promise.resolve(body) });
            await Promise.resolve();
          });
        },
      });
    });
  }) as unknown as typeof fetch;
});
const file = (name: string): File => new File(['x'], name);
const answer = (kind: string, rows = 1): object => ({
  kind,
  is: kind,
  items: [],
  itemCount: 0,
  problems: [],
  summary: '',
  rows,
});
const answerNext = async (kind: string, status = 200): Promise<void> => {
  await waitFor(() => expect(open).toHaveLength(1));
  await open[0]?.answer(
    status < 400 ? answer(kind) : { error: { code: 'invalid', message: kind } },
    status,
  );
};
const start = (files: File[], choices: Choices = {}) =>
  renderHook((c: Choices) => useImport(files, c), { initialProps: choices });

test('one after the other, each once; what is refused says why, and the others go on', async () => {
  const { result } = start([file('a'), file('b'), file('c')]);
  await answerNext('type');
  expect(open.map((o) => o.name)).toEqual(['b']);
  await answerNext('It is torn.', 400);
  await answerNext('type');
  expect(names).toEqual(['a', 'b', 'c']);
  expect(result.current.coming.map((c) => isReady(c))).toEqual([true, false, true]);
  expect(result.current.coming[1]?.refusal).toBe('It is torn.');
});

test('another choice asks anew about what it concerns, and what was not seen yet goes on', async () => {
  const { result, rerender } = start([file('a'), file('cues'), file('b'), file('c')]);
  await answerNext('type');
  await answerNext('ascii');
  await waitFor(() => expect(open.map((o) => o.name)).toEqual(['b']));
  rerender({ list: 'second' });
  // What was asked before is no answer to this.
  const [before] = open.splice(0, 1);
  await waitFor(() => expect(open.map((o) => o.name)).toEqual(['cues']));
  expect(open[0]?.query.get('list')).toBe('second');
  expect(result.current.coming[1]?.answer).toBeDefined();
  await before?.answer(answer('type'));
  expect(open.map((o) => o.name)).toEqual(['cues']);
  await answerNext('ascii');
  await answerNext('type');
  await answerNext('type');
  expect(names).toEqual(['a', 'cues', 'b', 'cues', 'b', 'c']);
  expect(result.current.coming.every(isReady)).toBe(true);
});

test('what somebody says of one file asks about that one alone; a page that goes asks no more', async () => {
  const { result, unmount } = start([file('a'), file('b')]);
  await answerNext('type');
  await answerNext('type');
  const [, b] = result.current.coming;
  if (!b) throw new Error('no file');
  act(() => result.current.choose({ ...b, kind: 'patch' }));
  await waitFor(() =>
    expect(open.map((o) => [o.name, o.query.get('kind')])).toEqual([['b', 'patch']]),
  );
  act(() => result.current.bring([file('d'), file('e')]));
  unmount();
  const asks = [...open];
  for (const o of asks) await o.answer(answer('type'));
  expect(names.filter((n) => n === 'e')).toEqual([]);
});

test('taking many in can be stopped: what is not in yet stays ready', async () => {
  const { result } = start([file('a'), file('b'), file('c')]);
  for (let i = 0; i < 3; i++) await answerNext('type');
  names = [];
  let whole: Promise<boolean> = Promise.resolve(true);
  act(() => {
    whole = result.current.take();
  });
  await answerNext('type');
  await waitFor(() => expect(open.map((o) => o.name)).toEqual(['b']));
  act(() => result.current.stopTaking());
  await answerNext('type');
  await act(async () => expect(await whole).toBe(false));
  // The third is not in; the last that was asked is the library of the house.
  expect(names.filter((n) => n !== '')).toEqual(['a', 'b']);
  expect(result.current.coming.map((c) => [c.done === true, isReady(c)])).toEqual([
    [true, false],
    [true, false],
    [false, true],
  ]);
});
