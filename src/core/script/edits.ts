/** The script and its calls: take one in, go to a later draft, drop a cue on a word. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { deletionOf } from '../show/deletion.ts';
import { oneLine } from '../words.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { placeAt, reanchor } from './anchors.ts';
import { standsTwice } from './drafts.ts';
import { flagsIn } from './parse.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { CallRow, SCRIPT_LIMIT, ScriptRow } from './rows.ts';
import { LIMITS, RowId, idOf } from '../show/fields.ts';
import type { CueRow } from '../cues/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { emptyCue } from '../cues/edits/arrange.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { plural } from '../words.ts';

const SCRIPTS_KEPT = 8;
const Import = z.object({
  /** A new draft of this script; absent: another script. */
  id: RowId.optional(),
  title: ScriptRow.shape.title,
  format: ScriptRow.shape.format,
  text: z
    .string()
    .max(
      SCRIPT_LIMIT,
      `A script has at most ${SCRIPT_LIMIT / 1e6} million characters; this one is longer. Import it act by act.`,
    ),
});
type Import = z.infer<typeof Import>;

const callsOf = (show: Show, scriptId: string): CallRow[] =>
  [...show.calls.values()].filter((c) => c.scriptId === scriptId).sort((a, b) => a.from - b.from);

/** Takes in a script, or the next draft of one; calls are found again by the words around them. */
export const importScript = defineEdit({
  name: 'import-script',
  params: Import,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const text = p.text.replace(/\r\n?/g, '\n');
    if (text.trim() === '')
      return refuse('empty', 'There is nothing in this script.', { text: 'Empty.' });
    const old = oldRowFor(show, 'scripts', p.id);
    if (isRefusal(old)) return old;
    if (!old) {
      if (show.scripts.size >= SCRIPTS_KEPT)
        return refuse('limit', `A show keeps at most ${SCRIPTS_KEPT} scripts: delete one first.`);
      const row: ScriptRow = { id: newId(), title: p.title, format: p.format, text, draft: 1 };
      const flags = flagsIn(text).length;
      return {
        changes: [insertRow('scripts', row)],
        summary: `Took in the script “${p.title}”, ${plural(text.split('\n').length, 'line')}${flags > 0 ? `; it names ${plural(flags, 'cue')}` : ''}`,
      };
    }
    if (old.text === text && old.title === p.title && old.format === p.format)
      return refuse('nothing', 'This draft is the one that is here already.');
    if (standsTwice(text, old.text))
      return refuse(
        'invalid',
        `Draft ${old.draft} of “${old.title}” stands in this text twice: the new one was put beside it. Take one of them out; nothing was changed.`,
        { text: 'It stands in here twice.' },
      );
    const calls = callsOf(show, old.id);
    const placed = reanchor(old.text, text, calls);
    const changes: RowChange[] = [
      replaceRow('scripts', old, {
        ...old,
        title: p.title,
        format: p.format,
        text,
        draft: old.draft + (old.text === text ? 0 : 1),
      }),
    ];
    placed.forEach((call, i) => {
      const before = calls[i];
      if (before) changes.push(replaceRow('calls', before, call));
    });
    const prompts = [...show.prompts.values()].filter((x) => x.scriptId === old.id);
    const moved = reanchor(old.text, text, prompts);
    moved.forEach((prompt, i) => {
      const before = prompts[i];
      if (before) changes.push(replaceRow('prompts', before, prompt));
    });
    const look = [...placed, ...moved].filter((c) => c.check).length;
    return {
      changes,
      summary: `Draft ${old.draft + 1} of “${p.title}”: ${plural(calls.length + prompts.length - look, 'call')} found again${look > 0 ? `, ${plural(look, 'call')} ${look === 1 ? 'needs' : 'need'} a look` : ''}`,
    };
  },
});

const Id = z.object({ id: RowId });
type Id = z.infer<typeof Id>;

/** Deletes a script with its calls; cues stay. */
export const deleteScript = defineEdit({
  name: 'delete-script',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const script = rowFor(show, 'scripts', id, 'already');
    if (isRefusal(script)) return script;
    const calls = callsOf(show, id);
    return {
      changes: deletionOf(show, 'scripts', new Set([id])),
      summary: `Deleted the script “${script.title}”${calls.length > 0 ? ` with ${plural(calls.length, 'call')}; the cues stay` : ''}`,
    };
  },
});

const Call = z.object({
  scriptId: idOf('scripts'),
  cueId: idOf('cues'),
  from: CallRow.shape.from,
  to: CallRow.shape.to,
});
type Call = z.infer<typeof Call>;

/** A cue is called on these words; it is called in one place of a script. */
export const setCall = defineEdit({
  name: 'set-call',
  params: Call,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const script = show.scripts.get(p.scriptId);
    const cue = show.cues.get(p.cueId);
    if (!script || !cue)
      return refuse(
        'not-found',
        'This script or cue has been deleted meanwhile. Nothing was changed.',
      );
    if (p.to <= p.from || p.to > script.text.length)
      return refuse('invalid', 'A call is on words of the script.', {
        from: 'Outside the script.',
      });
    const old = callsOf(show, script.id).find((c) => c.cueId === cue.id);
    const place = placeAt(script.text, p.from, p.to);
    const row: CallRow = { id: old?.id ?? newId(), scriptId: script.id, cueId: cue.id, ...place };
    if (old?.standby !== undefined && old.standby < place.from) row.standby = old.standby;
    const call = oneLine(place.quote).slice(0, LIMITS.nameLength);
    const said: RowChange[] = cue.call === call ? [] : [updateRow('cues', cue, { call })];
    return {
      changes: [old ? replaceRow('calls', old, row) : insertRow('calls', row), ...said],
      summary: `${old ? 'Moved' : 'Put'} cue ${formatCueNumber(cue.number)} ${old ? 'to' : 'on'} “${call}”`,
    };
  },
});

const Change = z.object({
  id: RowId,
  /** The place is right as it is. */ checked: z.boolean().optional(),
  standby: CallRow.shape.standby.nullable(),
});
type Change = z.infer<typeof Change>;

/** Changes where a call stands by, or says that it is right after a new draft. */
export const changeCall = defineEdit({
  name: 'change-call',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const call = show.calls.get(p.id);
    if (!call) return refuse('not-found', 'This call has been taken off meanwhile.');
    const next: CallRow = { ...call };
    if (p.checked) delete next.check;
    if (p.standby === null) delete next.standby;
    else if (p.standby !== undefined) {
      if (p.standby >= call.from)
        return refuse('invalid', 'A stand-by comes before its call.', { standby: 'Too late.' });
      next.standby = p.standby;
    }
    const cue = show.cues.get(call.cueId);
    const standby = p.standby === null ? 'Took off the stand-by for' : 'Set the stand-by for';
    return {
      changes: [replaceRow('calls', call, next)],
      summary: `${p.checked ? 'Checked' : standby} cue ${cue ? formatCueNumber(cue.number) : '?'}`,
    };
  },
});

/** Takes a cue's call off the script. */
export const removeCall = defineEdit({
  name: 'remove-call',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const call = show.calls.get(id);
    const cue = call ? show.cues.get(call.cueId) : undefined;
    if (!call) return refuse('not-found', 'This call has been taken off already.');
    return {
      changes: [deleteRow('calls', call)],
      summary: `Took cue ${cue ? formatCueNumber(cue.number) : '?'} off “${call.quote}”; the cue stays`,
    };
  },
});

const Flags = z.object({ scriptId: idOf('scripts'), listId: idOf('lists') });
type Flags = z.infer<typeof Flags>;

/** Cues that the script names, made where they are missing, each called where it is named. */
export const cuesFromFlags = defineEdit({
  name: 'cues-from-flags',
  params: Flags,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const script = show.scripts.get(p.scriptId);
    if (!script || !show.lists.has(p.listId))
      return refuse(
        'not-found',
        'This script or list has been deleted meanwhile. Nothing was changed.',
      );
    const flags = flagsIn(script.text);
    if (flags.length === 0)
      return refuse(
        'nothing',
        'This script names no cues. A cue is named like [LX 12] or [LX 12 Quay at dusk].',
      );
    const cues = new Map(show.cuesOf(p.listId).map((c) => [c.number, c]));
    const called = new Set(callsOf(show, script.id).map((c) => c.cueId));
    const changes: RowChange[] = [];
    let made = 0;
    let put = 0;
    for (const flag of flags) {
      const place = placeAt(script.text, flag.from, flag.to);
      const call = place.quote.slice(0, LIMITS.nameLength);
      let cue: CueRow | undefined = cues.get(flag.number);
      if (!cue) {
        cue = { ...emptyCue(newId(), p.listId, flag.number, flag.name), call };
        cues.set(flag.number, cue);
        changes.push(insertRow('cues', cue));
        made++;
      }
      if (called.has(cue.id)) continue;
      called.add(cue.id);
      changes.push(
        insertRow('calls', { id: newId(), scriptId: script.id, cueId: cue.id, ...place }),
      );
      put++;
    }
    if (changes.length === 0)
      return refuse('nothing', 'All cues that this script names are there and called already.');
    return {
      changes,
      summary: `Made ${plural(made, 'cue')} that the script names, put ${plural(put, 'call')}`,
    };
  },
});
