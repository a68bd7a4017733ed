/** What is put on a sheet: dragged onto it, or pressed, which puts it in the first free place. */
'use client';
import { useDraggable } from '@dnd-kit/core';
import { useMemo, useState } from 'react';
import { useShow } from '../../state/store';
import { searched, thingsOf, type Thing } from './things';

function Item({ thing, onPut }: { thing: Thing; onPut: (thing: Thing) => void }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: thing.id, data: { thing } });
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        data-thing={thing.id}
        onClick={() => onPut(thing)}
        className={`h-8 w-full touch-none truncate rounded-md px-2.5 text-left text-[12.5px] text-soft hover:bg-raised ${isDragging ? 'opacity-40' : ''}`}
        {...listeners}
      >
        {thing.name}
      </button>
    </li>
  );
}

export function PieceShelf({ sheetId, onPut }: { sheetId: string; onPut: (thing: Thing) => void }) {
  const show = useShow();
  const [title, setTitle] = useState('Pieces');
  const [words, setWords] = useState('');
  const all = useMemo(() => thingsOf(show, sheetId), [show, sheetId]);
  const open = all.find((t) => t.title === title) ?? all[0];
  const shown = words.trim() === '' ? (open?.things ?? []) : all.flatMap((t) => t.things);
  return (
    <aside
      aria-label="Pieces to put on"
      className="flex min-h-0 w-40 flex-none flex-col border-r border-line"
    >
      <div className="flex flex-none gap-1.5 p-2">
        <select
          aria-label="Which pieces"
          value={open?.title}
          disabled={words.trim() !== ''}
          onChange={(e) => setTitle(e.target.value)}
          className="h-8 min-w-0 flex-1 rounded-md bg-raised px-1.5 text-[12.5px]"
        >
          {all.map((t) => (
            <option key={t.title}>{t.title}</option>
          ))}
        </select>
      </div>
      <input
        aria-label="Find a piece"
        placeholder="find"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="mx-2 mb-1 h-8 flex-none rounded-md bg-ink px-2.5 text-[12.5px] inset-ring inset-ring-edge placeholder:text-dim"
      />
      <ul className="min-h-0 flex-1 overflow-y-auto px-1 pb-2">
        {searched(shown, words).map((t) => (
          <Item key={t.id} thing={t} onPut={onPut} />
        ))}
      </ul>
    </aside>
  );
}
