/** Lines about a list along its time: `cue 24 at 1:12.5`, `cue 24 at bar 33.2`, `track play`, `track at 0:30`. */
import { formatCueNumber } from '../cues/number.ts';
import type { CueRow } from '../cues/rows.ts';
import { formatMoment, toMillisecond } from '../time/moment.ts';
import { LONGEST_S } from '../time/rows.ts';
import { barBeatAt, readBarBeat, sayBarBeat, secondsAt } from '../time/tempo.ts';
import { numberAtMoment, timedCues } from '../time/timed.ts';
import { plural } from '../words.ts';
import type { Intent, Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';

const listIdOf = (r: Reader): string => r.list?.id ?? '';

/** `1:12.5`, `bar 33`, `mark Verse`: a moment of the list’s track. */
function moment(r: Reader, listId: string): number {
  const time = r.context.show.lists.get(listId)?.time;
  if (r.takeKey('bar')) {
    const word = r.next();
    const place = readBarBeat(word?.text ?? '');
    if (!place)
      throw new Complaint(
        'Say which bar: bar 33, or bar 33.2 for its second beat.',
        word ?? r.previous(),
      );
    const at_s = secondsAt(time?.tempo ?? [], place);
    if (at_s === undefined)
      throw new Complaint(
        time?.tempo.length
          ? `Bar ${place.bar} has no beat ${place.beat}.`
          : 'This track has no beat yet: set one in Book, Time.',
        word ?? r.previous(),
      );
    if (at_s < 0 || at_s > LONGEST_S)
      throw new Complaint(`Bar ${place.bar} is outside of the track.`, word ?? r.previous());
    return at_s;
  }
  if (r.takeKey('mark')) {
    const name = r.rest();
    const mark = time?.marks.find((m) => m.name.toLowerCase() === name.toLowerCase());
    if (!mark) throw new Complaint(`There is no mark “${name}” on this track.`, r.previous());
    return mark.at_s;
  }
  const at_s = r.seconds();
  if (at_s > LONGEST_S)
    throw new Complaint(`A track lasts at most ${LONGEST_S / 3600} hours.`, r.previous());
  return at_s;
}

/** After `insert cue at`: a new cue there, `insert cue at 1:12.5 "Bell"`. */
export function inserting(r: Reader, listId: string): Read {
  const { show } = r.context;
  const isBar = r.peek()?.key === 'bar';
  const at_s = toMillisecond(moment(r, listId));
  const name = r.rest();
  const number = numberAtMoment(show, listId, at_s);
  const keeps = isBar ? { keeps: 'beat' } : {};
  return {
    intent: {
      kind: 'edit',
      edit: 'make-cues',
      params: { listId, cues: [{ number, name, at_s, ...keeps }] },
    },
    says: `new cue ${formatCueNumber(number)}${name ? ` “${name}”` : ''}${r.ofList} at ${formatMoment(at_s)} of its track · it shows what tracks into it`,
  };
}

/** What a cue keeps to where the music moves, if it is said. */
function keepsOf(r: Reader): 'beat' | 'clock' | undefined {
  if (r.takeKey('beat')) return 'beat';
  return r.takeKey('clock') ? 'clock' : undefined;
}

/** After `cue 24 at`: several begin there one after another as they did. */
export function placing(r: Reader, rows: readonly CueRow[]): Read {
  const listId = rows[0]?.listId ?? listIdOf(r);
  const { show } = r.context;
  const called =
    rows.length === 1 ? `LX ${formatCueNumber(rows[0]?.number ?? 0)}` : plural(rows.length, 'cue');
  if (r.takeKey('none')) {
    r.end();
    return {
      intent: {
        kind: 'edit',
        edit: 'place-cues',
        params: { list: listId, at: Object.fromEntries(rows.map((c) => [c.id, null])) },
      },
      says: `${called}${r.ofList} off the track · played by hand, or by what comes before`,
    };
  }
  const isBar = r.peek()?.key === 'bar';
  const at_s = moment(r, listId);
  const keeps = keepsOf(r) ?? (isBar ? 'beat' : undefined);
  r.end();
  const first = Math.min(...rows.map((c) => c.at_s ?? Infinity));
  const at = Object.fromEntries(
    rows.map((c) => [
      c.id,
      at_s + (c.at_s === undefined || first === Infinity ? 0 : c.at_s - first),
    ]),
  );
  const place = barBeatAt(show.lists.get(listId)?.time?.tempo ?? [], at_s);
  const later = timedCues(show, listId).filter((c) => c.at_s > at_s && !rows.includes(c)).length;
  const words = [
    `${called}${r.ofList} ${rows.length === 1 ? 'moves' : 'move'} to ${formatMoment(at_s)}${place ? `, ${sayBarBeat(place)}` : ''}`,
    ...(keeps === 'beat' ? ['follows the beat'] : []),
    ...(later > 0
      ? [`${plural(later, 'later cue')} keep${later === 1 ? 's its place' : ' their places'}`]
      : []),
  ];
  return {
    intent: {
      kind: 'edit',
      edit: 'place-cues',
      params: { list: listId, at, ...(keeps === undefined ? {} : { keeps }) },
    },
    says: words.join(' · '),
  };
}

/** `track play`, `track play bar 33`, `track at 1:12`, `track pause`, `track leave`. */
export function track(r: Reader): Read {
  const listId = listIdOf(r);
  const name = r.context.show.lists.get(listId)?.name ?? '';
  const onto = { list: listId };
  const word = r.next();
  const live = (command: Extract<Intent, { kind: 'live' }>['command'], says: string): Read => {
    r.end();
    return { intent: { kind: 'live', command }, says };
  };
  switch (word?.key) {
    case 'play': {
      if (!r.peek())
        return live(
          { command: 'track', do: 'play', ...onto },
          `${name} plays along its time from where it is`,
        );
      r.takeKey('from', 'at');
      const at_s = moment(r, listId);
      return live(
        { command: 'track', do: 'play', at_s, ...onto },
        `${name} plays from ${formatMoment(at_s)} · the stage as if it had been played to there`,
      );
    }
    case 'at': {
      const at_s = moment(r, listId);
      return live(
        { command: 'track', do: 'pause', at_s, ...onto },
        `${name} stands at ${formatMoment(at_s)} · the stage as if it had been played to there`,
      );
    }
    case 'pause':
      return live({ command: 'track', do: 'pause', ...onto }, `${name} stands where it is`);
    case 'leave':
      return live({ command: 'track', do: 'leave', ...onto }, `${name} goes by hand from here on`);
    default:
      throw new Complaint(
        'Say what the track does: track play, track play 1:12, track at bar 33, track pause, track leave',
        word ?? r.previous(),
      );
  }
}
