/** What a table of cue lists knows of itself. */
import { defineTable, ref } from '../show/define-table.ts';
import { joined, numbered, percent } from '../show/plain-words.ts';
import type { ListTime } from '../time/rows.ts';
import { plural } from '../words.ts';
import { ListRow, type Chase } from './rows.ts';

const sayPace = (speed: Chase['speed']): string =>
  'bpm' in speed ? `${speed.bpm} steps a minute` : `${speed.step_s} s a step`;

const sayChase = ({ on, speed, direction, share, count }: Chase): string =>
  joined(
    on ? '' : 'off',
    sayPace(speed),
    direction,
    `${percent(share)} fade`,
    count === undefined ? '' : `${count} times`,
  );

const sayTime = ({ on, tempo, marks, sound }: ListTime): string =>
  joined(
    on ? 'goes by its times' : 'by hand',
    tempo.length > 0 ? plural(tempo.length, 'tempo') : '',
    marks.length > 0 ? plural(marks.length, 'mark') : '',
    sound ? 'with sound' : '',
  );

export const lists = defineTable({
  name: 'lists',
  one: 'list',
  row: ListRow,
  section: 'playback',
  number: {},
  refs: [ref('sounds', (l: ListRow) => [l.time?.sound?.sound])],
  about: (l) => ({ listId: l.id }),
  says: { row: (l) => numbered('list', l) },
  fields: {
    back_s: { called: 'time back' },
    release_s: { called: 'release' },
    prePosition: { called: 'early moves' },
    atEnd: { called: 'at the end' },
    keepsThroughRelease: { called: 'keeps through release' },
    chase: { say: sayChase },
    time: { say: sayTime },
  },
});
