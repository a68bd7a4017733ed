/** Gives fixtures and lists to one person. */
'use client';
import { useState } from 'react';
import { numberRanges, plural } from '@/core/edits/edit';
import type { Member } from '@/core/live/answers';
import type { PartRow } from '@/core/show/rows';
import { Button, Check, Choice, Dialog, Field } from '../parts/controls';
import { edit } from '../state/actions';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

export function PartDialog({ part, members, onClose }: { part: PartRow | undefined; members: readonly Member[]; onClose: () => void }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const editors = members.filter((m) => mayEdit(m.role));
  const [name, setName] = useState(part?.name ?? '');
  const [userId, setUserId] = useState(part?.userId ?? editors[0]?.userId ?? '');
  const [fixtures, setFixtures] = useState<readonly string[]>(part?.fixtures ?? selection);
  const [lists, setLists] = useState<readonly string[]>(part?.lists ?? []);
  const [problem, setProblem] = useState<string>();
  const numbers = fixtures.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  const save = async (): Promise<void> => {
    const who = members.find((m) => m.userId === userId);
    const answer = await edit('set-part', { ...(part ? { id: part.id } : {}), set: { name: name.trim(), userId, userName: who?.name ?? '?', fixtures, lists } });
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={part ? `Part “${part.name}”` : 'Give a part to somebody'} about="They alone program it from then on. Others see it, play it, and can ask.">
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <div className="grid grid-cols-2 gap-2">
          <Field label="What it is called" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} problem={problem} />
          <Choice label="Whose it is" value={userId} onChange={(e) => setUserId(e.target.value)} options={editors.map((m) => ({ value: m.userId, label: m.name }))} />
        </div>
        <div>
          <p className="text-[12px] text-muted">Fixtures</p>
          <p className="num mt-0.5">{numbers.length > 0 ? numberRanges(numbers) : 'none'}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            <Button disabled={selection.length === 0} title={selection.length === 0 ? 'Select fixtures on the stage first' : undefined} onClick={() => setFixtures(selection)}>
              {selection.length === 0 ? 'Take the selection' : `Take the ${plural(selection.length, 'selected one')}`}
            </Button>
            <select aria-label="Add a group" value="" onChange={(e) => setFixtures([...new Set([...fixtures, ...(show.groups.get(e.target.value)?.fixtures ?? []).filter((id) => show.fixtures.has(id))])])} className="h-8 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]">
              <option value="">Add a group …</option>
              {groups.map((g) => (
                <option key={g.id} value={g.id}>
                  {g.name}
                </option>
              ))}
            </select>
            <Button kind="quiet" disabled={fixtures.length === 0} onClick={() => setFixtures([])}>
              None
            </Button>
          </div>
        </div>
        <div>
          <p className="text-[12px] text-muted">Lists</p>
          {[...show.lists.values()].map((l) => (
            <Check key={l.id} checked={lists.includes(l.id)} onChange={(on) => setLists(on ? [...lists, l.id] : lists.filter((x) => x !== l.id))}>
              {l.number} {l.name}
            </Check>
          ))}
        </div>
        <div className="flex justify-end">
          <Button kind="strong" type="submit" disabled={name.trim() === '' || userId === ''}>
            {part ? 'Keep' : 'Give it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
