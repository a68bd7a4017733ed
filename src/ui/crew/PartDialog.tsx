/** Gives fixtures and lists to one person. */
'use client';
import { useState } from 'react';
import type { Member } from '@/core/live/answers';
import { PartRow } from '@/core/crew/rows';
import { PartFixtures } from './PartFixtures';
import { Button, Check, Choice, Dialog, Field } from '../parts/controls';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

/** What the field of its priority has: nothing, a number, or why it is none. */
function readPriority(text: string): { value?: number; problem?: string } {
  if (text.trim() === '') return {};
  const read = PartRow.shape.priority.safeParse(Number(text.replace(',', '.')));
  return read.success ? { value: read.data } : { problem: 'A whole number from 0 to 200.' };
}

/** A part as it is about to be given. */
function usePartDraft(part: PartRow | undefined, members: readonly Member[]) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const [name, setName] = useState(part?.name ?? '');
  const [userId, setUserId] = useState(part?.userId ?? members[0]?.userId ?? '');
  const [fixtures, setFixtures] = useState<readonly string[]>(
    part?.fixtures ??
      selection.filter((id) => ![...show.parts.values()].some((p) => p.fixtures.includes(id))),
  );
  const [lists, setLists] = useState<readonly string[]>(part?.lists ?? []);
  /** Empty: as the routes of its universes say. */
  const [priorityText, setPriority] = useState(String(part?.priority ?? ''));
  const priority = readPriority(priorityText);
  const params = {
    ...(part ? { id: part.id } : {}),
    set: {
      name: name.trim(),
      userId,
      userName: members.find((m) => m.userId === userId)?.name ?? part?.userName ?? '?',
      fixtures,
      lists,
      ...(priority.value === undefined ? {} : { priority: priority.value }),
    },
  };
  return {
    name,
    setName,
    userId,
    setUserId,
    fixtures,
    setFixtures,
    lists,
    setLists,
    priorityText,
    setPriority,
    priority,
    params,
    isReady: name.trim() !== '' && userId !== '' && priority.problem === undefined,
  };
}

/** Gives a part of the show to somebody. */
export function PartDialog({
  part,
  members,
  onClose,
}: {
  part: PartRow | undefined;
  members: readonly Member[];
  onClose: () => void;
}) {
  const you = useScreen((s) => s.you);
  const editors = members.filter((m) => mayEdit(m.role));
  const draft = usePartDraft(part, editors);
  const isHere = !part || editors.some((m) => m.userId === part.userId);
  const gone = isHere ? [] : [{ value: part.userId, label: `${part.userName}, not in the show` }];
  const [problem, setProblem] = useState<string>();
  const theirs = part !== undefined && part.userId !== you.userId;
  const save = async (): Promise<void> => {
    const answer = await edit('set-part', draft.params);
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
          if (draft.isReady) void save();
        }}
      >
        <div className="grid grid-cols-2 gap-2">
          <Field
            label="What it is called"
            value={draft.name}
            maxLength={120}
            onChange={(e) => draft.setName(e.target.value)}
            problem={problem}
          />
          <Choice
            label="Whose it is"
            value={draft.userId}
            onChange={(e) => draft.setUserId(e.target.value)}
            options={[...editors.map((m) => ({ value: m.userId, label: m.name })), ...gone]}
          />
        </div>
        <Field
          label="Its sACN priority on the wire, address by address; 0: another desk has these units"
          value={draft.priorityText}
          inputMode="numeric"
          placeholder="as their universes are sent"
          onChange={(e) => draft.setPriority(e.target.value)}
          problem={draft.priority.problem}
        />
        <PartFixtures partId={part?.id} chosen={draft.fixtures} onChange={draft.setFixtures} />
        <PartLists chosen={draft.lists} onChange={draft.setLists} />
        <div className="flex items-center justify-end gap-3">
          {theirs && (
            <p className="flex-1 text-[12.5px] text-warning">
              This is {part.userName}’s. You decide as an owner; {part.userName} is told.
            </p>
          )}
          <Button kind="strong" type="submit" disabled={!draft.isReady}>
            {part ? 'Keep' : 'Give it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function PartLists({
  chosen,
  onChange,
}: {
  chosen: readonly string[];
  onChange: (ids: readonly string[]) => void;
}) {
  const show = useShow();
  return (
    <div>
      <p className="text-[12px] text-muted">Lists</p>
      {[...show.lists.values()].map((l) => (
        <Check
          key={l.id}
          checked={chosen.includes(l.id)}
          onChange={(on) => onChange(on ? [...chosen, l.id] : chosen.filter((x) => x !== l.id))}
        >
          {l.number} {l.name}
        </Check>
      ))}
    </div>
  );
}
