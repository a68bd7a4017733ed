/** The Book's dialogs: one is open at a time. */
'use client';
import { LightOverList } from './dialogs/LightOverList';
import { Delete, Insert, MoveOrCopy, Renumber, Skeleton, Split, Times } from './dialogs/CueDialogs';
import { ScriptImport } from './dialogs/Imports';
import { ListSettings } from './dialogs/ListSettings';
import { FindingsDialog } from './FindingsDialog';
import { ImportDialog } from '../import/ImportDialog';
import { useBookList } from '../state/book';
import { useBookDialog } from './menu';

/** Cues come in by the one dialog for files, into the list in sight. */
function CueImport() {
  const { listId } = useBookList();
  return <ImportDialog list={listId} onClose={() => useBookDialog.setState({ dialog: null })} />;
}

/** The dialog that is open over the Book, if any. */
export function BookDialogs() {
  const dialog = useBookDialog((s) => s.dialog);
  switch (dialog) {
    case 'skeleton':
      return <Skeleton />;
    case 'insert':
      return <Insert />;
    case 'move':
      return <MoveOrCopy copy={false} />;
    case 'copy':
      return <MoveOrCopy copy />;
    case 'renumber':
      return <Renumber />;
    case 'split':
      return <Split />;
    case 'times':
      return <Times />;
    case 'delete':
      return <Delete />;
    case 'list':
      return <ListSettings fresh={false} />;
    case 'new-list':
      return <ListSettings fresh />;
    case 'script':
      return <ScriptImport />;
    case 'import':
      return <CueImport />;
    case 'light':
      return <LightOverList />;
    case 'findings':
      return <FindingsDialog />;
    default:
      return null;
  }
}
