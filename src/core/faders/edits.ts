/** Faders of a show. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { FADER_PAGES, FaderRow, HELD_TABLES } from './rows.ts';
import { idOf } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { pointAtNothing } from '../lists/edits.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';

const Fader = z.object({
  id: idOf('faders').optional(),
  set: FaderRow.omit({ id: true, number: true }).extend({
    number: FaderRow.shape.number.optional(),
  }),
});
type Fader = z.infer<typeof Fader>;

function wrongUse(
  show: Show,
  { holds, mode, name, flash, others }: Fader['set'],
): string | undefined {
  if (!show[HELD_TABLES[holds.kind]].has(holds.id))
    return `What fader “${name}” would hold has been deleted meanwhile.`;
  if (mode === 'rate' && holds.kind !== 'list' && holds.kind !== 'effect')
    return 'A fader that paces holds a list or an effect.';
  if (mode === 'size' && holds.kind !== 'effect') return 'A fader that sizes holds an effect.';
  if (holds.kind === 'effect' && mode !== 'size' && mode !== 'rate')
    return 'An effect is sized or paced by a fader.';
  if (flash === 'go' && holds.kind !== 'list') return 'Only a list has a next cue to go to.';
  if (others && holds.kind !== 'look' && holds.kind !== 'palette')
    return 'Other families come by the fader of a look or a palette; those of a list in its cues’ times.';
  return undefined;
}

/** Makes or changes a fader: what it holds, how it masters, what its key does. */
export const setFader = defineEdit({
  name: 'set-fader',
  params: Fader,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'faders', p.id);
    if (isRefusal(old)) return old;
    const wrong = wrongUse(show, p.set);
    if (wrong) return refuse('invalid', `${wrong} Nothing was changed.`, { holds: wrong });
    const taken = new Set(
      [...show.faders.values()].filter((f) => f.id !== p.id).map((f) => f.number),
    );
    let number = p.set.number ?? old?.number ?? 1;
    if (p.set.number !== undefined && taken.has(number))
      return refuse('clash', `Fader ${number} exists already.`, {
        number: 'This number is taken.',
      });
    while (taken.has(number)) number++;
    const row: FaderRow = { ...p.set, id: old?.id ?? newId(), number };
    return {
      changes: [old ? replaceRow('faders', old, row) : insertRow('faders', row)],
      summary: `${old ? 'Changed' : 'Made'} fader ${number} “${row.name}”`,
    };
  },
});

/** The lowest number of a fader that is not taken. */
export function firstFreeFader(show: Show): number {
  const taken = new Set([...show.faders.values()].map((f) => f.number));
  let free = 1;
  while (taken.has(free)) free++;
  return free;
}

/** A fader as its kind of thing mostly behaves. */
export const faderHolding = (
  holds: FaderRow['holds'],
  name: string,
  at: Pick<FaderRow, 'id' | 'number'>,
): FaderRow => ({
  ...at,
  name,
  holds,
  mode: holds.kind === 'effect' ? 'size' : 'proportional',
  flash: 'full',
  ...(holds.kind === 'list' ? { startsWhenRaised: true, releasesAtZero: true } : {}),
});

const PutOn = z.object({
  holds: FaderRow.shape.holds,
  /** Absent: the first that is free. One that is there holds this from now on. */
  number: FaderRow.shape.number.optional(),
  mode: FaderRow.shape.mode.optional(),
});

/** Puts something under a hand in one step, behaving as that kind of thing mostly does. */
export const putOnFader = defineEdit({
  name: 'put-on-fader',
  params: PutOn,
  roles: EDITORS,
  plan: (show, { holds, number, mode }, { newId }) => {
    const row = show[HELD_TABLES[holds.kind]].get(holds.id);
    if (!row) return refuse('not-found', `This ${holds.kind} has been deleted meanwhile.`);
    const old = [...show.faders.values()].find((f) => f.number === number);
    const at = { id: old?.id ?? newId(), number: number ?? firstFreeFader(show) };
    const kept = old?.flash === 'go' && holds.kind !== 'list' ? undefined : old?.flash;
    const next: FaderRow = {
      ...faderHolding(holds, row.name, at),
      ...(mode === undefined ? {} : { mode }),
      ...(kept === undefined ? {} : { flash: kept }),
      ...(old?.priority === undefined ? {} : { priority: old.priority }),
      ...(old?.keepsThroughRelease ? { keepsThroughRelease: true } : {}),
    };
    const wrong = wrongUse(show, next);
    if (wrong) return refuse('invalid', `${wrong} Nothing was changed.`, { holds: wrong });
    return {
      changes: [old ? replaceRow('faders', old, next) : insertRow('faders', next)],
      summary: `The ${holds.kind} “${row.name}” is on fader ${next.number}${old ? `, instead of “${old.name}”` : ''}`,
    };
  },
});

const Order = z.object({ ids: z.array(idOf('faders')).min(1).max(999) });

/** Faders change places: they come in this order under the numbers that these have. */
export const orderFaders = defineEdit({
  name: 'order-faders',
  params: Order,
  roles: EDITORS,
  plan: (show, { ids }) => {
    const rows = ids.flatMap((id) => show.faders.get(id) ?? []);
    if (rows.length < ids.length || new Set(ids).size < ids.length)
      return refuse('not-found', 'One of these has been deleted meanwhile. Nothing was changed.');
    const numbers = rows.map((f) => f.number).sort((a, b) => a - b);
    const changes = rows.flatMap((f, i) =>
      f.number === numbers[i]
        ? []
        : [replaceRow('faders', f, { ...f, number: numbers[i] ?? f.number })],
    );
    if (changes.length === 0) return refuse('nothing', 'They are in this order already.');
    return { changes, summary: `Put ${plural(changes.length, 'fader')} in order` };
  },
});

const PageName = z.object({
  /** Faders 1 to 8 are page 1. */
  page: z.number().int().min(1, 'Pages count from 1.').max(FADER_PAGES),
  /** Empty: only its number. */
  name: z.string().trim().max(40, 'The name of a page has at most 40 characters.'),
});

/** What a page of eight faders is called. */
export const nameFaderPage = defineEdit({
  name: 'name-fader-page',
  params: PageName,
  roles: EDITORS,
  plan: (show, { page, name }) => {
    const settings = show.settings.get('show');
    if (!settings) return refuse('not-found', 'This show has no settings.');
    const { [String(page)]: was, ...others } = settings.faderPages ?? {};
    if ((was ?? '') === name) return refuse('nothing', 'It is called so already.');
    const faderPages = name === '' ? others : { ...others, [String(page)]: name };
    return {
      changes: [replaceRow('settings', settings, { ...settings, faderPages })],
      summary:
        name === ''
          ? `Faders ${page * 8 - 7} to ${page * 8} have no name any more`
          : `Faders ${page * 8 - 7} to ${page * 8} are “${name}”`,
    };
  },
});

const Id = z.object({ id: idOf('faders') });
type Id = z.infer<typeof Id>;

/** Deletes a fader; what it holds stays. */
export const deleteFader = defineEdit({
  name: 'delete-fader',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const fader = rowFor(show, 'faders', id, 'already');
    if (isRefusal(fader)) return fader;
    return {
      changes: [deleteRow('faders', fader)],
      summary: `Deleted fader ${fader.number} “${fader.name}”${pointAtNothing(show, id)}`,
    };
  },
});
