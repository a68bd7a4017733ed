/** What is typed into a row of the cue sheet: its number, its times, what lets it begin. */
import { CLOCK_TIME } from './rows.ts';
import { LIMITS } from '../show/fields.ts';
import { seconds, timeProblem } from './clock.ts';

/** What starts a cue, as it is written in its row of the book. */
export type Trigger =
  | { on: 'go' }
  | { on: 'follow'; time_s: number }
  | { on: 'after'; time_s: number }
  | { on: 'clock'; clock: string }
  | { on: 'call'; words: string };
type Problem = { problem: string };

/** `5`, `5/7`, `1:30`, `15s / 20 s`: up, and down where it is another. */
export function readTimes(text: string): { up_s: number; down_s: number } | Problem {
  const [up = '', down, ...more] = text.split('/');
  if (more.length > 0) return { problem: 'Two times at most: up/down, such as 5/7.' };
  for (const t of [up, ...(down === undefined ? [] : [down])]) {
    const wrong = timeProblem(t);
    if (wrong) return { problem: wrong };
    if ((seconds(t) ?? 0) > LIMITS.time_s)
      return { problem: `A time is at most ${LIMITS.time_s / 3600} hours.` };
  }
  const up_s = seconds(up) ?? 0;
  return { up_s, down_s: down === undefined ? up_s : (seconds(down) ?? 0) };
}

/** `*0.5`, `x 2`, `50%`: every time of a cue times this; undefined for anything else. */
export function readScale(text: string): number | undefined {
  const [, factor, percent] =
    /^\s*(?:[*x×]\s*(\d+(?:[.,]\d+)?)|(\d+(?:[.,]\d+)?)\s*%)\s*$/i.exec(text) ?? [];
  const number = Number((factor ?? percent ?? '').replace(',', '.'));
  if (factor === undefined && percent === undefined) return undefined;
  return factor === undefined ? number / 100 : number;
}

/** `go`, `follow 3` or only `3`, `after 0.5`, `at 19:30:00`, or the words that it is called on. */
export function readTrigger(text: string): Trigger | Problem {
  const t = text.trim();
  if (t === '' || /^(go|wait)$/i.test(t)) return { on: 'go' };
  const timed = /^(follow|after)\s+(.*)$/i.exec(t);
  const time = timed?.[2] ?? t;
  if (timed || /^[\d.,]/.test(t)) {
    const wrong = timeProblem(time);
    if (wrong) return { problem: wrong };
    const time_s = seconds(time) ?? 0;
    if (time_s > LIMITS.time_s)
      return { problem: `A time is at most ${LIMITS.time_s / 3600} hours.` };
    return { on: timed?.[1]?.toLowerCase() === 'after' ? 'after' : 'follow', time_s };
  }
  const clock = /^at\s+(\d.*)$/i.exec(t)?.[1];
  if (clock !== undefined)
    return CLOCK_TIME.test(clock)
      ? { on: 'clock', clock }
      : { problem: 'A time of day is like at 19:30:00.' };
  return {
    on: 'call',
    words: t
      .replace(/^[“"„]|[”"“]$/g, '')
      .trim()
      .slice(0, LIMITS.nameLength),
  };
}
