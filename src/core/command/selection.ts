/** What a line is about: fixtures by number, group, type, what they can do or do now; and parts of that. */
import { numberRanges } from '../words.ts';
import { plural } from '../words.ts';
import { membersOf } from '../groups/members.ts';
import { lightsOn } from '../aim/lights.ts';
import { sayCould, sayGives } from '../aim/light-words.ts';
import { placesIn } from '../areas/within.ts';
import { plain } from '../rig/search.ts';
import type { StagePoint } from '../show/fields.ts';
import { findAttribute } from '../rig/attributes.ts';
import {
  acrossStage,
  byNumber,
  everyNth,
  half,
  inChance,
  inverted,
  mirroredPairs,
  movedBy,
  ofType,
  withAttribute,
} from '../select/select.ts';
import type { GroupRow } from '../groups/rows.ts';
import { Complaint, SELECTION_END, THRU, type Reader } from './reader.ts';
import type { Word } from './words.ts';

const TERMS = new Set(['all', 'group', 'g', 'type', 'with', 'lit', 'lights', 'in']);
/** Words that take a part of what is selected, or put it in another order. */
export const PARTS = new Set([
  'odd',
  'even',
  'every',
  'first',
  'second',
  'reverse',
  'pairs',
  'across',
  'shuffle',
  'invert',
  'none',
]);

/** Whether a line that begins with this word selects. */
export const startsSelection = (word: Word): boolean =>
  /^\d/.test(word.text) || TERMS.has(word.key);

/** A group by number or name. */
export function groupNamed(r: Reader): GroupRow {
  const word = r.next();
  const groups = [...r.context.show.groups.values()];
  const found =
    word &&
    (word.quoted
      ? groups.find((g) => g.name.toLowerCase() === word.text.toLowerCase())
      : groups.find((g) => String(g.number) === word.text));
  if (!word || (!word.quoted && !/^\d+$/.test(word.text)))
    throw new Complaint(
      word
        ? `“${word.text}” is not a group number; a name goes in quotes.`
        : 'Here a group number is missing.',
      word ?? r.previous(),
    );
  if (!found)
    throw new Complaint(`There is no group ${word.quoted ? `“${word.text}”` : word.text}.`, word);
  return found;
}

/** `2`, `"Movers"`, `2 thru 5`: groups in the order in which they are said. */
function groupsNamed(r: Reader): GroupRow[] {
  const first = groupNamed(r);
  const thru = r.peek();
  if (!thru || !THRU.has(thru.key)) return [first];
  r.next();
  const last = groupNamed(r);
  const [low, high] = [Math.min(first.number, last.number), Math.max(first.number, last.number)];
  const between = [...r.context.show.groups.values()]
    .filter((g) => g.number >= low && g.number <= high)
    .sort((a, b) => a.number - b.number);
  return first.number <= last.number ? between : between.reverse();
}

/** Words up to the next one that means something else. */
function words(r: Reader): string {
  const taken: string[] = [];
  for (
    let word = r.peek();
    word &&
    !SELECTION_END.has(word.key) &&
    !PARTS.has(word.key) &&
    !['+', '-', ',', 'thru'].includes(word.key);
    word = r.peek()
  ) {
    taken.push(word.text);
    r.next();
    if (word.quoted) break;
  }
  return taken.join(' ');
}

/** `0.4 2.1`, `-3 1.2 1.6`, `"Deck, centre"`: a spot of the stage in metres, or an area by its name. */
function spot(r: Reader): { points: StagePoint[]; says: string } {
  const named = r.peek();
  if (named?.quoted) {
    r.next();
    const area = [...r.context.show.areas.values()].find(
      (a) => plain(a.name) === plain(named.text),
    );
    if (!area) throw new Complaint(`There is no area “${named.text}”.`, named);
    return { points: placesIn(area.corners), says: `on “${area.name}”` };
  }
  const x = metres(r, 'metres across the stage');
  r.takeKey(',');
  const y = metres(r, 'metres upstage');
  const z = /^\d/.test(r.peek()?.text ?? '') ? metres(r, 'metres up') : 0;
  return { points: [{ x, y, z }], says: 'there' };
}

function metres(r: Reader, what: string): number {
  const sign = r.takeKey('-') ? -1 : 1;
  const word = r.next();
  if (!word || !/^\d+(\.\d+)?m?$/.test(word.text))
    throw new Complaint(
      word
        ? `“${word.text}” is not ${what}.`
        : `Say where: lights on 0.4 2.1, or lights on "Deck". Here ${what} is missing.`,
      word ?? r.previous(),
    );
  return sign * Number.parseFloat(word.text);
}

/** `lights on 0.4 2.1`: units that put light there, by how much; `lights could 0.4 2.1`: those that could, dark or turned. */
function lights(r: Reader, word: Word): string[] {
  const { show, levelOf } = r.context;
  const could = r.takeKey('could') !== undefined;
  r.takeKey('on');
  const { points, says } = spot(r);
  const found = lightsOn(show, points, levelOf);
  const ids = could ? found.could : found.gives.map((g) => g.fixtureId);
  if (ids.length === 0)
    throw new Complaint(
      could ? `No other unit could put light ${says}.` : `No unit puts light ${says} now.`,
      word,
    );
  r.chosenSays = could ? sayCould(ids, says) : sayGives(show, found.gives, says);
  return ids;
}

function term(r: Reader): string[] {
  const { show } = r.context;
  if (r.takeKey('all')) return byNumber(show).map((f) => f.id);
  if (r.takeKey('group', 'g')) return groupsNamed(r).flatMap((g) => membersOf(show, g));
  const typed = r.takeKey('type');
  if (typed) {
    const name = words(r);
    const ids = ofType(show, name);
    if (ids.length === 0)
      throw new Complaint(
        name === '' ? 'Say which type: type wash 19' : `No fixture is of a type like “${name}”.`,
        r.previous() ?? typed,
      );
    return ids;
  }
  const having = r.takeKey('with');
  if (having) {
    const word = r.next();
    const attribute = word ? findAttribute(word.text) : undefined;
    if (!word || !attribute)
      throw new Complaint(
        word ? `“${word.text}” is not an attribute.` : 'Say which attribute: with zoom',
        word ?? having,
      );
    const ids = withAttribute(show, attribute);
    if (ids.length === 0) throw new Complaint(`No fixture has ${word.text}.`, word);
    return ids;
  }
  if (r.takeKey('lit')) return [...r.context.lit()];
  const lighting = r.takeKey('lights');
  if (lighting) return lights(r, lighting);
  const within = r.takeKey('in');
  if (within) {
    r.takeList();
    r.takeKey('cue');
    const cue = r.peek() && /^\d/.test(r.peek()?.text ?? '') ? r.cue() : r.onStage;
    if (!cue)
      throw new Complaint(
        'No cue is on stage: say which one, as in cue 5.',
        r.previous() ?? within,
      );
    return movedBy(show, cue.id);
  }
  const first = r.fixture();
  const thru = r.peek();
  if (!thru || !THRU.has(thru.key)) return [first.id];
  r.next();
  const end = r.peek();
  if (!end || SELECTION_END.has(end.key))
    throw new Complaint(`“${first.number} ${thru.text}” needs a last number.`, end ?? thru);
  const last = r.fixture();
  const [low, high] =
    first.number <= last.number ? [first.number, last.number] : [last.number, first.number];
  const range = byNumber(show).filter((f) => f.number >= low && f.number <= high);
  return (first.number <= last.number ? range : range.reverse()).map((f) => f.id);
}

/** `odd`, `every 3 from 2`, `first half`, `pairs` … one after the other. */
export function parts(r: Reader, ids: readonly string[]): string[] {
  const { show } = r.context;
  let now = [...ids];
  for (let word = r.peek(); word && PARTS.has(word.key); word = r.peek()) {
    r.next();
    switch (word.key) {
      case 'odd':
        now = everyNth(now, 2, 1);
        break;
      case 'even':
        now = everyNth(now, 2, 2);
        break;
      case 'every': {
        const n = r.whole('a number, such as every 3');
        if (n < 1) throw new Complaint('Every how many? At least 1.', r.previous());
        now = everyNth(
          now,
          n,
          r.takeKey('from') ? Math.max(1, r.whole('which one to begin with')) : 1,
        );
        break;
      }
      case 'first':
      case 'second':
        r.takeKey('half');
        now = half(now, word.key);
        break;
      case 'reverse':
        now.reverse();
        break;
      case 'pairs':
        now = mirroredPairs(show, now).flat();
        break;
      case 'across':
        now = acrossStage(show, now);
        break;
      case 'shuffle':
        now = inChance(now, r.peek() && /^\d+$/.test(r.peek()?.text ?? '') ? r.whole('a seed') : 1);
        break;
      case 'invert':
        now = inverted(show, now);
        break;
      case 'none':
        now = [];
        break;
    }
  }
  return now;
}

/** `1 thru 8 + 12 - 3`, `group 2 odd`, `all - lit`: ids in the order they were named. */
export function selection(r: Reader): string[] {
  const chosen = new Set<string>();
  for (const id of term(r)) chosen.add(id);
  for (;;) {
    // What else is said changes who they are.
    if (['+', ',', '-'].includes(r.peek()?.key ?? '')) r.chosenSays = undefined;
    if (r.takeKey('+', ',')) for (const id of term(r)) chosen.add(id);
    else if (r.takeKey('-')) for (const id of term(r)) chosen.delete(id);
    else break;
  }
  return parts(r, [...chosen]);
}

/** Who was chosen, in words: as it was said, or by numbers. */
export function sayChosen(r: Reader, ids: readonly string[]): string {
  if (r.chosenSays !== undefined) return r.chosenSays;
  const numbers = ids.flatMap((id) => r.context.show.fixtures.get(id)?.number ?? []);
  return ids.length === 0
    ? 'select nothing'
    : `select ${plural(ids.length, 'fixture')}, ${numberRanges(numbers)}`;
}
