/** Every panel and sheet, to be put into a window of its own; and those of the last time. */
'use client';
import { AppWindow } from 'lucide-react';
import { rowsByNumber } from '@/core/show/numbered';
import { plural } from '@/core/words';
import { Button, Dialog } from '../parts/controls';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { keptWindows, openAgain, openWindow } from './open-windows';
import { PANEL_NAMES, PANEL_TITLES } from './panel-names';

function List({
  title,
  items,
}: {
  title: string;
  items: readonly { name: string; path: string }[];
}) {
  return (
    <section aria-label={title} className="min-w-0 flex-1">
      <h3 className="cap mb-1">{title}</h3>
      {items.map(({ name, path }) => (
        <button
          key={path}
          type="button"
          onClick={() => openWindow(path)}
          className="flex h-9 w-full items-center gap-2 rounded-md px-2 text-left text-soft hover:bg-lift"
        >
          <AppWindow size={14} className="flex-none text-muted" aria-hidden="true" />
          <span className="truncate">{name}</span>
        </button>
      ))}
    </section>
  );
}

/** Which windows are open, and what is in each. */
export function WindowsDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { you, showId } = useParts(useScreen, 'you', 'showId');
  const kept = keptWindows(you.userId, showId);
  const sheets = rowsByNumber(show.sheets).map((s) => ({
    name: s.name,
    path: `/shows/${showId}/sheet#${s.id}`,
  }));
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Windows"
      about="For a second screen. What you have open on this machine is remembered, with where it stands."
      width="w-[560px]"
    >
      {kept.length > 0 && (
        <div className="mb-3 flex items-center gap-3 rounded-lg bg-raised p-2.5">
          <p className="min-w-0 flex-1 text-[12.5px] text-soft">
            Last here: {kept.map((w) => w.title).join(', ')}
          </p>
          <Button
            kind="strong"
            onClick={() => {
              if (openAgain(you.userId, showId) > 0) onClose();
            }}
          >
            Open {plural(kept.length, 'window')} again
          </Button>
        </div>
      )}
      <div className="flex max-h-[56vh] gap-4 overflow-y-auto">
        <List
          title="Panels"
          items={PANEL_NAMES.map((name) => ({
            name: PANEL_TITLES[name],
            path: `/shows/${showId}/panel#${name}`,
          }))}
        />
        <List title="Sheets" items={sheets} />
      </div>
    </Dialog>
  );
}
