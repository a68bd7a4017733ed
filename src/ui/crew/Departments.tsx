/** Who is called besides light. */
'use client';
import { Pencil, X } from 'lucide-react';
import { useState } from 'react';
import { plural } from '@/core/words';
import { Button, Field, IconButton } from '../parts/controls';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

/** Departments that are called beside light. */
export function Departments() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const [renaming, setRenaming] = useState<string | null>(null);
  const all = [...show.departments.values()].sort((a, b) => a.name.localeCompare(b.name));
  const add = async (): Promise<void> => {
    const answer = await edit('set-department', {
      ...(renaming ? { id: renaming } : {}),
      set: { name: name.trim() },
    });
    setProblem(answer instanceof ApiError ? answer.message : undefined);
    if (answer instanceof ApiError) return;
    setName('');
    setRenaming(null);
  };
  return (
    <section aria-label="Departments" className="mt-6">
      <h2 className="text-[15px] font-semibold">Departments that are called</h2>
      {all.length === 0 && (
        <p className="mt-1 text-[12.5px] text-muted">
          Light is called by its cues. Name others, such as sound, flies or follow spots, and call
          them from the script.
        </p>
      )}
      <ul className="mt-1">
        {all.map((d) => {
          const calls = [...show.prompts.values()].filter((p) => p.department === d.id).length;
          return (
            <li key={d.id} className="flex min-h-9 items-center gap-2 border-b border-raised">
              <span className="min-w-0 flex-1 truncate">
                <span className="font-medium">{d.name}</span>{' '}
                <span className="text-muted">
                  {calls === 0 ? 'no calls in the script yet' : plural(calls, 'call')}
                </span>
              </span>
              {may && (
                <>
                  <IconButton
                    label={`Rename ${d.name}`}
                    onClick={() => (setRenaming(d.id), setName(d.name))}
                  >
                    <Pencil size={14} />
                  </IconButton>
                  <IconButton
                    label={`Delete ${d.name}`}
                    onClick={() => void edit('delete-department', { id: d.id })}
                  >
                    <X size={15} />
                  </IconButton>
                </>
              )}
            </li>
          );
        })}
      </ul>
      {may && (
        <form
          className="mt-2 grid grid-cols-[1fr_auto] items-start gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void add();
          }}
        >
          <Field
            label={renaming ? 'Its new name' : 'Another department'}
            value={name}
            maxLength={120}
            problem={problem}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit" disabled={name.trim() === ''} className="mt-5">
            {renaming ? 'Rename' : 'Add'}
          </Button>
        </form>
      )}
    </section>
  );
}
