/** What is odd about a list before the show: told with a way to it, never a hindrance (docs/playback.md, Checks). */
import { rigFindings, type Finding } from '../rig/findings.ts';
import { blocksOf } from '../script/parse.ts';
import type { CueRow } from './rows.ts';
import type { Show } from '../show/show.ts';
import { formatTime } from './clock.ts';
import { rounds } from './loops.ts';
import { formatMoment } from '../time/moment.ts';
import { LEAST_LOOP_S } from '../time/rows.ts';
import { behindEnd, endOf, hasTrack } from '../time/timed.ts';
import { timingOf } from './times.ts';
import { formatCueNumber } from './number.ts';
import { isComplete } from './tracking.ts';

/** Something in a book that someone should look at. */
export interface BookFinding {
  /** The same finding keeps its key. */
  key: string;
  grave: boolean;
  about: Finding['about'] | 'cues' | 'actions' | 'script' | 'times';
  text: string;
  cueId?: string;
  fixtures: string[];
}

const named = (cue: CueRow): string =>
  `cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}`;
const Named = (cue: CueRow): string => named(cue).replace(/^c/, 'C');

/** Everything that should be known before this list runs: its own, and the rig's that it runs on. Grave ones first. */
export function bookFindings(show: Show, listId: string): BookFinding[] {
  const cues = show.cuesOf(listId);
  const rig = rigFindings(show).filter(
    (f) => f.cueId === undefined || show.cues.get(f.cueId)?.listId === listId,
  );
  const found: BookFinding[] = [
    ...timeFindings(show, listId, cues),
    ...emptyFindings(show, cues),
    ...referenceFindings(show, cues),
    ...scriptFindings(show, listId, cues),
    ...rig,
  ];
  return found.sort((a, b) => Number(b.grave) - Number(a.grave));
}

function timeFindings(show: Show, listId: string, cues: readonly CueRow[]): BookFinding[] {
  const found: BookFinding[] = [];
  for (const cue of cues) {
    const total = timingOf(show, cue).total_s;
    if (cue.follow_s !== null && cue.follow_s < total)
      found.push({
        key: `early/${cue.id}`,
        grave: false,
        about: 'times',
        cueId: cue.id,
        fixtures: [],
        text: `The cue after ${named(cue)} follows after ${formatTime(cue.follow_s)} s, before its fades of ${formatTime(total)} s have ended.`,
      });
  }
  const list = show.lists.get(listId);
  if (list?.time?.atEnd === 'loop' && hasTrack(show, listId) && endOf(show, listId) < LEAST_LOOP_S)
    found.push({
      key: `short-round/${listId}`,
      grave: false,
      about: 'times',
      fixtures: [],
      text: `The track of “${list.name}” ends after ${formatTime(endOf(show, listId))} s: too soon to begin again, so it stands there.`,
    });
  for (const cue of behindEnd(show, listId))
    found.push({
      key: `behind/${cue.id}`,
      grave: true,
      about: 'times',
      cueId: cue.id,
      fixtures: [],
      text: `${Named(cue)} stands at ${formatMoment(cue.at_s)}, behind the end of its track: it never comes.`,
    });
  for (const round of rounds(show.lists.get(listId), cues, (c) => timingOf(show, c).total_s)) {
    const [first] = round.cues;
    if (!first) continue;
    const which = `${Named(first)}${round.cues.length > 1 ? ` and ${round.cues.length - 1} more` : ''}`;
    if (round.time_s === 0)
      found.push({
        key: `standstill/${first.id}`,
        grave: true,
        about: 'times',
        cueId: first.id,
        fixtures: [],
        text: `${which} would go round for ever in no time.`,
      });
    else if (!round.counted)
      found.push({
        key: `endless/${first.id}`,
        grave: false,
        about: 'times',
        cueId: first.id,
        fixtures: [],
        text: `${which} go${round.cues.length > 1 ? '' : 'es'} round by ${round.cues.length > 1 ? 'themselves' : 'itself'} every ${formatTime(Math.round(round.time_s * 10) / 10)} s until somebody presses GO elsewhere.`,
      });
  }
  return found;
}

function emptyFindings(show: Show, cues: readonly CueRow[]): BookFinding[] {
  const idle = cues.filter(
    (c) =>
      show.valuesOf(c.id).size === 0 &&
      !isComplete(show, c) &&
      !c.actions?.length &&
      c.follow_s === null &&
      c.after_s === undefined,
  );
  return idle.map((c) => ({
    key: `idle/${c.id}`,
    grave: false,
    about: 'cues' as const,
    cueId: c.id,
    fixtures: [],
    text: `${Named(c)} changes nothing.`,
  }));
}

/** References to what is gone. */
function referenceFindings(show: Show, cues: readonly CueRow[]): BookFinding[] {
  return cues.flatMap((cue): BookFinding[] => {
    const lost = new Set<string>();
    for (const action of cue.actions ?? []) {
      if (action.do === 'list' && !show.lists.has(action.list)) lost.add('a list that is gone');
      if ('fader' in action && !show.faders.has(action.fader)) lost.add('a fader that is gone');
      if ('sound' in action && !show.sounds.has(action.sound)) lost.add('a sound that is gone');
      if (
        action.do === 'list' &&
        action.what === 'goto' &&
        show.lists.has(action.list) &&
        !show.cuesOf(action.list).some((c) => c.number === action.cue)
      )
        lost.add(`cue ${formatCueNumber(action.cue ?? 0)}, which that list does not have`);
      if (action.do === 'macro' && action.fixtures.every((id) => !show.fixtures.has(id)))
        lost.add('fixtures that are gone');
    }
    for (const v of show.valuesOf(cue.id).values()) {
      if (v.palette !== undefined && !show.palettes.has(v.palette))
        lost.add('a palette that is gone');
      if (v.look !== undefined && !show.looks.has(v.look)) lost.add('a look that is gone');
      if (v.effect && !show.effects.has(v.effect.id)) lost.add('an effect that is gone');
    }
    return [...lost].map((what) => ({
      key: `lost/${cue.id}/${what}`,
      grave: true,
      about: 'actions' as const,
      cueId: cue.id,
      fixtures: [],
      text: `${Named(cue)} points at ${what}.`,
    }));
  });
}

function scriptFindings(show: Show, listId: string, cues: readonly CueRow[]): BookFinding[] {
  const found: BookFinding[] = [];
  for (const script of show.scripts.values()) {
    const calls = [...show.calls.values()]
      .filter((c) => c.scriptId === script.id && show.cues.get(c.cueId)?.listId === listId)
      .sort((a, b) => a.from - b.from);
    if (calls.length === 0) continue;
    const called = new Set(calls.map((c) => c.cueId));
    let highest = 0;
    for (const call of calls) {
      const cue = show.cues.get(call.cueId);
      if (!cue) continue;
      if (call.check)
        found.push({
          key: `call/${call.id}`,
          grave: call.check === 'lost',
          about: 'script',
          cueId: cue.id,
          fixtures: [],
          text:
            call.check === 'lost'
              ? `The words that ${named(cue)} was called on are gone from draft ${script.draft}.`
              : `The words around the call of ${named(cue)} have changed in draft ${script.draft}.`,
        });
      if (cue.number < highest)
        found.push({
          key: `order/${call.id}`,
          grave: false,
          about: 'script',
          cueId: cue.id,
          fixtures: [],
          text: `${Named(cue)} is called after a later cue: script and list differ in their order.`,
        });
      highest = Math.max(highest, cue.number);
    }
    cues.forEach((cue, i) => {
      const before = cues[i - 1];
      const comes =
        cue.clock !== undefined ||
        (before && (before.follow_s !== null || before.after_s !== undefined));
      if (!comes && !called.has(cue.id) && blocksOf(script).length > 0 && script.format !== 'order')
        found.push({
          key: `uncalled/${script.id}/${cue.id}`,
          grave: false,
          about: 'script',
          cueId: cue.id,
          fixtures: [],
          text: `${Named(cue)} waits for GO and is called nowhere in “${script.title}”.`,
        });
    });
  }
  return found;
}
