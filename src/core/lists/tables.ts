/** What a table of cue lists knows of itself. */
import { defineTable, ref } from '../show/define-table.ts';
import { joined, numbered, percent } from '../show/plain-words.ts';
import { formatMoment } from '../time/moment.ts';
import { TIMECODE_WORDS, type ListTime } from '../time/rows.ts';
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

function sayTempo(tempo: ListTime['tempo']): string {
  const [first] = tempo;
  if (!first) return '';
  return tempo.length > 1
    ? plural(tempo.length, 'tempo')
    : `${first.bpm}, ${first.beats} to a bar from ${formatMoment(first.at_s)}`;
}

const MOST_MARKS_SAID = 6;
function sayMarks(marks: ListTime['marks']): string {
  if (marks.length === 0) return '';
  if (marks.length > MOST_MARKS_SAID) return plural(marks.length, 'mark');
  return `marks ${marks.map((m) => `${m.name} ${formatMoment(m.at_s)}`).join(', ')}`;
}

function saySound(sound: NonNullable<ListTime['sound']>): string {
  const { at_s, from_s, to_s, level_db, fadeIn_s, fadeOut_s, loop } = sound;
  return joined(
    `with sound at ${formatMoment(at_s)}`,
    from_s === undefined ? '' : `from ${formatMoment(from_s)}`,
    to_s === undefined ? '' : `to ${formatMoment(to_s)}`,
    level_db ? `${level_db} dB` : '',
    fadeIn_s ? `in ${fadeIn_s} s` : '',
    fadeOut_s ? `out ${fadeOut_s} s` : '',
    loop ? 'over and over' : '',
  );
}

/** All that may change of it, so that a change is not said as nothing. */
const sayTime = ({
  on,
  tempo,
  marks,
  sound,
  end_s,
  atEnd,
  timecode,
  gives,
  onGo,
}: ListTime): string =>
  joined(
    on ? 'goes by its times' : 'by hand',
    sayTempo(tempo),
    sayMarks(marks),
    sound ? saySound(sound) : '',
    end_s === undefined ? '' : `ends at ${formatMoment(end_s)}`,
    atEnd === 'loop' ? 'begins again' : '',
    timecode
      ? joined(
          `follows ${TIMECODE_WORDS[timecode.from]} from ${formatMoment(timecode.offset_s)}`,
          timecode.runOn_s === undefined ? '' : `runs on for ${timecode.runOn_s} s`,
        )
      : '',
    gives
      ? `gives ${gives.to.map((t) => TIMECODE_WORDS[t]).join(' and ')}, ${gives.rate} frames, from ${formatMoment(gives.offset_s)}`
      : '',
    onGo === 'leave' ? 'a GO leaves time' : '',
  );

export const lists = defineTable({
  name: 'lists',
  one: 'cue list',
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
