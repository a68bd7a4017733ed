/** What is put on a sheet: dragged onto it, or pressed, which puts it in the first free place. */
'use client';
import { useDraggable } from '@dnd-kit/core';
import { useMemo, useState } from 'react';
import { useShow } from '../../state/store';
import { searched, thingsOf, type Thing } from './things';

/** Units and areas where they are, instead of by their names: under the sheet. */
export const PLAN = 'The plan';

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

/** @param title which of the shelves is open */
export function PieceShelf({
  sheetId,
  title,
  setTitle,
  onPut,
}: {
  sheetId: string;
  title: string;
  setTitle: (title: string) => void;
  onPut: (thing: Thing) => void;
}) {
  const show = useShow();
  const [words, setWords] = useState('');
  const all = useMemo(() => thingsOf(show, sheetId), [show, sheetId]);
  const open = all.find((t) => t.title === title) ?? all[0];
  const searching = words.trim() !== '';
  const shown = searching ? all.flatMap((t) => t.things) : (open?.things ?? []);
  const showsPlan = !searching && title === PLAN;
  return (
    <aside
      aria-label="Pieces to put on"
      className="flex min-h-0 w-40 flex-none flex-col border-r border-line"
    >
      <div className="flex flex-none gap-1.5 p-2">
        <select
          aria-label="Which pieces"
          value={showsPlan ? PLAN : open?.title}
          disabled={searching}
          onChange={(e) => setTitle(e.target.value)}
          className="h-8 min-w-0 flex-1 rounded-md bg-raised px-1.5 text-[12.5px]"
        >
          {all.map((t) => (
            <option key={t.title}>{t.title}</option>
          ))}
          <option>{PLAN}</option>
        </select>
      </div>
      <input
        aria-label="Find a piece"
        inputMode="search"
        placeholder="find"
        value={words}
        onChange={(e) => setWords(e.target.value)}
        className="mx-2 mb-1 h-8 flex-none rounded-md bg-ink px-2.5 text-[12.5px] inset-ring inset-ring-edge placeholder:text-dim"
      />
      {showsPlan ? (
        <p className="m-0 px-3 py-1 text-[12.5px] text-muted">
          From the plan below: drag a unit or an area onto the sheet. Units that are selected (Ctrl
          adds) go together.
        </p>
      ) : (
        <ul className="min-h-0 flex-1 overflow-y-auto px-1 pb-2">
          {searched(shown, words).map((t) => (
            <Item key={t.id} thing={t} onPut={onPut} />
          ))}
        </ul>
      )}
    </aside>
  );
}
