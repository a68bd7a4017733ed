/** Lines about cues: recorded, updated, named, timed, deleted. */
import type { CueRow } from '../cues/rows.ts';
import { formatCueNumber } from '../cues/number.ts';
import { cueAfter, cueBefore } from '../cues/tracking.ts';
import { LIMITS } from '../show/fields.ts';
import { plural } from '../words.ts';
import { placing } from './along-time.ts';
import type { Read } from './intent.ts';
import { cues, say as sayCues } from './playing.ts';
import { Complaint, type Reader } from './reader.ts';
import type { Word } from './words.ts';

/** What is said of a cue behind its number. */
interface Said {
  name?: string | undefined;
  times?: { up_s: number; down_s: number };
  mode: 'track' | 'only';
  how: 'merge' | 'over' | 'remove';
}

function saidOf(r: Reader, isUpdate: boolean): Said {
  const said: Said = { mode: 'track', how: 'merge' };
  while (!r.done) {
    if (r.peek()?.quoted) said.name = r.next()?.text;
    else if (r.takeKey('time', 'in')) said.times = r.upDown();
    else if (r.takeKey('only')) said.mode = 'only';
    else if (r.takeKey('track')) said.mode = 'track';
    else if (!isUpdate && r.takeKey('over')) said.how = 'over';
    else if (!isUpdate && r.takeKey('remove')) said.how = 'remove';
    else r.end();
  }
  return said;
}

/** The number that is said; else of the cue on stage, for an update, or of one behind the last. */
function recordedNumber(r: Reader, word: Word, listId: string): number {
  if (/^\d/.test(r.peek()?.text ?? '')) return r.cueNumber();
  if (word.key === 'update') {
    if (r.onStage) return r.onStage.number;
    throw new Complaint(`No cue${r.ofList} is on stage: say which one to update.`, word);
  }
  const last = r.context.show.cuesOf(listId).at(-1);
  return (Math.floor((last?.number ?? 0) / 1000) + 1) * 1000;
}

/** Where a new cue comes. */
function newPlace(r: Reader, listId: string, number: number): string {
  const { show } = r.context;
  if (!cueAfter(show, listId, number)) return 'new, at the end';
  const before = cueBefore(show, listId, number);
  return before ? `new, after ${formatCueNumber(before.number)}` : 'new, at the start';
}

/** `record cue 5 "Storm" time 3/5 only`, `update`, `record cue 5 remove` */
export function recording(r: Reader, word: Word): Read {
  const { show, unrecorded } = r.context;
  const { list } = r;
  if (!list) throw new Complaint('This show has no cue list.', word);
  const isUpdate = word.key === 'update';
  if (isUpdate && r.takeKey('source')) return updatingSource(r, word);
  r.takeKey('cue');
  const number = recordedNumber(r, word, list.id);
  const { name, times, mode, how } = saidOf(r, isUpdate);
  const old = show.cuesOf(list.id).find((c) => c.number === number);
  if ((isUpdate || how === 'remove') && !old)
    throw new Complaint(
      `There is no cue ${formatCueNumber(number)}${r.ofList} to ${isUpdate ? 'update' : 'take these out of'}.`,
      word,
    );
  const called = name ?? old?.name;
  const into = `cue ${formatCueNumber(number)}${called ? ` “${called}”` : ''}${r.ofList}`;
  const what =
    unrecorded === 0 ? 'nothing is held: an empty cue that tracks' : plural(unrecorded, 'value');
  const does = (): string => {
    if (!old) return newPlace(r, list.id, number);
    if (how === 'over') return 'what it sets besides goes';
    return unrecorded === 0 ? 'only its name and times change' : 'changes';
  };
  return {
    intent: {
      kind: 'record',
      listId: list.id,
      number,
      mode,
      existing: isUpdate ? 'must' : 'may',
      ...(how === 'merge' ? {} : { how }),
      ...(name === undefined ? {} : { name }),
      ...times,
    },
    says: `${how === 'remove' ? `${what} out of ${into}` : `${what} into ${into} · ${does()}`}${mode === 'only' ? ' · this cue only' : ''}`,
  };
}

/** `update source`: each value back to the cue or palette that it comes from. */
function updatingSource(r: Reader, word: Word): Read {
  const { unrecorded } = r.context;
  const on = r.onStage;
  if (!on) throw new Complaint(`No cue${r.ofList} is on stage: say which cue to update.`, word);
  r.end();
  return {
    intent: {
      kind: 'record-held',
      edit: 'update-source',
      params: { listId: on.listId, number: on.number },
    },
    says: `${plural(unrecorded, 'value')} back to where each was set: its cue${r.ofList} or its palette`,
  };
}

/** `delete cue 2.5` */
export function deleting(r: Reader, word: Word): Read {
  if (!r.takeKey('cue'))
    throw new Complaint('Say what to delete: delete cue 2.5', r.peek() ?? word);
  const cue = r.cue();
  r.end();
  return {
    intent: { kind: 'edit', edit: 'delete-cue', params: { id: cue.id } },
    says: `delete cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}${r.ofList} · what tracked from it goes into the next cue`,
  };
}

/** `name cue 2.5 Bell`, `label cue 102 thru 104 "Storm #"`. */
export function naming(r: Reader, word: Word): Read {
  const rows = cues(r);
  const name = r.rest();
  if (name === '') throw new Complaint('Here the name is missing.', r.previous());
  if (name.length > LIMITS.nameLength)
    throw new Complaint(
      `A name has at most ${LIMITS.nameLength} characters; this has ${name.length}.`,
      word,
    );
  return changingCues(r, rows, { name }, `become${rows.length === 1 ? 's' : ''} “${name}”`, ' ');
}

/** `cue 5 time 5/7`, `cue 102 thru 104 follow 3`. */
export function timing(r: Reader, word: Word): Read {
  const rows = cues(r);
  const change = (set: Record<string, unknown>, says: string) => changingCues(r, rows, set, says);
  if (r.takeKey('follow')) {
    const follow_s = r.seconds();
    return change({ follow_s }, `the next cue follows ${follow_s} s after its GO`);
  }
  if (r.takeKey('after')) {
    const after_s = r.seconds();
    return change({ after_s }, `the next cue follows ${after_s} s after it has ended`);
  }
  if (r.takeKey('wait'))
    return change({ follow_s: null, after_s: null }, 'the next cue waits for GO');
  if (r.takeKey('delay')) {
    const delay_s = r.seconds();
    return change({ delay_s }, `begins ${delay_s} s after its GO`);
  }
  if (r.takeKey('at')) return placing(r, rows);
  if (!r.takeKey('time'))
    throw new Complaint(
      'Say what to change: cue 2.5 time 5/7, delay 2, follow 3, after 1, wait, or at 1:12 on its track',
      r.peek() ?? word,
    );
  const times = r.upDown();
  return change(times, `up ${times.up_s} s, down ${times.down_s} s`);
}

/** One cue, or many at once. */
function changingCues(
  r: Reader,
  rows: readonly CueRow[],
  set: Record<string, unknown>,
  says: string,
  between = ' · ',
): Read {
  r.end();
  const [first] = rows;
  const [edit, params] =
    rows.length === 1
      ? ['change-cue', { id: first?.id, set }]
      : ['change-cues', { ids: rows.map((c) => c.id), set }];
  const called =
    rows.length === 1 && first?.name
      ? `${sayCues(rows)} “${first.name}”${r.ofList}`
      : `${sayCues(rows)}${r.ofList}`;
  return { intent: { kind: 'edit', edit, params }, says: `${called}${between}${says}` };
}
