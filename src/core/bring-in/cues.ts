/** Cues brought into a list of ours: at their numbers, or at its end where some of those are taken. */
import { formatCueNumber, freeCueNumber, LAST_CUE } from '../cues/number.ts';
import { valueId, type CueRow, type ValueRow } from '../cues/rows.ts';
import { refuse, type Refusal } from '../refusal.ts';
import { plural } from '../words.ts';
import { add, isAble, type Coming } from './coming.ts';
import { bring } from './named.ts';

const WHOLE = 1000;

/** A number for each, in the order of their lists; cues of two lists may have one number. */
function numbersFor(
  c: Coming,
  cues: readonly CueRow[],
  listId: string,
): ReadonlyMap<string, number> | Refusal {
  const taken = new Set(c.ours.cuesOf(listId).map((own) => own.number));
  const lowest = Math.min(...cues.map((cue) => cue.number));
  const end = (Math.floor(Math.max(0, ...taken) / WHOLE) + 1) * WHOLE;
  const shift = cues.some((cue) => taken.has(cue.number))
    ? end - Math.floor(lowest / WHOLE) * WHOLE
    : 0;
  const numbers = new Map<string, number>();
  for (const cue of cues) {
    const number = freeCueNumber(taken, cue.number + shift);
    taken.add(number);
    numbers.set(cue.id, number);
    if (number !== cue.number + shift)
      c.notes.push(
        `Cue ${formatCueNumber(cue.number)} “${cue.name}” comes in as ${formatCueNumber(number)}: another one that comes in has its number.`,
      );
  }
  if (Math.max(0, ...numbers.values()) > LAST_CUE)
    return refuse(
      'limit',
      `The cues would go beyond ${formatCueNumber(LAST_CUE)}, where cue numbers end. Bring them into another list, or renumber first; nothing was changed.`,
    );
  if (shift !== 0)
    c.notes.push(
      `The cues go to the end, from ${formatCueNumber(lowest + shift)}: some of their numbers are taken here.`,
    );
  return numbers;
}

/** A value as it stands here; undefined where nothing here can have it. */
function valueHere(c: Coming, value: ValueRow, cueId: string): ValueRow | undefined {
  const fixtureId = c.fixtures.get(value.fixtureId);
  if (!fixtureId || !isAble(c, value.fixtureId, value.attribute)) return undefined;
  const { palette, look, effect, ...plain } = value;
  const [p, l, e] = [
    palette && bring(c, 'palettes', palette),
    look && bring(c, 'looks', look),
    effect && bring(c, 'effects', effect.id),
  ];
  const row: ValueRow = {
    ...plain,
    id: valueId(cueId, fixtureId, value.attribute),
    cueId,
    fixtureId,
    ...(p ? { palette: p } : {}),
    ...(l ? { look: l } : {}),
  };
  if (!e || !effect) return row;
  const { group, ...use } = effect;
  const g = group && bring(c, 'groups', group);
  return { ...row, effect: { ...use, id: e, ...(g ? { group: g } : {}) } };
}

/** Links lead on where their cue comes as well; actions point at things of the other show. */
function cueHere(
  c: Coming,
  { link, actions, ...cue }: CueRow,
  ids: ReadonlyMap<string, string>,
): Omit<CueRow, 'id' | 'listId' | 'number'> {
  const to = link && ids.get(link.to);
  if (link && !to)
    c.notes.push(
      `The link of cue ${formatCueNumber(cue.number)} leads out of what is brought in, and is left out.`,
    );
  if (actions && actions.length > 0)
    c.notes.push(
      `Actions of cue ${formatCueNumber(cue.number)} point at things of the other show, and are left out.`,
    );
  return { ...cue, ...(link && to ? { link: { ...link, to } } : {}) };
}

/** Cues of the other show, with what they lean on, into a list of this one. @returns why it cannot be, if it cannot */
export function bringCues(
  c: Coming,
  wanted: readonly string[],
  listId: string,
): Refusal | undefined {
  const listNumber = (cue: CueRow): number => c.theirs.lists.get(cue.listId)?.number ?? 0;
  const cues = wanted
    .flatMap((id) => c.theirs.cues.get(id) ?? [])
    .sort((a, b) => listNumber(a) - listNumber(b) || a.number - b.number);
  if (cues.length === 0) return undefined;
  const ids = new Map(cues.map((cue) => [cue.id, c.newId()]));
  const numbers = numbersFor(c, cues, listId);
  if ('refused' in numbers) return numbers;
  let left = 0;
  for (const cue of cues) {
    const id = ids.get(cue.id) ?? c.newId();
    const number = numbers.get(cue.id) ?? cue.number;
    add(c, 'cues', { ...cueHere(c, cue, ids), id, listId, number });
    for (const value of c.theirs.valuesOf(cue.id).values()) {
      const row = valueHere(c, value, id);
      if (row) add(c, 'values', row);
      else left++;
    }
  }
  if (left > 0)
    c.notes.push(
      `${plural(left, 'value')} of fixtures that nothing here stands for ${left === 1 ? 'is' : 'are'} left out.`,
    );
  return undefined;
}
