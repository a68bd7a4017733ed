/** Files from elsewhere: dropped or chosen, said what they are and would do, and taken in whole or not at all. */
'use client';
import { useEffect, useState } from 'react';
import { writeNumbers } from '@/core/formats/csv-table';
import { firstList } from '@/core/show/show';
import { plural } from '@/core/words';
import { Choice, Dialog } from '../parts/controls';
import { useScreen, useShow } from '../state/store';
import { DropField } from './DropField';
import { FileReport } from './FileReport';
import { isReady, useImport } from './use-import';
import { Foot } from '../parts/Foot';

/** What files would do, before it is done. */
export function ImportDialog({
  files = [],
  list,
  onClose,
}: {
  files?: readonly File[];
  list?: string;
  onClose: () => void;
}) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const [into, setInto] = useState(list ?? '');
  const main = firstList(show)?.id ?? '';
  const [script, setScript] = useState('');
  const [units, setUnits] = useState<string>();
  const { coming, isBusy, bring, choose, take, stopTaking } = useImport(files, {
    list: into === '' ? undefined : into,
    script,
    fixtures: units,
  });
  const kinds = new Set(coming.map((c) => c.answer?.kind));
  const isCurve = kinds.has('curve');
  const chosen = writeNumbers(selection.flatMap((id) => show.fixtures.get(id)?.number ?? []));
  // A curve is for what is selected, whenever that is.
  useEffect(() => setUnits(isCurve ? chosen : undefined), [isCurve, chosen]);
  const ready = coming.filter(isReady).length;
  const closing = coming.some((c) => c.done) ? 'Done' : 'Leave it';
  const bringIn = async (): Promise<void> => {
    if (await take()) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && !isBusy && onClose()}
      title="Take in files"
      about="Fixture types (GDTF), plans (MVR), ASCII cues, tables (CSV), scripts. You see what would change first; a file comes in whole or not at all, and one undo takes it out again."
      width="w-[760px]"
    >
      <DropField onFiles={bring} />
      <div className="mt-3 flex gap-3">
        {(kinds.has('cues') || kinds.has('ascii')) && (
          <Choice
            label="Into the list"
            value={into === '' && !kinds.has('ascii') ? main : into}
            onChange={(e) => setInto(e.target.value)}
            options={[
              ...(kinds.has('ascii')
                ? [{ value: '', label: 'the main list while it is empty, or a new one' }]
                : []),
              ...[...show.lists.values()].map((l) => ({ value: l.id, label: l.name })),
            ]}
          />
        )}
        {kinds.has('script') && show.scripts.size > 0 && (
          <Choice
            label="The script is"
            value={script}
            onChange={(e) => setScript(e.target.value)}
            options={[
              { value: '', label: 'another script' },
              ...[...show.scripts.values()].map((s) => ({
                value: s.id,
                label: `the next draft of ${s.title}`,
              })),
            ]}
          />
        )}
      </div>
      <div
        className="mt-3 flex max-h-[420px] flex-col gap-2 overflow-y-auto"
        aria-label="Files"
        role="list"
      >
        {coming.map((c, i) => (
          <FileReport
            // Two folders may hold files of one name.
            key={`${i}/${c.file.name}/${c.file.lastModified}`}
            coming={c}
            alone={coming.length === 1}
            onChoose={choose}
          />
        ))}
      </div>
      <Foot
        className="mt-4"
        leave={isBusy ? 'Stop after this file' : closing}
        onLeave={isBusy ? stopTaking : onClose}
        act={coming.length > 1 ? `Take in ${plural(ready, 'file')}` : 'Take it in'}
        disabled={isBusy || ready === 0}
        onAct={() => void bringIn()}
      />
    </Dialog>
  );
}
