/** Groups: selected by a click, made from the selection, opened to change who is in them and in which order. */
'use client';
import { Pencil, Plus } from 'lucide-react';
import { useState } from 'react';
import { membersOf } from '@/core/groups/members';
import { plural } from '@/core/words';
import type { GroupRow } from '@/core/groups/rows';
import { Button, Dialog, Field, IconButton } from '../parts/controls';
import { PUT_ON_FADER, putOnFader } from '../state/put-on-fader';
import { PUT_ON_SHEET, putOnSheet } from '../state/put-on-sheet';
import { RowMenu, type RowItem } from '../parts/RowMenu';
import { select } from '../state/commands';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow } from '../state/store';
import { GroupEditor } from './GroupEditor';

/** What can be done with a group. */
const menuOf = (
  group: GroupRow,
  {
    members,
    selection,
    editable,
    onChange,
  }: {
    members: readonly string[];
    selection: readonly string[];
    editable: boolean;
    onChange: () => void;
  },
): RowItem[] => [
  { label: `Select ${group.name}`, run: () => select(members) },
  {
    label: 'Add to the selection',
    run: () => select([...new Set([...selection, ...members])]),
  },
  {
    label: 'Take out of the selection',
    disabled: !members.some((id) => selection.includes(id)),
    run: () => select(selection.filter((id) => !members.includes(id))),
  },
  { label: 'Change it …', first: true, disabled: !editable, run: onChange },
  { label: PUT_ON_FADER, disabled: !editable, run: () => putOnFader('group', group.id) },
  {
    label: PUT_ON_SHEET,
    disabled: !editable,
    run: () => putOnSheet(group.name, { kind: 'group', group: group.id }),
  },
  {
    label: 'Be the selection',
    disabled: !editable || selection.length === 0,
    run: () => void edit('change-group', { id: group.id, set: { fixtures: [...selection] } }),
  },
];

function GroupLine({ group, onChange }: { group: GroupRow; onChange: () => void }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const members = membersOf(show, group);
  const isSelected = members.length > 0 && members.join() === selection.join();
  const isNested = group.fixtures.some((id) => show.groups.has(id));
  const press = (isMore: boolean): void => {
    if (isMore) select([...new Set([...selection, ...members])]);
    else select(isSelected ? [] : members);
  };
  return (
    <RowMenu
      label={`Menu of group ${group.name}`}
      items={() => menuOf(group, { members, selection, editable, onChange })}
    >
      <li className="group relative">
        <button
          type="button"
          aria-pressed={isSelected}
          title={`Group ${group.number}: Ctrl adds to the selection${isNested ? '; it holds other groups' : ''}`}
          onClick={(e) => press(e.ctrlKey || e.metaKey)}
          className={`flex h-8 w-full items-center justify-between gap-2 pr-3 pl-4 text-left ${isSelected ? 'bg-standby-wash font-semibold text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}
        >
          <span className="truncate">{group.name}</span>
          <span
            className={`num text-[11.5px] ${isSelected ? 'text-standby' : 'text-muted'} ${editable ? 'group-focus-within:opacity-0 group-hover:opacity-0' : ''}`}
          >
            {members.length}
          </span>
        </button>
        {editable && (
          <button
            type="button"
            aria-label={`Change group ${group.name}`}
            title="Change it: name, members, order"
            onClick={onChange}
            className="absolute top-0.5 right-1 grid size-7 place-items-center rounded text-muted opacity-0 group-hover:opacity-100 hover:text-text focus-visible:opacity-100"
          >
            <Pencil size={13} />
          </button>
        )}
      </li>
    </RowMenu>
  );
}

/** The selection as a group of that name. */
function MakeGroup({ onClose }: { onClose: () => void }) {
  const selection = useScreen((s) => s.selection);
  const [name, setName] = useState('');
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Make a group"
      about={`${plural(selection.length, 'fixture')}, in the order they were selected.`}
      width="w-[360px]"
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void edit('record-group', { name: name.trim(), fixtures: [...selection] }).then(
            (a) => 'seq' in a && onClose(),
          );
        }}
      >
        <Field
          label="Name"
          autoFocus
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
        />
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit" disabled={!name.trim()}>
            Make group
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Groups of the show, to be selected. */
export function Groups() {
  const show = useShow();
  const isSelecting = useScreen((s) => s.selection.length > 0);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const [making, setMaking] = useState(false);
  const [editing, setEditing] = useState<GroupRow | null>(null);
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  return (
    <section aria-label="Groups" data-scroll="groups" className="h-full overflow-y-auto py-2.5">
      <div className="flex h-7 items-center justify-between pr-1.5 pl-4">
        <span className="cap">Groups</span>
        {editable && (
          <IconButton
            label={
              isSelecting
                ? 'Make a group of the selection'
                : 'Select fixtures first, then make a group'
            }
            disabled={!isSelecting}
            onClick={() => setMaking(true)}
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
        {groups.map((g) => (
          <GroupLine key={g.id} group={g} onChange={() => setEditing(g)} />
        ))}
      </ul>
      {making && <MakeGroup onClose={() => setMaking(false)} />}
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
