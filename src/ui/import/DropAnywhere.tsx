/** Files dropped anywhere on a show are looked at, and taken in when that is wanted. */
'use client';
import { useEffect, useState } from 'react';
import { mayEdit, useScreen } from '../state/store';
import { ImportDialog } from './ImportDialog';

const hasFiles = (e: DragEvent): boolean => e.dataTransfer?.types.includes('Files') === true;

/** Files may be dropped on any place of a show. */
export function DropAnywhere() {
  const may = useScreen((s) => mayEdit(s.you.role) && !s.screenLocked);
  const [files, setFiles] = useState<readonly File[] | null>(null);
  const [isOver, setOver] = useState(false);
  useEffect(() => {
    // An open dialog takes what it can itself; a page that is left by a dropped file is work lost.
    const isFree = (): boolean => may && document.querySelector('[role="dialog"]') === null;
    const over = (e: DragEvent): void => {
      if (!hasFiles(e)) return;
      e.preventDefault();
      setOver(isFree());
    };
    const leave = (e: DragEvent): void => {
      if (e.relatedTarget === null) setOver(false);
    };
    const drop = (e: DragEvent): void => {
      if (!hasFiles(e)) return;
      e.preventDefault();
      setOver(false);
      const dropped = [...(e.dataTransfer?.files ?? [])];
      if (isFree() && dropped.length > 0) setFiles(dropped);
    };
    window.addEventListener('dragover', over);
    window.addEventListener('dragleave', leave);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('drop', drop);
    };
  }, [may]);
  return (
    <>
      {isOver && (
        <div className="pointer-events-none fixed inset-0 z-50 grid place-items-center bg-ink/80 text-[18px] text-standby inset-ring-2 inset-ring-standby">
          Drop to look at what is in it
        </div>
      )}
      {files && <ImportDialog files={files} onClose={() => setFiles(null)} />}
    </>
  );
}
