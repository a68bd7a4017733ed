/** On which sheet something goes that was taken from the stage. */
'use client';
import { useRouter } from 'next/navigation';
import { plural } from '@/core/words';
import { Dialog } from '../parts/controls';
import { notice } from '../state/messages';
import { putPieces, usePutting } from '../state/put-on-sheet';
import { openSheet } from '../state/sheets';
import { useScreen } from '../state/store';
import { useOpenSheet } from './use-open-sheet';

/** Asks which sheet something goes on. */
export function PutOnSheet() {
  const putting = usePutting((s) => s.putting);
  const showId = useScreen((s) => s.showId);
  const router = useRouter();
  const { sheets, sheet: last } = useOpenSheet();
  if (!putting) return null;
  const close = (): void => usePutting.setState({ putting: null });
  const { name, pieces } = putting;
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && close()}
      title={`Put ${name} on a sheet`}
      about={
        sheets.length === 0
          ? 'There is no sheet yet. Make one in Sheets, then put things on it.'
          : `${pieces.length === 1 ? 'It goes' : `${plural(pieces.length, 'piece')} go`} to the first free place; arrange the sheet to move ${pieces.length === 1 ? 'it' : 'them'}.`
      }
      width="w-[360px]"
    >
      <ul className="-mx-2">
        {sheets.map((sheet) => (
          <li key={sheet.id}>
            <button
              type="button"
              data-put-on={sheet.id}
              onClick={() => {
                close();
                void putPieces(sheet, pieces).then((done) => {
                  if (!done) return;
                  notice.done(`${name} is on sheet “${sheet.name}”`, {
                    ways: [
                      {
                        label: 'Show it',
                        onClick: () => {
                          openSheet(sheet.id);
                          router.push(`/shows/${showId}/sheets`);
                        },
                      },
                    ],
                  });
                });
              }}
              className="flex min-h-9 w-full items-center gap-3 rounded-md px-2 text-left hover:bg-raised"
            >
              <span className="truncate font-medium">{sheet.name}</span>
              <span className="min-w-0 flex-1 truncate text-[12px] text-muted">
                {sheet.about ?? ''}
              </span>
              {sheet.id === last?.id && <span className="text-[12px] text-muted">open last</span>}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
