/** The sounds of the show: called by name, renamed, deleted where no list lies along them. */
'use client';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { SoundRow } from '@/core/sounds/rows';
import { formatMoment } from '@/core/time/moment';
import { plural } from '@/core/words';
import { IconButton } from '../../parts/controls';
import { WrittenCell } from '../../parts/WrittenCell';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';

const MB = 1024 * 1024;
const sayFile = ({ file }: SoundRow): string =>
  file ? `${formatMoment(file.length_s)}, ${(file.bytes / MB).toFixed(1)} MB` : 'of a cue';

function SoundLine({ sound }: { sound: SoundRow }) {
  return (
    <li className="flex items-center gap-2 border-t border-line py-0.5 first:border-t-0">
      <WrittenCell
        label={`Name of ${sound.name}`}
        value={sound.name}
        write={(name) => edit('change-sound', { id: sound.id, name: name.trim() })}
        className="flex-1 text-[13px]"
      />
      <span className="num text-[12px] whitespace-nowrap text-muted">{sayFile(sound)}</span>
      <IconButton
        label={`Delete ${sound.name}`}
        onClick={() => void edit('delete-sound', { id: sound.id })}
      >
        <Trash2 size={14} />
      </IconButton>
    </li>
  );
}

/** Sounds of the show. */
export function SoundList() {
  const sounds = [...useShow().sounds.values()].sort((a, b) => a.name.localeCompare(b.name));
  const [open, setOpen] = useState(false);
  if (sounds.length === 0) return null;
  return (
    <section aria-label="Sounds of the show" className="mt-2">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="h-8 text-[12.5px] text-muted hover:text-soft"
      >
        {open ? 'Hide' : 'Name and delete'} the show’s {plural(sounds.length, 'sound')}
      </button>
      {open && (
        <ul className="max-h-44 overflow-y-auto rounded-md bg-panel px-1">
          {sounds.map((s) => (
            <SoundLine key={s.id} sound={s} />
          ))}
        </ul>
      )}
    </section>
  );
}
