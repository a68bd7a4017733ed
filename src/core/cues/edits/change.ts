/** Change a cue's name, number, times, notes, triggers, parts and actions, one or many at once; delete cues. */
import { rowFor, wasDeleted } from '../../show/row-for.ts';
import { withFields } from '../../show/fields-of.ts';
import { deletionOf } from '../../show/deletion.ts';
import { z } from 'zod';
import { cueCalled } from '../called.ts';
import { formatTime } from '../clock.ts';
import { formatCueNumber } from '../number.ts';
import { cueBefore } from '../tracking.ts';
import { CLOCK_TIME } from '../rows.ts';
import { keepLooks } from '../keep-looks.ts';
import { isRefusal, refuse } from '../../refusal.ts';
import { CueRow } from '../rows.ts';
import { LIMITS, idOf } from '../../show/fields.ts';
import { clash, cuesById, sayCues, sayKept, standsStill } from './rules.ts';
import { defineEdit, replaceRow } from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { plural } from '../../words.ts';
import type { RowChange } from '../../show/show.ts';

const { shape } = CueRow;
/** What may be set; null takes away what need not be there. */
const Fields = CueRow.omit({ id: true, listId: true, block: true }).partial().extend({
  familyDelay_s: shape.familyDelay_s.nullable(),
  curve: shape.curve.nullable(),
  parts: shape.parts.nullable(),
  operatorNote: shape.operatorNote.nullable(),
  designerNote: shape.designerNote.nullable(),
  after_s: shape.after_s.nullable(),
  at_s: shape.at_s.nullable(),
  keeps: shape.keeps.nullable(),
  clock: shape.clock.nullable(),
  link: shape.link.nullable(),
  prePosition: shape.prePosition.nullable(),
  actions: shape.actions.nullable(),
});
type Fields = z.infer<typeof Fields>;
const Params = z.object({ id: idOf('cues'), set: Fields });
type Params = z.infer<typeof Params>;

const WORDS: Record<keyof Fields, string> = {
  name: 'name',
  number: 'number',
  up_s: 'up time',
  down_s: 'down time',
  delay_s: 'delay',
  family_s: 'family times',
  familyDelay_s: 'family delays',
  curve: 'curve',
  parts: 'parts',
  note: 'note',
  operatorNote: 'operator’s note',
  designerNote: 'designer’s note',
  call: 'call',
  follow_s: 'follow',
  after_s: 'follow',
  at_s: 'moment on the track',
  keeps: 'what it keeps to',
  clock: 'clock',
  link: 'link',
  prePosition: 'pre-position',
  actions: 'actions',
};

/** The cue with these fields; one trigger of the next cue takes the place of the other. */
export function cueWith(cue: CueRow, set: Fields): CueRow {
  const next = withFields(cue, set, ['follow_s']);
  if (set.follow_s !== undefined && set.follow_s !== null) delete next.after_s;
  if (set.after_s !== undefined && set.after_s !== null) next.follow_s = null;
  if (next.parts?.length === 0) delete next.parts;
  if (next.actions?.length === 0) delete next.actions;
  return next;
}

/** Values of parts that the cue no longer has go by the cue's own times. */
function withoutPart(
  show: Parameters<typeof keepLooks>[0],
  cue: CueRow,
  next: CueRow,
): RowChange[] {
  const parts = new Set((next.parts ?? []).map((p) => p.number));
  return [...show.valuesOf(cue.id).values()].flatMap((v): RowChange[] => {
    if (v.part === undefined || parts.has(v.part)) return [];
    const plain = { ...v };
    delete plain.part;
    return [replaceRow('values', v, plain)];
  });
}

const words = (set: Fields): string =>
  [...new Set(Object.keys(set).map((k) => WORDS[k as keyof Fields]))].join(' and ');

/** Changes fields of a cue: name, times, notes, what it links to, its actions. */
export const changeCue = defineEdit({
  name: 'change-cue',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const cue = show.cues.get(p.id);
    if (!cue) return wasDeleted('cues', 'meanwhile', { id: 'No such cue.' });
    if (Object.keys(p.set).length === 0) return refuse('invalid', 'Nothing to change was given.');
    const taken =
      p.set.number === undefined
        ? undefined
        : clash(show, cue.listId, [p.set.number], new Set([cue.id]));
    if (taken) return taken;
    if (p.set.link && show.cues.get(p.set.link.to)?.listId !== cue.listId)
      return refuse('not-found', 'A link goes to a cue of the same list; this one is not there.', {
        link: 'No such cue.',
      });
    const next = cueWith(cue, p.set);
    const changes: RowChange[] = [replaceRow('cues', cue, next), ...withoutPart(show, cue, next)];
    const circle = standsStill(show, cue.listId, changes);
    if (circle) return circle;
    const moved =
      p.set.number === undefined || p.set.number === cue.number
        ? []
        : keepLooks(show, cue.listId, changes);
    return {
      changes: [...changes, ...moved],
      summary: `Changed ${words(p.set)} of ${cueCalled(show, { listId: cue.listId, number: cue.number })}${sayKept(show, moved)}`,
    };
  },
});

const Many = z.object({
  ids: z.array(idOf('cues')).min(1, 'Choose cues first.').max(10_000),
  /** In a name, `#` counts them. */
  set: Fields.omit({ number: true, link: true, parts: true }),
  /** Every time of these cues times this. */
  scale: z
    .number()
    .min(0, 'Times are scaled by 0 or more.')
    .max(100, 'Times are scaled by at most 100.')
    .optional(),
});
type Many = z.infer<typeof Many>;

const rounded = (seconds: number): number => Math.round(seconds * 1000) / 1000;
const scaledTimes = (times: CueRow['family_s'], by: number): CueRow['family_s'] =>
  Object.fromEntries(Object.entries(times).map(([family, t]) => [family, rounded(t * by)]));

/** All times of a cue times a factor. */
function scaled(cue: CueRow, by: number): CueRow {
  const times = <T extends Pick<CueRow, 'up_s' | 'down_s' | 'delay_s' | 'family_s'>>(c: T): T => ({
    ...c,
    up_s: rounded(c.up_s * by),
    down_s: rounded(c.down_s * by),
    delay_s: rounded(c.delay_s * by),
    family_s: scaledTimes(c.family_s, by),
  });
  return {
    ...times(cue),
    ...(cue.familyDelay_s ? { familyDelay_s: scaledTimes(cue.familyDelay_s, by) } : {}),
    ...(cue.follow_s === null ? {} : { follow_s: rounded(cue.follow_s * by) }),
    ...(cue.after_s === undefined ? {} : { after_s: rounded(cue.after_s * by) }),
    ...(cue.parts ? { parts: cue.parts.map(times) } : {}),
  };
}

/** The same times, notes or triggers for many cues. */
export const changeCues = defineEdit({
  name: 'change-cues',
  params: Many,
  roles: EDITORS,
  plan: (show, p) => {
    const cues = cuesById(show, p.ids);
    if (isRefusal(cues)) return cues;
    if (Object.keys(p.set).length === 0 && p.scale === undefined)
      return refuse('invalid', 'Nothing to change was given.');
    const inOrder = [...cues].sort((a, b) => a.number - b.number);
    const changes = inOrder.map((cue, i): RowChange => {
      const set = { ...p.set };
      if (set.name !== undefined) set.name = set.name.replaceAll('#', String(i + 1));
      const from = p.scale === undefined ? cue : scaled(cue, p.scale);
      return replaceRow('cues', cue, cueWith(from, set));
    });
    const long = (p.set.name ?? '').length + String(cues.length).length > LIMITS.nameLength;
    if (long && p.set.name?.includes('#'))
      return refuse('limit', `A name has at most ${LIMITS.nameLength} characters.`, {
        set: 'Too long.',
      });
    const circle = standsStill(show, cues[0]?.listId ?? '', changes);
    if (circle) return circle;
    const what = [p.scale === undefined ? '' : `all times × ${p.scale}`, words(p.set)]
      .filter(Boolean)
      .join(', ');
    return { changes, summary: `Changed ${what} of ${sayCues(cues, show)}` };
  },
});

const Begin = z.object({
  id: idOf('cues'),
  trigger: z.discriminatedUnion('on', [
    z.object({ on: z.literal('go') }),
    z.object({ on: z.literal('follow'), time_s: Fields.shape.up_s.unwrap() }),
    z.object({ on: z.literal('after'), time_s: Fields.shape.up_s.unwrap() }),
    z.object({
      on: z.literal('clock'),
      clock: z.string().regex(CLOCK_TIME, 'A time of day is like 19:30:00.'),
    }),
    z.object({ on: z.literal('call'), words: z.string().max(LIMITS.nameLength) }),
  ]),
});
type Begin = z.infer<typeof Begin>;
const SAID: Record<Begin['trigger']['on'], (t: never) => string> = {
  go: () => 'waits for GO',
  follow: (t: { time_s: number }) => `follows ${formatTime(t.time_s)} s after the GO before it`,
  after: (t: { time_s: number }) =>
    `follows ${formatTime(t.time_s)} s after the end of the one before`,
  clock: (t: { clock: string }) => `goes by itself at ${t.clock}`,
  call: (t: { words: string }) =>
    t.words === '' ? 'is called on no words' : `is called on “${t.words}”`,
};

/** What lets a cue begin: said of the cue itself, kept where it belongs, in one step. */
export const setTrigger = defineEdit({
  name: 'set-trigger',
  params: Begin,
  roles: EDITORS,
  plan: (show, { id, trigger }) => {
    const cue = rowFor(show, 'cues', id);
    if (isRefusal(cue)) return cue;
    const before = cueBefore(show, cue.listId, cue.number);
    const follows = trigger.on === 'follow' || trigger.on === 'after';
    if (follows && !before)
      return refuse(
        'invalid',
        'The first cue of a list follows none: it waits for GO, or goes at a time of day.',
        { trigger: 'Nothing before it.' },
      );
    if (follows && before?.link)
      return refuse(
        'invalid',
        `Cue ${formatCueNumber(before.number)} goes on elsewhere; what follows it is set there.`,
        { trigger: 'The one before goes on elsewhere.' },
      );
    const own = cueWith(cue, {
      clock: trigger.on === 'clock' ? trigger.clock : null,
      ...(trigger.on === 'call' ? { call: trigger.words } : {}),
    });
    const changes: RowChange[] = [replaceRow('cues', cue, own)];
    // Words to be called on and a time of day mean that it does not follow by itself.
    if (before && !before.link)
      changes.push(
        replaceRow(
          'cues',
          before,
          cueWith(before, {
            follow_s: trigger.on === 'follow' ? trigger.time_s : null,
            after_s: trigger.on === 'after' ? trigger.time_s : null,
          }),
        ),
      );
    return (
      standsStill(show, cue.listId, changes) ?? {
        changes,
        summary: `Changed how ${cueCalled(show, { listId: cue.listId, number: cue.number })} begins: it ${SAID[trigger.on](trigger as never)}`,
      }
    );
  },
});

const Delete = z.object({
  id: idOf('cues').optional(),
  ids: z.array(idOf('cues')).min(1).max(10_000).optional(),
  /** `keep`: what later cues tracked from it is written where it is needed. `drop`: it is let go on purpose. */
  tracked: z.enum(['keep', 'drop']).default('keep'),
});
type Delete = z.input<typeof Delete>;

/** Deletes cues; the ones behind show what they showed, or what now tracks into them. */
export const deleteCue = defineEdit({
  name: 'delete-cue',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const ids = p.ids ?? (p.id === undefined ? [] : [p.id]);
    if (ids.length === 0) return refuse('invalid', 'Say which cues to delete.');
    if (ids.length === 1 && !show.cues.has(ids[0] ?? ''))
      return wasDeleted('cues', 'already', { id: 'No such cue.' });
    const cues = cuesById(show, ids);
    if (isRefusal(cues)) return cues;
    const gone = new Set(ids);
    const changes = deletionOf(show, 'cues', gone);
    const listId = cues[0]?.listId ?? '';
    const kept = p.tracked === 'drop' ? [] : keepLooks(show, listId, changes);
    const circle = standsStill(show, listId, changes);
    if (circle) return circle;
    const calls = changes.filter((c) => c.table === 'calls').length;
    const links = changes.filter((c) => c.table === 'cues' && c.after).length;
    const name = cues.length === 1 && cues[0]?.name ? ` “${cues[0].name}”` : '';
    return {
      changes: [...changes, ...kept],
      summary: `Deleted ${sayCues(cues, show)}${name}${sayKept(show, kept)}${calls > 0 ? `; ${plural(calls, 'call')} left the script` : ''}${links > 0 ? `; ${plural(links, 'link')} to it taken off` : ''}`,
    };
  },
});
