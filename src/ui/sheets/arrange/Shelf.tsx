/** What is put on a sheet: dragged onto it, or pressed, which puts it in the first free place. */
'use client';
import { useDraggable } from '@dnd-kit/core';
import { ImagePlus } from 'lucide-react';
import { useMemo, useRef, useState } from 'react';
import { addPicture } from '../../files/add-picture';
import { PictureInput } from '../../files/PictureInput';
import { Button } from '../../parts/controls';
import { RowMenu } from '../../parts/RowMenu';
import { edit } from '../../state/edits';
import { useScreen, useShow } from '../../state/store';
import { pictureThing, PICTURES, searched, thingsOf, type Thing } from './things';

/** Units and areas where they are, instead of by their names: under the sheet. */
export const PLAN = 'The plan';

function Item({ thing, onPut }: { thing: Thing; onPut: (thing: Thing) => void }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: thing.id, data: { thing } });
  const { is } = thing;
  // A finger that goes on at once scrolls; one that rests takes hold.
  const button = (
    <button
      ref={setNodeRef}
      type="button"
      data-thing={thing.id}
      title={thing.name}
      onClick={() => onPut(thing)}
      className={`h-8 w-full touch-manipulation truncate rounded-md px-2.5 text-left text-[12.5px] text-soft hover:bg-raised ${isDragging ? 'opacity-40' : ''}`}
      {...listeners}
    >
      {thing.name}
    </button>
  );
  if (is.kind !== 'picture') return <li>{button}</li>;
  const remove = {
    label: 'Delete this picture',
    danger: true,
    run: () => void edit('delete-picture', { id: is.picture }),
  };
  return (
    <li>
      <RowMenu label={`Picture ${thing.name}`} items={() => [remove]}>
        {button}
      </RowMenu>
    </li>
  );
}

/** A picture of one's own, which lies on the sheet at once. */
function AddPicture({ onPut }: { onPut: (thing: Thing) => void }) {
  const file = useRef<HTMLInputElement>(null);
  const take = async (chosen: File): Promise<void> => {
    const id = await addPicture(chosen);
    if (id !== undefined) onPut(pictureThing({ id, name: chosen.name }));
  };
  return (
    <div className="flex-none border-t border-line p-2">
      <Button kind="line" className="w-full" onClick={() => file.current?.click()}>
        <ImagePlus size={14} /> Add a picture …
      </Button>
      <PictureInput label="Picture of your own" input={file} onFile={(f) => void take(f)} />
    </div>
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
  // The show is one object that changes in place.
  const revision = useScreen((s) => s.revision);
  const all = useMemo(() => {
    void revision;
    return thingsOf(show, sheetId);
  }, [show, revision, sheetId]);
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
      {!searching && open?.title === PICTURES && !showsPlan && <AddPicture onPut={onPut} />}
    </aside>
  );
}
