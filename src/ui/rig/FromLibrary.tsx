/** Of a type that the house keeps: which revision of the maker's file it is, which shows have it; as a file, and out of the library. */
'use client';
import { listed } from '@/core/words';
import { useScreen } from '../state/store';
import { takeOutOfLibrary, useLibrary } from '../state/library';
import { notice } from '../state/messages';

/** What is known of a type that the house keeps. */
export function FromLibrary({ id }: { id: string }) {
  const type = useLibrary((s) => s.types.find((t) => t.id === id));
  const makes = useScreen((s) => s.makes);
  if (!type) return null;
  const { revision, shows } = type;
  return (
    <div
      className="flex flex-wrap items-center gap-x-3 py-1 pr-3 pl-8 text-[12px] text-muted"
      data-testid="from-library"
    >
      <span>
        {revision === '' ? 'The maker’s file' : `The maker’s file of ${revision}`}
        {shows.length > 0 && `, in ${listed(shows, 3)}`}
      </span>
      <a href={`/api/library/${id}?as=gdtf`} download className="hover:text-soft">
        As a file
      </a>
      {makes && (
        <button
          type="button"
          title="Shows that have it keep theirs"
          onClick={() =>
            void takeOutOfLibrary(id).catch(() =>
              notice.error('It cannot be taken out of the library just now.'),
            )
          }
          className="hover:text-soft"
        >
          Out of the library
        </button>
      )}
    </div>
  );
}
