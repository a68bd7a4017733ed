/** Cues as rows of a list: an empty skeleton of them, moved, copied, renumbered, split, joined. None of it changes how the others look. */
import { wasDeleted } from '../../show/row-for.ts';
import { deletionOf } from '../../show/deletion.ts';
import { z } from 'zod';
import { keepLooks, merged, saysTheSame, valueIn } from '../keep-looks.ts';
import { CUE_NUMBER, formatCueNumber, numbersBetween } from '../number.ts';
import { cueAfter, isComplete, stateAt } from '../tracking.ts';
import { isRefusal, refuse, type Refusal } from '../../refusal.ts';
import { CueRow, valueId } from '../rows.ts';
import { FAMILIES, RowId, idOf } from '../../show/fields.ts';
import { familyOf } from '../../rig/attributes.ts';
import type { RowChange, Show } from '../../show/show.ts';
import { clash, cuesById, GONE, sayCues, sayKept, standsStill } from './rules.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { toMillisecond } from '../../time/moment.ts';
import { plural } from '../../words.ts';

/** Of a new cue, where nothing is said. */
const FADE_S = 3;
/** A cue that sets nothing, with the usual times. */
export const emptyCue = (id: string, listId: string, number: number, name = ''): CueRow => ({
  id,
  listId,
  number,
  name,
  up_s: FADE_S,
  down_s: FADE_S,
  delay_s: 0,
  family_s: {},
  note: '',
  call: '',
  follow_s: null,
});

const Ids = z.array(RowId).min(1, 'Choose cues first.').max(10_000);
const NewCue = z.object({
  number: CUE_NUMBER,
  name: CueRow.shape.name.default(''),
  call: CueRow.shape.call.default(''),
  up_s: CueRow.shape.up_s.optional(),
  note: CueRow.shape.note.optional(),
  /** Where it stands on the track. */
  at_s: CueRow.shape.at_s,
  keeps: CueRow.shape.keeps,
});
const Make = z.object({
  listId: idOf('lists'),
  cues: z
    .array(NewCue)
    .min(1, 'Say which cues to make.')
    .max(2000, 'At most 2000 cues are made at once.'),
});
type Make = z.input<typeof Make>;

/** A skeleton: empty cues that show what tracks into them. */
export const makeCues = defineEdit({
  name: 'make-cues',
  params: Make,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (!show.lists.has(p.listId)) return wasDeleted('lists');
    const taken = clash(
      show,
      p.listId,
      p.cues.map((c) => c.number),
    );
    if (taken) return taken;
    const rows = p.cues.map((c) => ({
      ...emptyCue(newId(), p.listId, c.number, c.name),
      call: c.call,
      ...(c.up_s === undefined ? {} : { up_s: c.up_s, down_s: c.up_s }),
      ...(c.note === undefined ? {} : { note: c.note }),
      ...(c.at_s === undefined ? {} : { at_s: toMillisecond(c.at_s) }),
      ...(c.keeps === undefined ? {} : { keeps: c.keeps }),
    }));
    return {
      changes: rows.map((row) => insertRow('cues', row)),
      summary: `Made ${sayCues(
        [...rows].sort((a, b) => a.number - b.number),
        show,
      )}, empty: they show what tracks into them`,
    };
  },
});

/** Numbers right after a cue (or at the start) for so many cues. */
function roomAfter(
  show: Show,
  listId: string,
  after: number,
  count: number,
  moving: ReadonlySet<string>,
): number[] | Refusal {
  const rest = show.cuesOf(listId).filter((c) => !moving.has(c.id));
  const next = rest.find((c) => c.number > after);
  return (
    numbersBetween(after, next?.number, count) ??
    refuse(
      'clash',
      `${plural(count, 'cue')} do not fit between ${formatCueNumber(after)} and ${formatCueNumber(next?.number ?? 0)}: renumber there first. Nothing was changed.`,
      { number: 'No room.' },
    )
  );
}

const Move = z.object({
  ids: Ids,
  /** They come after the cue with this number; 0 is the start. */ after: z
    .number()
    .int()
    .min(0)
    .max(99_999_999),
});
type Move = z.infer<typeof Move>;

/** Moves cues behind another, with new numbers; what plays and calls keep to them. */
export const moveCues = defineEdit({
  name: 'move-cues',
  params: Move,
  roles: EDITORS,
  plan: (show, p) => {
    const cues = cuesById(show, p.ids);
    if (isRefusal(cues)) return cues;
    const listId = cues[0]?.listId ?? '';
    const moving = new Set(p.ids);
    if (show.cuesOf(listId).some((c) => c.number === p.after && moving.has(c.id)))
      return refuse('nothing', 'They are there already.');
    const numbers = roomAfter(show, listId, p.after, cues.length, moving);
    if (isRefusal(numbers)) return numbers;
    return renumbered(
      show,
      listId,
      cues,
      numbers,
      `Moved ${sayCues(cues, show)} ${p.after === 0 ? 'to the start' : `after ${formatCueNumber(p.after)}`}, as ${formatCueNumber(numbers[0] ?? 0)}${numbers.length > 1 ? ` to ${formatCueNumber(numbers.at(-1) ?? 0)}` : ''}`,
    );
  },
});

function renumbered(
  show: Show,
  listId: string,
  cues: readonly CueRow[],
  numbers: readonly number[],
  summary: string,
) {
  const changes: RowChange[] = cues.map((cue, i) =>
    replaceRow('cues', cue, { ...cue, number: numbers[i] ?? cue.number }),
  );
  const kept = keepLooks(show, listId, changes);
  return (
    standsStill(show, listId, changes) ?? {
      changes: [...changes, ...kept],
      summary: `${summary}${sayKept(show, kept)}`,
    }
  );
}

const Renumber = z.object({
  ids: Ids,
  from: CUE_NUMBER,
  step: z.number().int().min(1, 'A step is at least 0.001.').max(1_000_000),
});
type Renumber = z.infer<typeof Renumber>;

/** New numbers in steps, in the order they have. */
export const renumberCues = defineEdit({
  name: 'renumber-cues',
  params: Renumber,
  roles: EDITORS,
  plan: (show, p) => {
    const cues = cuesById(show, p.ids);
    if (isRefusal(cues)) return cues;
    const listId = cues[0]?.listId ?? '';
    const numbers = cues.map((_, i) => p.from + i * p.step);
    if ((numbers.at(-1) ?? 0) > 99_999_999)
      return refuse('invalid', 'Cue numbers end at 99999.999. Nothing was changed.', {
        from: 'Too high.',
      });
    const taken = clash(show, listId, numbers, new Set(p.ids));
    return (
      taken ??
      renumbered(
        show,
        listId,
        cues,
        numbers,
        `Renumbered ${sayCues(cues, show)}: ${formatCueNumber(numbers[0] ?? 0)} to ${formatCueNumber(numbers.at(-1) ?? 0)}`,
      )
    );
  },
});

const Copy = z.object({
  ids: Ids,
  after: z.number().int().min(0).max(99_999_999),
  listId: idOf('lists').optional(),
  /** `look`: each copy shows what its original shows. `changes`: each sets what its original sets, upon what tracks there. */
  what: z.enum(['look', 'changes']).default('look'),
});
type Copy = z.input<typeof Copy>;

/** Copies cues behind another, with what they show. */
export const copyCues = defineEdit({
  name: 'copy-cues',
  params: Copy,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const cues = cuesById(show, p.ids);
    if (isRefusal(cues)) return cues;
    const listId = p.listId ?? cues[0]?.listId ?? '';
    if (!show.lists.has(listId)) return wasDeleted('lists');
    const numbers = roomAfter(show, listId, p.after, cues.length, new Set());
    if (isRefusal(numbers)) return numbers;
    const changes: RowChange[] = [];
    const copies = new Set<string>();
    let running = stateAt(show, listId, p.after);
    cues.forEach((cue, i) => {
      const copy: CueRow = { ...cue, id: newId(), listId, number: numbers[i] ?? 0 };
      delete copy.link;
      copies.add(copy.id);
      changes.push(insertRow('cues', copy));
      const wanted = stateAt(show, cue.listId, cue.number);
      for (const value of show.valuesOf(cue.id).values())
        changes.push(
          insertRow('values', {
            ...value,
            id: valueId(copy.id, value.fixtureId, value.attribute),
            cueId: copy.id,
          }),
        );
      if (p.what === 'look' && !isComplete(show, copy)) {
        for (const [key, { value }] of wanted)
          if (!show.valuesOf(cue.id).has(key) && !saysTheSame(running.get(key)?.value, value))
            changes.push(insertRow('values', valueIn(copy, value)));
        for (const [key, { value }] of running)
          if (!wanted.has(key) && !show.valuesOf(cue.id).has(key))
            changes.push(insertRow('values', { ...valueIn(copy, value), level: null }));
      }
      running = wanted;
    });
    const kept = keepLooks(show, listId, changes, copies);
    return (
      standsStill(show, listId, changes) ?? {
        changes: merged([...changes, ...kept]),
        summary: `Copied ${sayCues(cues, show)} to ${formatCueNumber(numbers[0] ?? 0)}${numbers.length > 1 ? ` to ${formatCueNumber(numbers.at(-1) ?? 0)}` : ''}${p.what === 'changes' ? ', only what they set' : ''}${sayKept(show, kept)}`,
      }
    );
  },
});

const Split = z.object({
  id: idOf('cues'),
  number: CUE_NUMBER.optional(),
  name: CueRow.shape.name.default(''),
  /** What goes into the new cue: these slots, or all of these families. */
  slots: z
    .array(z.object({ fixtureId: idOf('fixtures'), attribute: z.string().min(1).max(60) }))
    .max(100_000)
    .optional(),
  families: z.array(z.enum(FAMILIES)).optional(),
});
type Split = z.input<typeof Split>;

/** Part of a cue becomes a cue of its own, right after it. */
export const splitCue = defineEdit({
  name: 'split-cue',
  params: Split,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const cue = show.cues.get(p.id);
    if (!cue) return refuse('not-found', GONE);
    const next = cueAfter(show, cue.listId, cue.number);
    const number = p.number ?? numbersBetween(cue.number, next?.number, 1)?.[0];
    if (number === undefined)
      return refuse(
        'clash',
        `There is no number left between ${formatCueNumber(cue.number)} and ${formatCueNumber(next?.number ?? 0)}: renumber there first.`,
      );
    const taken = clash(show, cue.listId, [number]);
    if (taken) return taken;
    if (number < cue.number || (next && number > next.number))
      return refuse(
        'invalid',
        `The new cue comes right after ${formatCueNumber(cue.number)}${next ? `, before ${formatCueNumber(next.number)}` : ''}.`,
        { number: 'Not in between.' },
      );
    const named = new Set((p.slots ?? []).map((s) => `${s.fixtureId}:${s.attribute}`));
    const rows = [...show.valuesOf(cue.id)].filter(
      ([key, v]) => named.has(key) || p.families?.includes(familyOf(v.attribute)),
    );
    if (rows.length === 0)
      return refuse(
        'nothing',
        `Cue ${formatCueNumber(cue.number)} sets none of these: there is nothing to split off.`,
      );
    const part: CueRow = {
      ...cue,
      id: newId(),
      number,
      name: p.name,
      call: '',
      follow_s: null,
      note: '',
    };
    delete part.after_s;
    delete part.link;
    delete part.actions;
    delete part.clock;
    const changes: RowChange[] = [
      insertRow('cues', part),
      ...rows.flatMap(([, v]): RowChange[] => [
        deleteRow('values', v),
        insertRow('values', {
          ...v,
          id: valueId(part.id, v.fixtureId, v.attribute),
          cueId: part.id,
        }),
      ]),
      // What goes on from the cue goes on from its second half.
      ...(cue.link || cue.follow_s !== null || cue.after_s !== undefined
        ? [moveOn(cue, part)]
        : []),
    ].flat();
    const kept = keepLooks(show, cue.listId, changes, new Set([cue.id, part.id]));
    return {
      changes: merged([...changes, ...kept]),
      summary: `Split ${plural(rows.length, 'value')} of cue ${formatCueNumber(cue.number)} off into cue ${formatCueNumber(number)}${sayKept(show, kept)}`,
    };
  },
});

/** The new cue takes over what came after the old one. */
function moveOn(cue: CueRow, part: CueRow): RowChange[] {
  const plain: CueRow = { ...cue, follow_s: null };
  delete plain.after_s;
  delete plain.link;
  const onward = {
    ...part,
    follow_s: cue.follow_s,
    ...(cue.after_s === undefined ? {} : { after_s: cue.after_s }),
    ...(cue.link ? { link: cue.link } : {}),
  };
  return [replaceRow('cues', cue, plain), insertRow('cues', onward)];
}

const Join = z.object({
  ids: z.array(idOf('cues')).min(2, 'Choose two neighbouring cues or more.').max(1000),
});
type Join = z.infer<typeof Join>;

/** Neighbouring cues become the first of them, which then looks as the last one did. */
export const joinCues = defineEdit({
  name: 'join-cues',
  params: Join,
  roles: EDITORS,
  plan: (show, p) => {
    const cues = cuesById(show, p.ids);
    if (isRefusal(cues)) return cues;
    const [first, ...rest] = cues;
    const last = cues.at(-1);
    if (!first || !last || rest.length === 0)
      return refuse('invalid', 'Choose two neighbouring cues or more.');
    const between = show
      .cuesOf(first.listId)
      .filter((c) => c.number > first.number && c.number < last.number && !p.ids.includes(c.id));
    if (between.length > 0)
      return refuse(
        'invalid',
        `Only neighbours can be joined: ${sayCues(between, show)} ${between.length === 1 ? 'lies' : 'lie'} between.`,
      );
    const gone = new Set(rest.map((c) => c.id));
    // What they set one after the other; a complete one lets go of all before it.
    const set = new Map(show.valuesOf(first.id));
    for (const cue of rest) {
      if (isComplete(show, cue)) set.clear();
      for (const [key, v] of show.valuesOf(cue.id))
        set.set(key, { ...v, id: valueId(first.id, v.fixtureId, v.attribute), cueId: first.id });
    }
    const kept: RowChange[] = [...show.valuesOf(first.id)].flatMap(([key, v]) =>
      set.has(key) ? [] : [deleteRow('values', v)],
    );
    for (const [key, v] of set)
      kept.push({
        table: 'values',
        id: v.id,
        before: show.valuesOf(first.id).get(key) ?? null,
        after: v,
      });
    const next: CueRow = { ...first, follow_s: last.follow_s };
    delete next.after_s;
    delete next.link;
    if (last.after_s !== undefined) next.after_s = last.after_s;
    if (last.link && !gone.has(last.link.to)) next.link = last.link;
    const actions = cues.flatMap((c) => c.actions ?? []);
    if (actions.length > 0) next.actions = actions.slice(0, 32);
    if (rest.some((c) => c.block)) next.block = true;
    const changes = merged([
      ...deletionOf(show, 'cues', gone),
      ...kept,
      replaceRow('cues', first, next),
    ]);
    const written = keepLooks(show, first.listId, changes, new Set([first.id]));
    return (
      standsStill(show, first.listId, changes) ?? {
        changes: merged([...changes, ...written]),
        summary: `Joined ${sayCues(cues, show)} into cue ${formatCueNumber(first.number)}, which looks as ${formatCueNumber(last.number)} did${sayKept(show, written)}`,
      }
    );
  },
});
