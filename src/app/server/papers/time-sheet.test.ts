/** A number on paper: everything that is on its track stands on it. */
import { apply, exampleShow } from '@/core/testing/example';
import { timeSheet } from './time-sheet';

/** Words of a page, wherever they stand. */
function wordsOf(content: unknown): string[] {
  if (typeof content === 'string') return [content];
  if (Array.isArray(content)) return content.flatMap(wordsOf);
  if (typeof content !== 'object' || content === null) return [];
  return Object.values(content).flatMap(wordsOf);
}

test('cues with their moments, bars, names, times and notes; marks; how long it is', () => {
  const show = exampleShow();
  apply(show, 'make-cues', {
    listId: 'main',
    cues: [
      { number: 1000, name: 'Out of the dark', at_s: 0 },
      { number: 2000, name: 'Steps', at_s: 16 },
      { number: 3000, name: 'Not on the track' },
    ],
  });
  const [, steps] = show.cues.values();
  apply(show, 'change-cue', { id: steps?.id, set: { up_s: 4, operatorNote: 'with the bell' } });
  apply(show, 'change-list', {
    id: 'main',
    set: {
      time: {
        on: true,
        tempo: [{ at_s: 0, bpm: 120, beats: 4 }],
        marks: [{ at_s: 8, name: 'Verse' }],
        end_s: 100,
      },
    },
  });
  const paper = timeSheet(show, 'main', undefined);
  expect(paper.about).toBe('1:40.00, 2 cues');
  const words = wordsOf(paper.content);
  // The second one is at the first beat of bar 9: sixteen seconds at two beats a second, four to a bar.
  for (const says of ['0:16.00', 'bar 9', 'Steps', 'Out of the dark', 'with the bell', '0:00.00'])
    expect([says, words.some((w) => w.includes(says))]).toEqual([says, true]);
  expect(JSON.stringify(paper.content)).toContain('Verse');
  expect(words).not.toContain('Not on the track');
  // A line of so many seconds after the other, and the table.
  expect((paper.content as unknown[]).length).toBeGreaterThan(2);
});

test('a list that has nothing on its track says so', () => {
  const words = wordsOf(timeSheet(exampleShow(), 'main', undefined).content);
  expect(words).toContain('No cue of this list stands on its track yet.');
});
