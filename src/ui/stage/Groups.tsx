/** Groups: selected by a click, made from the selection, opened to change who is in them and in which order. */
'use client';
import { ArrowDown, ArrowUp, Pencil, Plus, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { groupUses } from '@/core/groups/edits';
import { membersOf } from '@/core/groups/members';
import { plural } from '@/core/words';
import type { GroupRow } from '@/core/groups/rows';
import { Ask, Button, Choice, Dialog, Field, IconButton } from '../parts/controls';
import { PUT_ON_FADER, putOnFader } from '../state/put-on-fader';
import { PUT_ON_SHEET, putOnSheet } from '../state/put-on-sheet';
import { RowMenu } from '../parts/RowMenu';
import { edit, select } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';

export function Groups() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const you = useScreen((s) => s.you);
  const [naming, setNaming] = useState<string | null>(null);
  const [editing, setEditing] = useState<GroupRow | null>(null);
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  const chosen = selection.join();
  const editable = mayEdit(you.role);
  return (
    <section aria-label="Groups" data-scroll="groups" className="h-full overflow-y-auto py-2.5">
      <div className="flex h-7 items-center justify-between pr-1.5 pl-4">
        <span className="cap">Groups</span>
        {editable && (
          <IconButton
            label={
              selection.length > 0
                ? 'Make a group of the selection'
                : 'Select fixtures first, then make a group'
            }
            disabled={selection.length === 0}
            onClick={() => setNaming('')}
            className="!size-7"
          >
            <Plus size={14} />
          </IconButton>
        )}
      </div>
      {groups.length === 0 && (
        <p className="px-4 pt-1 text-[12px] leading-4 text-muted">
          Select fixtures and press + to keep them as a group.
        </p>
      )}
      <ul>
        {groups.map((g) => {
          const members = membersOf(show, g);
          const on = members.length > 0 && members.join() === chosen;
          const nested = g.fixtures.some((id) => show.groups.has(id));
          return (
            <RowMenu
              key={g.id}
              label={`Menu of group ${g.name}`}
              items={() => [
                { label: `Select ${g.name}`, run: () => select(members) },
                {
                  label: 'Add to the selection',
                  run: () => select([...new Set([...selection, ...members])]),
                },
                {
                  label: 'Take out of the selection',
                  disabled: !members.some((id) => selection.includes(id)),
                  run: () => select(selection.filter((id) => !members.includes(id))),
                },
                {
                  label: 'Change it …',
                  first: true,
                  disabled: !editable,
                  run: () => setEditing(g),
                },
                {
                  label: PUT_ON_FADER,
                  disabled: !editable,
                  run: () => putOnFader('group', g.id),
                },
                {
                  label: PUT_ON_SHEET,
                  disabled: !editable,
                  run: () => putOnSheet(g.name, { kind: 'group', group: g.id }),
                },
                {
                  label: 'Be the selection',
                  disabled: !editable || selection.length === 0,
                  run: () =>
                    void edit('change-group', { id: g.id, set: { fixtures: [...selection] } }),
                },
              ]}
            >
              <li className="group relative">
                <button
                  type="button"
                  aria-pressed={on}
                  title={`Group ${g.number}: Ctrl adds to the selection${nested ? '; it holds other groups' : ''}`}
                  onClick={(e) =>
                    select(
                      e.ctrlKey || e.metaKey
                        ? [...new Set([...selection, ...members])]
                        : on
                          ? []
                          : members,
                    )
                  }
                  className={`flex h-8 w-full items-center justify-between gap-2 pr-3 pl-4 text-left ${on ? 'bg-standby-wash font-semibold text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}
                >
                  <span className="truncate">{g.name}</span>
                  <span
                    className={`num text-[11.5px] ${on ? 'text-standby' : 'text-muted'} ${editable ? 'group-focus-within:opacity-0 group-hover:opacity-0' : ''}`}
                  >
                    {members.length}
                  </span>
                </button>
                {editable && (
                  <button
                    type="button"
                    aria-label={`Change group ${g.name}`}
                    title="Change it: name, members, order"
                    onClick={() => setEditing(g)}
                    className="absolute top-0.5 right-1 grid size-7 place-items-center rounded text-muted opacity-0 group-hover:opacity-100 hover:text-text focus-visible:opacity-100"
                  >
                    <Pencil size={13} />
                  </button>
                )}
              </li>
            </RowMenu>
          );
        })}
      </ul>
      <Dialog
        open={naming !== null}
        onOpenChange={(o) => !o && setNaming(null)}
        title="Make a group"
        about={`${plural(selection.length, 'fixture')}, in the order they were selected.`}
        width="w-[360px]"
      >
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (naming?.trim())
              void edit('record-group', { name: naming.trim(), fixtures: [...selection] });
            setNaming(null);
          }}
        >
          <Field
            label="Name"
            autoFocus
            value={naming ?? ''}
            maxLength={120}
            onChange={(e) => setNaming(e.target.value)}
          />
          <div className="mt-4 flex justify-end">
            <Button kind="strong" type="submit" disabled={!naming?.trim()}>
              Make group
            </Button>
          </div>
        </form>
      </Dialog>
      {editing && (
        <GroupEditor
          key={editing.id}
          group={show.groups.get(editing.id) ?? editing}
          onClose={() => setEditing(null)}
        />
      )}
    </section>
  );
}

/** Members as they stand, moved and taken out one by one; the selection or another group put in. */
function GroupEditor({ group, onClose }: { group: GroupRow; onClose: () => void }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const [name, setName] = useState(group.name);
  const [members, setMembers] = useState<readonly string[]>(group.fixtures);
  const [asking, setAsking] = useState(false);
  const others = [...show.groups.values()]
    .filter((g) => g.id !== group.id && !members.includes(g.id))
    .sort((a, b) => a.number - b.number);
  const say = (id: string): { head: string; rest: string } => {
    const inner = show.groups.get(id);
    const fixture = show.fixtures.get(id);
    return inner
      ? { head: 'group', rest: `${inner.name}, ${membersOf(show, inner).length}` }
      : { head: String(fixture?.number ?? '?'), rest: fixture?.label ?? 'gone' };
  };
  const swap = (i: number, j: number): void => {
    const next = [...members];
    [next[i], next[j]] = [next[j] ?? '', next[i] ?? ''];
    setMembers(next);
  };
  const uses = groupUses(show, group.id);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Group ${group.number} “${group.name}”`}
      about="Order matters for fans and effects."
      width="w-[430px]"
    >
      <Field label="Name" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
      <ol className="mt-3 max-h-56 overflow-y-auto rounded-md bg-ink p-1" aria-label="Members">
        {members.map((id, i) => {
          const { head, rest } = say(id);
          return (
            <li key={id} className="flex h-8 items-center gap-2 px-2">
              <span className="num w-12 flex-none text-[12px] text-muted">{head}</span>
              <span className="min-w-0 flex-1 truncate text-soft">{rest}</span>
              <IconButton
                label={`Move ${rest} up`}
                className="!size-7"
                disabled={i === 0}
                onClick={() => swap(i, i - 1)}
              >
                <ArrowUp size={13} />
              </IconButton>
              <IconButton
                label={`Move ${rest} down`}
                className="!size-7"
                disabled={i === members.length - 1}
                onClick={() => swap(i, i + 1)}
              >
                <ArrowDown size={13} />
              </IconButton>
              <IconButton
                label={`Take ${rest} out`}
                className="!size-7"
                onClick={() => setMembers(members.filter((m) => m !== id))}
              >
                <X size={13} />
              </IconButton>
            </li>
          );
        })}
      </ol>
      <div className="mt-3 flex items-end gap-2">
        <Button
          disabled={selection.length === 0}
          onClick={() => setMembers([...new Set([...members, ...selection])])}
        >
          Add the selection
        </Button>
        <Button
          disabled={selection.length === 0}
          title="Exactly what is selected, in its order"
          onClick={() => setMembers([...selection])}
        >
          Be the selection
        </Button>
        <Choice
          label="Put in a group"
          className="flex-1"
          value=""
          onChange={(e) => e.target.value && setMembers([...members, e.target.value])}
          options={[
            { value: '', label: '…' },
            ...others.map((g) => ({ value: g.id, label: `${g.number} ${g.name}` })),
          ]}
        />
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Button
          kind="danger"
          className="mr-auto"
          onClick={() =>
            uses.length > 0
              ? setAsking(true)
              : void edit('delete-group', { id: group.id }).then(onClose)
          }
        >
          <Trash2 size={13} /> Delete
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        <Button
          kind="strong"
          disabled={!name.trim() || members.length === 0}
          onClick={() =>
            void edit('change-group', {
              id: group.id,
              set: { name: name.trim(), fixtures: members },
            }).then((a) => 'seq' in a && onClose())
          }
        >
          Save
        </Button>
      </div>
      {asking && (
        <Ask
          open
          onClose={() => setAsking(false)}
          title={`Delete group ${group.number} “${group.name}”?`}
          act="Delete"
          onAct={() => void edit('delete-group', { id: group.id }).then(onClose)}
        >
          <p>{`It is in ${uses.slice(0, 6).join(', ')}${uses.length > 6 ? ' …' : ''}; they keep its members.`}</p>
        </Ask>
      )}
    </Dialog>
  );
}
