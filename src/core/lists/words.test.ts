/** What changed of a list's track is said: no change reads as nothing. */
import { apply, exampleShow } from '../testing/example.ts';
import { NO_TIME, type ListTime } from '../time/rows.ts';

const said = (before: ListTime, after: ListTime): string => {
  const show = exampleShow();
  apply(show, 'change-list', { id: 'main', set: { time: before } });
  return apply(show, 'change-list', { id: 'main', set: { time: after } }).summary;
};

test.each<[Partial<ListTime>, string]>([
  [{ on: true }, 'goes by its times'],
  [{ tempo: [{ at_s: 0.46, bpm: 112, beats: 4 }] }, '112, 4 to a bar from 0:00.46'],
  [{ marks: [{ at_s: 62.6, name: 'Chorus' }] }, 'marks Chorus 1:02.60'],
  [{ end_s: 70 }, 'ends at 1:10.00'],
  [{ atEnd: 'loop' }, 'begins again'],
  [{ timecode: { from: 'midi', offset_s: 3600 } }, 'follows MIDI time from 1:00:00.00'],
  [{ timecode: { from: 'ltc', offset_s: 0, runOn_s: 5 } }, 'runs on for 5 s'],
  [
    { gives: { to: ['midi', 'artnet'], rate: '25', offset_s: 0 } },
    'gives MIDI time and Art-Net time, 25 frames',
  ],
  [{ onGo: 'leave' }, 'a GO leaves time'],
])('%j', (set, words) => {
  const [before, after] = said(NO_TIME, { ...NO_TIME, ...set }).split(' → ');
  expect(after).toContain(words);
  expect(before).not.toContain(words);
});
