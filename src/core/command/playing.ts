/** Lines that play, and lines about cues: `fader 3 at 60 time 5`, `list 2 go`, `release all`, `move cue 5 thru 8 after 12`. */
import { formatCueNumber, numbersBetween } from '../cues/number.ts';
import { plural } from '../words.ts';
import { FADER_HOLDS, HELD_TABLES } from '../faders/rows.ts';
import { DIRECTIONS } from '../lists/rows.ts';
import { firstList } from '../show/show.ts';
import { takesSelection } from '../palettes/resolve.ts';
import { PLAYED_KINDS } from '../palettes/rows.ts';
import type { CueRow } from '../cues/rows.ts';
import { inserting } from './along-time.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader, THRU } from './reader.ts';
import { live } from './said.ts';
import { percentage } from './setting.ts';
import type { Word } from './words.ts';

type Direction = (typeof DIRECTIONS)[number];

const inTime = (time: number | undefined): string => (time === undefined ? '' : ` in ${time} s`);

/** `fader 3 at 60 time 5`. `sub` says the same. */
function fader(r: Reader): Read {
  const number = r.whole('a fader number');
  if (r.takeKey('holds')) return fills(r, number);
  const row = [...r.context.show.faders.values()].find((f) => f.number === number);
  if (!row) throw new Complaint(`There is no fader ${number}.`, r.previous());
  r.takeKey('at', '@');
  const to = percentage(r);
  const time = r.takeKey('time', 'in') ? r.seconds() : undefined;
  return live(
    r,
    {
      command: 'fader',
      fader: number,
      level: to.level,
      take: true,
      ...(time === undefined ? {} : { time }),
    },
    `fader ${number} “${row.name}” to ${to.says}${inTime(time)} · playback only, nothing is recorded`,
  );
}

/** `fader 5 holds look 3`: in place of what it held, or as a new one. `fader 5 holds effect 9 speed` paces it. */
function fills(r: Reader, number: number): Read {
  const kind = FADER_HOLDS.find((k) => r.takeKey(k));
  if (!kind)
    throw new Complaint(
      'A fader holds a list, a look, a palette, a group or an effect.',
      r.previous(),
    );
  const wanted = r.whole(`the number of the ${kind}`);
  const row = [...r.context.show[HELD_TABLES[kind]].values()].find((x) => x.number === wanted);
  if (!row) throw new Complaint(`There is no ${kind} ${wanted}.`, r.previous());
  const paces = r.takeKey('speed') !== undefined;
  r.end();
  const old = [...r.context.show.faders.values()].find((f) => f.number === number);
  return {
    intent: {
      kind: 'edit',
      edit: 'put-on-fader',
      params: {
        number,
        holds: { kind, id: row.id },
        ...(paces ? { mode: 'rate' } : {}),
      },
    },
    says: `fader ${number} holds ${kind} ${wanted} “${row.name}”${paces ? ', for its speed' : ''}${old ? `, in place of “${old.name}”` : ''}`,
  };
}

/** `release`, `release list 2`, `release all time 3`. */
function release(r: Reader): Read {
  const all = r.takeKey('all', 'everything') !== undefined;
  if (!all) r.takeList();
  const { list } = r;
  const time = r.takeKey('time', 'in') ? r.seconds() : undefined;
  const timed = time === undefined ? {} : { time };
  if (all)
    return live(
      r,
      { command: 'release-all', ...timed },
      `release every list and fader that does not keep${inTime(time)}`,
    );
  if (!list) throw new Complaint('This show has no cue list.', r.previous());
  return live(
    r,
    { command: 'release', list: list.id, ...timed },
    `release list ${list.number} “${list.name}”${inTime(time)}`,
  );
}

/** Says what `play` wants, and stops reading. */
export const nothingToPlay = (r: Reader): never => {
  throw new Complaint(
    'Say what plays: play palette 3, play look 4 time 5, play effect 2',
    r.peek(),
  );
};

/**
 * `play palette 3 time 2`, `release look 4`: by itself, on its own units; what has none, on the selection.
 * @param units named in the line before it @returns undefined when no thing is named
 */
export function playedThing(r: Reader, on: boolean, units?: readonly string[]): Read | undefined {
  const kind = PLAYED_KINDS.find((k) => r.takeKey(k));
  if (!kind) return undefined;
  const { show, selection } = r.context;
  const wanted = r.whole(`the number of the ${kind}`);
  const row = [...show[HELD_TABLES[kind]].values()].find((x) => x.number === wanted);
  if (!row) throw new Complaint(`There is no ${kind} ${wanted}.`, r.previous());
  const time = r.takeKey('time', 'in') ? r.seconds() : undefined;
  const ids = units ?? (takesSelection(show, { kind, id: row.id }) ? selection : []);
  const fixtures = on ? ids.flatMap((id) => show.fixtures.get(id)?.number ?? []) : [];
  const called = `${kind} ${wanted} “${row.name}”${inTime(time)}`;
  return live(
    r,
    {
      command: 'play',
      kind,
      id: row.id,
      on,
      ...(time === undefined ? {} : { time }),
      ...(fixtures.length > 0 ? { fixtures } : {}),
    },
    on
      ? `play ${called}${fixtures.length > 0 ? ` on ${plural(fixtures.length, 'fixture')}` : ''} · by itself, not in your programmer`
      : `${called} lets go`,
  );
}

/** What plays, of one list. `list 2 go`, `arm 7`, `cut`, `rate 150`. */
function playing(r: Reader, word: Word): Read {
  const { list, ofList: of } = r;
  const onto = list && list.id !== firstList(r.context.show)?.id ? { list: list.id } : {};
  switch (word.key) {
    case 'go':
      if (r.takeKey('to')) return playing(r, { ...word, key: 'goto' });
      return live(r, { command: 'go', ...onto }, `GO: the next cue${of}`);
    case 'back':
      return live(r, { command: 'back', ...onto }, `back to the cue before${of}`);
    case 'pause':
      return live(r, { command: 'pause', ...onto }, `pause the running fades${of}, or go on`);
    case 'goto': {
      r.takeKey('cue');
      const cue = r.cue();
      const time = r.takeKey('time', 'in') ? r.seconds() : undefined;
      return live(
        r,
        {
          command: 'goto',
          cue: formatCueNumber(cue.number),
          ...(time === undefined ? {} : { time }),
          ...onto,
        },
        `go to cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}${of}${time === 0 ? ', cut' : inTime(time)} · all that it shows`,
      );
    }
    case 'cut': {
      r.takeKey('cue', 'to');
      const cue = r.done ? undefined : r.cue();
      return live(
        r,
        { command: 'cut', ...(cue ? { cue: formatCueNumber(cue.number) } : {}), ...onto },
        `cut to ${cue ? `cue ${formatCueNumber(cue.number)}` : 'the next cue'}${of}`,
      );
    }
    case 'arm': {
      r.takeKey('cue');
      if (r.takeKey('off'))
        return live(
          r,
          { command: 'arm', cue: null, ...onto },
          `the next cue${of} is the list’s own again`,
        );
      const cue = r.cue();
      return live(
        r,
        { command: 'arm', cue: formatCueNumber(cue.number), ...onto },
        `cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}${of} is next`,
      );
    }
    case 'rate': {
      const percent = r.whole('a rate in percent');
      if (percent < 10 || percent > 1000)
        throw new Complaint(`A rate goes from 10 to 1000 %; ${percent} does not.`, r.previous());
      return live(
        r,
        { command: 'rate', rate: percent / 100, ...onto },
        `${list?.name ?? 'the list'} at ${percent} % of its times`,
      );
    }
    case 'chase':
      return chasing(r, word);
    case 'master': {
      r.takeKey('at', '@');
      const to = percentage(r);
      return live(
        r,
        { command: 'list-master', level: to.level, ...onto },
        `master${of} ${to.says}`,
      );
    }
    default:
      throw new Complaint(`“${word.text}” is not understood here.`, word);
  }
}

/** `list 2 chase 120`, `list 2 chase bounce fade 30 rounds 4`: until it is released. */
function chasing(r: Reader, word: Word): Read {
  const { list } = r;
  if (!list?.chase?.on)
    throw new Complaint(`${list?.name ?? 'The list'} does not step by itself.`, word);
  const change: { bpm?: number; direction?: Direction; share?: number; count?: number } = {};
  const said: string[] = [];
  while (!r.done) {
    const way = DIRECTIONS.find((d) => d === r.peek()?.key);
    if (way) {
      r.next();
      change.direction = way;
      said.push(way);
    } else if (r.takeKey('fade')) {
      const to = percentage(r);
      change.share = to.level;
      said.push(`fade ${to.says} of a step`);
    } else if (r.takeKey('rounds', 'round')) {
      change.count = r.whole('how many rounds; 0 is for ever');
      said.push(change.count === 0 ? 'for ever' : plural(change.count, 'round'));
    } else {
      change.bpm = r.whole('a number of steps a minute, a direction, fade or rounds');
      if (change.bpm < 1 || change.bpm > 1200)
        throw new Complaint('A chase has 1 to 1200 steps a minute.', r.previous());
      said.push(`${change.bpm} steps a minute`);
    }
  }
  if (said.length === 0)
    throw new Complaint('Say how: chase 120, chase bounce, chase fade 30, chase rounds 4', word);
  return live(
    r,
    { command: 'chase', list: list.id, ...change },
    `${list.name}: ${said.join(', ')} · until it is released`,
  );
}

/** `cue 5`, `cue 5 thru 8`, `cue 5 + 7`: cues of the list in question. */
export function cues(r: Reader): CueRow[] {
  r.takeKey('cue', 'cues');
  const found: CueRow[] = [];
  do {
    const first = r.cue();
    const next = r.peek();
    if (next && THRU.has(next.key)) {
      r.next();
      const last = r.cue();
      const [low, high] = [
        Math.min(first.number, last.number),
        Math.max(first.number, last.number),
      ];
      found.push(
        ...r.context.show.cuesOf(first.listId).filter((c) => c.number >= low && c.number <= high),
      );
    } else found.push(first);
  } while (r.takeKey('+', ','));
  return found;
}

/** `cue 5`, `3 cues`. */
export const say = (rows: readonly CueRow[]): string =>
  rows.length === 1 ? `cue ${formatCueNumber(rows[0]?.number ?? 0)}` : `${rows.length} cues`;

/** Things done to cues: what tracks is kept as each of them says. */
function arranging(r: Reader, word: Word): Read {
  const rows = cues(r);
  const ids = rows.map((c) => c.id);
  const edit = (name: string, params: Record<string, unknown>, says: string): Read => {
    r.end();
    return { intent: { kind: 'edit', edit: name, params: { ids, ...params } }, says };
  };
  switch (word.key) {
    case 'move':
    case 'copy': {
      if (!r.takeKey('after'))
        throw new Complaint(`Say where: ${word.key} cue 5 after 9`, r.peek() ?? r.previous());
      const after = r.cueNumber();
      return edit(
        word.key === 'move' ? 'move-cues' : 'copy-cues',
        { after },
        `${word.key} ${say(rows)}${r.ofList} to after ${formatCueNumber(after)} · no other cue looks different`,
      );
    }
    case 'renumber': {
      if (!r.takeKey('from'))
        throw new Complaint(
          'Say from which number: renumber cue 5 thru 9 from 50',
          r.peek() ?? r.previous(),
        );
      const from = r.cueNumber();
      const step = r.takeKey('by') ? r.cueNumber() : 1000;
      return edit(
        'renumber-cues',
        { from, step },
        `renumber ${say(rows)}${r.ofList}: ${formatCueNumber(from)} to ${formatCueNumber(from + (rows.length - 1) * step)}`,
      );
    }
    case 'join':
      return edit('join-cues', {}, `join ${say(rows)}${r.ofList} into the first of them`);
    default:
      return edit(
        'block-cue',
        { on: word.key === 'block' },
        `${word.key} ${say(rows)}${r.ofList}${word.key === 'block' ? ' · nothing upstream reaches past' : ' · what would track anyway tracks again'}`,
      );
  }
}

/** `insert cue after 5 "Bell"`, `make 30 cues from 101`. */
function making(r: Reader, word: Word): Read {
  const { show } = r.context;
  const { list } = r;
  if (!list) throw new Complaint('This show has no cue list.', word);
  if (word.key === 'insert') {
    r.takeKey('cue');
    if (r.takeKey('at')) return inserting(r, list.id);
    const side = r.takeKey('after', 'before');
    if (!side)
      throw new Complaint(
        'Say where: insert cue after 5, or at 1:12 of its track',
        r.peek() ?? word,
      );
    const cue = r.cue();
    const all = show.cuesOf(list.id);
    const at = all.indexOf(cue);
    const [low, high] =
      side.key === 'after'
        ? [cue.number, all[at + 1]?.number]
        : [all[at - 1]?.number ?? 0, cue.number];
    const number = numbersBetween(low, high, 1)?.[0];
    if (number === undefined)
      throw new Complaint('There is no number left there: renumber first.', r.previous());
    const name = r.rest();
    return {
      intent: {
        kind: 'edit',
        edit: 'make-cues',
        params: { listId: list.id, cues: [{ number, name }] },
      },
      says: `new cue ${formatCueNumber(number)}${name ? ` “${name}”` : ''}, ${side.key} ${formatCueNumber(cue.number)}${r.ofList} · it shows what tracks into it`,
    };
  }
  if (r.peek()?.key === 'list' && r.peek(1)?.key === 'of') {
    r.next();
    r.next();
  }
  const kind = r.takeKey('palettes', 'palette', 'looks', 'look');
  if (kind) return ofThings(r, kind.key.startsWith('look') ? 'look' : 'palette');
  const count = r.whole('how many cues');
  if (count < 1 || count > 2000)
    throw new Complaint('1 to 2000 cues are made at once.', r.previous());
  r.takeKey('cue', 'cues');
  const from = r.takeKey('from')
    ? r.cueNumber()
    : (Math.floor((show.cuesOf(list.id).at(-1)?.number ?? 0) / 1000) + 1) * 1000;
  const step = r.takeKey('by') ? r.cueNumber() : 1000;
  const name = r.rest();
  return {
    intent: {
      kind: 'edit',
      edit: 'make-cues',
      params: {
        listId: list.id,
        cues: Array.from({ length: count }, (_, i) => ({
          number: from + i * step,
          ...(name
            ? { name: name.includes('#') ? name.replaceAll('#', String(i + 1)) : name }
            : {}),
        })),
      },
    },
    says: `${plural(count, 'empty cue')}, ${formatCueNumber(from)} to ${formatCueNumber(from + (count - 1) * step)}${r.ofList} · they show what tracks into them`,
  };
}

/** `make list of palettes 1 thru 6 time 2 "Colours"`: a cue for each. */
function ofThings(r: Reader, kind: 'palette' | 'look'): Read {
  const rows = [...r.context.show[`${kind}s`].values()].sort((a, b) => a.number - b.number);
  const chosen: typeof rows = [];
  do {
    const from = r.whole(`the number of a ${kind}`);
    const to = r.takeKey(...THRU) ? r.whole(`the number of a ${kind}`) : from;
    const some = rows.filter((x) => x.number >= from && x.number <= to);
    if (some.length === 0) throw new Complaint(`There is no ${kind} ${from}.`, r.previous());
    chosen.push(...some);
  } while (r.takeKey('+', 'and'));
  const fade_s = r.takeKey('time', 'in') ? r.seconds() : 2;
  const name = r.rest();
  return {
    intent: {
      kind: 'edit',
      edit: 'make-list-of',
      params: {
        of: chosen.map(({ id }) => ({ kind, id })),
        fade_s,
        ...(name ? { name } : {}),
      },
    },
    says: `a new list${name ? ` “${name}”` : ''} of ${plural(chosen.length, 'cue')}: ${chosen
      .slice(0, 4)
      .map((x) => x.name)
      .join(', ')}${chosen.length > 4 ? ' …' : ''}, each ${fade_s} s`,
  };
}

/** A line that begins with one of these words; undefined for all others, with nothing read. */
export function aboutPlaying(r: Reader, word: Word): Read | undefined {
  switch (word.key) {
    case 'go':
    case 'goto':
    case 'back':
    case 'pause':
    case 'cut':
    case 'arm':
    case 'rate':
    case 'chase':
      r.next();
      return playing(r, word);
    case 'fader':
    case 'sub':
      r.next();
      return fader(r);
    case 'release':
      r.next();
      return playedThing(r, false) ?? release(r);
    case 'play':
      r.next();
      return playedThing(r, true) ?? nothingToPlay(r);
    case 'master':
      // Alone it is the grand master.
      if (!r.listSaid) return undefined;
      r.next();
      return playing(r, word);
    case 'insert':
    case 'make':
      r.next();
      return making(r, word);
    case 'move':
    case 'copy':
    case 'renumber':
    case 'join':
    case 'block':
    case 'unblock':
      if (word.key === 'copy' && r.peek(1)?.key !== 'cue' && r.peek(1)?.key !== 'cues')
        return undefined;
      r.next();
      return arranging(r, word);
    default:
      return undefined;
  }
}
