/** How cues are called where there are several lists. */
import { apply, cue, exampleShow } from '../testing/example.ts';
import { cueCalled, cueFirst, listBefore, sayNumbers } from './called.ts';

test('cues of the first list go by their number, those of others with their list', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  apply(show, 'make-list', { name: 'Lanterns' });
  const other = [...show.lists.values()].find((l) => l.name === 'Lanterns')?.id ?? '';
  expect([listBefore(show, 'main'), listBefore(show, other), listBefore(show, 'gone')]).toEqual([
    '',
    'list 2 ',
    '',
  ]);
  expect(cueCalled(show, { listId: 'main', number: 2500, name: 'Bell' })).toBe('cue 2.5 “Bell”');
  expect(cueCalled(show, { listId: other, number: 5000 })).toBe('list 2 cue 5');
  expect(cueFirst(show, { listId: other, number: 5000, name: 'Sway' })).toBe('List 2 cue 5 “Sway”');
  const many = [1, 2, 3, 4, 5, 6].map((n) => ({
    listId: n === 2 ? other : 'main',
    number: n * 1000,
  }));
  expect(sayNumbers(show, many)).toBe('1, list 2 2, 3, 4 and 2 more');
  expect([
    sayNumbers(show, many.slice(0, 2)),
    sayNumbers(show, many.slice(0, 1)),
    sayNumbers(show, []),
  ]).toEqual(['1 and list 2 2', '1', '']);
  // Recording, sources and answers say it so.
  expect(apply(show, 'record-cue', { listId: other, number: 5000, values: [] }).summary).toMatch(
    /^Recorded list 2 cue 5 /,
  );
});
