/** Gives fixtures and lists to one person. */
'use client';
import { useState } from 'react';
import type { Member } from '@/core/live/answers';
import type { PartRow } from '@/core/crew/rows';
import { PartFixtures } from './PartFixtures';
import { Button, Check, Choice, Dialog, Field } from '../parts/controls';
import { edit } from '../state/actions';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

export function PartDialog({
  part,
  members,
  onClose,
}: {
  part: PartRow | undefined;
  members: readonly Member[];
  onClose: () => void;
}) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const selection = useScreen((s) => s.selection);
  const editors = members.filter((m) => mayEdit(m.role));
  const [name, setName] = useState(part?.name ?? '');
  const [userId, setUserId] = useState(part?.userId ?? editors[0]?.userId ?? '');
  const [fixtures, setFixtures] = useState<readonly string[]>(
    part?.fixtures ??
      selection.filter((id) => ![...show.parts.values()].some((p) => p.fixtures.includes(id))),
  );
  const [lists, setLists] = useState<readonly string[]>(part?.lists ?? []);
  /** Empty: as the routes of its universes say. */
  const [priority, setPriority] = useState(String(part?.priority ?? ''));
  const [problem, setProblem] = useState<string>();
  const theirs = part !== undefined && part.userId !== you.userId;
  const save = async (): Promise<void> => {
    const who = members.find((m) => m.userId === userId);
    const answer = await edit('set-part', {
      ...(part ? { id: part.id } : {}),
      set: {
        name: name.trim(),
        userId,
        userName: who?.name ?? '?',
        fixtures,
        lists,
        ...(priority.trim() === '' ? {} : { priority: Number(priority) }),
      },
    });
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };
  return (
    <Dialog
      of={part ? `parts/${part.id}` : undefined}
      open
      onOpenChange={(o) => !o && onClose()}
      title={part ? `Part “${part.name}”` : 'Give a part to somebody'}
      width="w-[560px]"
      about="They alone program it from then on. Others see it, play it, and can ask."
    >
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <div className="grid grid-cols-2 gap-2">
          <Field
            label="What it is called"
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
            problem={problem}
          />
          <Choice
            label="Whose it is"
            value={userId}
            onChange={(e) => setUserId(e.target.value)}
            options={editors.map((m) => ({ value: m.userId, label: m.name }))}
          />
        </div>
        <Field
          label="Its sACN priority on the wire, address by address; 0: another desk has these units"
          value={priority}
          inputMode="numeric"
          placeholder="as their universes are sent"
          onChange={(e) => setPriority(e.target.value)}
        />
        <PartFixtures partId={part?.id} chosen={fixtures} onChange={setFixtures} />
        <div>
          <p className="text-[12px] text-muted">Lists</p>
          {[...show.lists.values()].map((l) => (
            <Check
              key={l.id}
              checked={lists.includes(l.id)}
              onChange={(on) => setLists(on ? [...lists, l.id] : lists.filter((x) => x !== l.id))}
            >
              {l.number} {l.name}
            </Check>
          ))}
        </div>
        <div className="flex items-center justify-end gap-3">
          {theirs && (
            <p className="flex-1 text-[12.5px] text-warning">
              This is {part.userName}’s. You decide as an owner; {part.userName} is told.
            </p>
          )}
          <Button kind="strong" type="submit" disabled={name.trim() === '' || userId === ''}>
            {part ? 'Keep' : 'Give it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
