'use client';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Button, Dialog, Field, IconButton } from '../parts/controls';
import { edit, select } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';

export function Groups() {
  const show = useShow();
  const { selection, you } = useScreen();
  const [naming, setNaming] = useState<string | null>(null);
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  const chosen = selection.join();
  return (
    <section aria-label="Groups" className="h-full overflow-y-auto py-2.5">
      <div className="flex h-7 items-center justify-between pl-4 pr-1.5">
        <span className="cap">Groups</span>
        {mayEdit(you.role) && (
          <IconButton label={selection.length > 0 ? 'Make a group of the selection' : 'Select fixtures first, then make a group'} disabled={selection.length === 0} onClick={() => setNaming('')} className="!size-7">
            <Plus size={14} />
          </IconButton>
        )}
      </div>
      {groups.length === 0 && <p className="px-4 pt-1 text-[12px] leading-4 text-muted">Select fixtures and press + to keep them as a group.</p>}
      <ul>
        {groups.map((g) => {
          const on = g.fixtures.length > 0 && g.fixtures.join() === chosen;
          return (
            <li key={g.id} className="group relative">
              <button
                type="button"
                aria-pressed={on}
                title={`Group ${g.number}: Ctrl adds to the selection`}
                onClick={(e) => select(e.ctrlKey || e.metaKey ? [...new Set([...selection, ...g.fixtures])] : on ? [] : g.fixtures)}
                className={`flex h-8 w-full items-center justify-between gap-2 pl-4 pr-3 text-left ${on ? 'bg-standby-wash font-semibold text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}
              >
                <span className="truncate">{g.name}</span>
                <span className={`num text-[11.5px] ${on ? 'text-standby' : 'text-muted'} ${mayEdit(you.role) ? 'group-hover:opacity-0' : ''}`}>{g.fixtures.length}</span>
              </button>
              {mayEdit(you.role) && (
                <button type="button" aria-label={`Delete group ${g.name}`} title="Delete group (undo brings it back)" onClick={() => void edit('delete-group', { id: g.id })} className="absolute right-1 top-0.5 grid size-7 place-items-center rounded text-muted opacity-0 hover:text-danger focus-visible:opacity-100 group-hover:opacity-100">
                  <Trash2 size={13} />
                </button>
              )}
            </li>
          );
        })}
      </ul>
      <Dialog open={naming !== null} onOpenChange={(o) => !o && setNaming(null)} title="Make a group" about={`${selection.length} fixtures, in the order they were selected.`} width="w-[360px]">
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (naming?.trim()) void edit('record-group', { name: naming.trim(), fixtures: [...selection] });
            setNaming(null);
          }}
        >
          <Field label="Name" autoFocus value={naming ?? ''} maxLength={120} onChange={(e) => setNaming(e.target.value)} />
          <div className="mt-4 flex justify-end">
            <Button kind="strong" type="submit" disabled={!naming?.trim()}>
              Make group
            </Button>
          </div>
        </form>
      </Dialog>
    </section>
  );
}
