/** Who is in a group, and in which order; its name, and its end. Others may change it meanwhile: what is not changed here follows. */
'use client';
import { listed } from '@/core/words';
import { ArrowDown, ArrowUp, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { groupUses } from '@/core/groups/edits';
import { membersOf } from '@/core/groups/members';
import type { GroupRow } from '@/core/groups/rows';
import type { Show } from '@/core/show/show';
import { Ask } from '../parts/Ask';
import { Button, Choice, Dialog, Field, IconButton } from '../parts/controls';
import { edit } from '../state/edits';
import { useScreen, useShow } from '../state/store';
import { OnFaders, useOnFaders } from './shelf/DeleteUsed';

/** A member as people say it: a unit by its number, a group by its name. */
function sayMember(show: Show, id: string): { head: string; rest: string } {
  const inner = show.groups.get(id);
  const fixture = show.fixtures.get(id);
  return inner
    ? { head: 'group', rest: `${inner.name}, ${membersOf(show, inner).length}` }
    : { head: String(fixture?.number ?? '?'), rest: fixture?.label ?? 'gone' };
}

/** With the member at a place one further up or down. */
function stepped(members: readonly string[], at: number, by: 1 | -1): string[] {
  const next = [...members];
  const [moved] = next.splice(at, 1);
  if (moved !== undefined) next.splice(at + by, 0, moved);
  return next;
}

interface Of {
  group: GroupRow;
  members: readonly string[];
  put: (members: readonly string[]) => void;
}

/** Members as they stand, moved and taken out one by one. */
function Members({ members, put }: Of) {
  const show = useShow();
  return (
    <ol className="mt-3 max-h-56 overflow-y-auto rounded-md bg-ink p-1" aria-label="Members">
      {members.map((id, i) => {
        const { head, rest } = sayMember(show, id);
        return (
          <li key={id} className="flex h-8 items-center gap-2 px-2">
            <span className="num w-12 flex-none text-[12px] text-muted">{head}</span>
            <span className="min-w-0 flex-1 truncate text-soft">{rest}</span>
            <IconButton
              label={`Move ${rest} up`}
              className="!size-7"
              disabled={i === 0}
              onClick={() => put(stepped(members, i, -1))}
            >
              <ArrowUp size={13} />
            </IconButton>
            <IconButton
              label={`Move ${rest} down`}
              className="!size-7"
              disabled={i === members.length - 1}
              onClick={() => put(stepped(members, i, 1))}
            >
              <ArrowDown size={13} />
            </IconButton>
            <IconButton
              label={`Take ${rest} out`}
              className="!size-7"
              onClick={() => put(members.filter((m) => m !== id))}
            >
              <X size={13} />
            </IconButton>
          </li>
        );
      })}
    </ol>
  );
}

/** The selection or another group, put in. */
function PutIn({ group, members, put }: Of) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const others = [...show.groups.values()]
    .filter((g) => g.id !== group.id && !members.includes(g.id))
    .sort((a, b) => a.number - b.number);
  return (
    <div className="mt-3 flex items-end gap-2">
      <Button
        disabled={selection.length === 0}
        onClick={() => put([...new Set([...members, ...selection])])}
      >
        Add the selection
      </Button>
      <Button
        disabled={selection.length === 0}
        title="Exactly what is selected, in its order"
        onClick={() => put([...selection])}
      >
        Be the selection
      </Button>
      <Choice
        label="Put in a group"
        className="flex-1"
        value=""
        onChange={(e) => e.target.value && put([...members, e.target.value])}
        options={[
          { value: '', label: '…' },
          ...others.map((g) => ({ value: g.id, label: `${g.number} ${g.name}` })),
        ]}
      />
    </div>
  );
}

/** Deletes it; where it is used, after a question. */
function DeleteGroup({ group, onDone }: { group: GroupRow; onDone: () => void }) {
  const show = useShow();
  const [asking, setAsking] = useState(false);
  const uses = groupUses(show, group.id);
  const onFaders = useOnFaders('group', group.id);
  const remove = (): void => void edit('delete-group', { id: group.id }).then(onDone);
  return (
    <>
      <Button
        kind="danger"
        className="mr-auto"
        onClick={() => (uses.length > 0 || onFaders ? setAsking(true) : remove())}
      >
        <Trash2 size={13} /> Delete
      </Button>
      {asking && (
        <Ask
          open
          onClose={() => setAsking(false)}
          title={`Delete group ${group.number} “${group.name}”?`}
          act="Delete"
          disabled={onFaders !== null}
          onAct={remove}
        >
          {uses.length > 0 && <p>It is in {listed(uses, 6)}; they keep its members.</p>}
          <OnFaders why={onFaders} />
        </Ask>
      )}
    </>
  );
}

/** A group’s name and members. */
export function GroupEditor({ group, onClose }: { group: GroupRow; onClose: () => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const [put, setPut] = useState<readonly string[] | null>(null);
  const name = typed ?? group.name;
  const members = put ?? group.fixtures;
  const of: Of = { group, members, put: setPut };
  const save = (): void => {
    const set = {
      ...(name.trim() === group.name ? {} : { name: name.trim() }),
      ...(put === null ? {} : { fixtures: put }),
    };
    if (Object.keys(set).length === 0) onClose();
    else void edit('change-group', { id: group.id, set }).then((a) => 'seq' in a && onClose());
  };
  return (
    <Dialog
      of={`groups/${group.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Group ${group.number} “${group.name}”`}
      about="Order matters for fans and effects."
      width="w-[430px]"
    >
      <Field label="Name" value={name} maxLength={120} onChange={(e) => setTyped(e.target.value)} />
      <Members {...of} />
      <PutIn {...of} />
      <div className="mt-4 flex justify-end gap-2">
        <DeleteGroup group={group} onDone={onClose} />
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        <Button kind="strong" disabled={!name.trim() || members.length === 0} onClick={save}>
          Save
        </Button>
      </div>
    </Dialog>
  );
}
