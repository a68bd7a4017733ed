/** What is being done to something of the shelf, in a dialog of its own. */
'use client';
import { listed } from '@/core/words';
import { effectUses } from '@/core/effects/edits';
import type { EffectRow } from '@/core/effects/rows';
import { fadersWith } from '@/core/faders/holding';
import type { LookRow } from '@/core/looks/rows';
import { paletteUses } from '@/core/palettes/edits';
import type { PaletteRow } from '@/core/palettes/rows';
import { Ask } from '../../parts/Ask';
import { edit } from '../../state/edits';
import type { Shelf as ShelfName } from '../../state/stage';
import { useShow } from '../../state/store';
import { PlayTime } from './playing';
import { DeleteLook, RecordLook } from './LookDialogs';
import { LookEditor } from './LookEditor';
import { Rename } from '../../parts/Rename';
import { OnFaders, useOnFaders } from './DeleteUsed';
import { DeletePalette, RecordPalette, UpdatePalette, Uses } from './PaletteDialogs';

/** What is asked about something of the shelf. */
export type Doing =
  | { do: 'record' }
  | { do: 'update' | 'delete' | 'rename' | 'uses'; palette: PaletteRow }
  | { do: 'edit' | 'delete'; look: LookRow }
  | { do: 'delete'; effect: EffectRow }
  | ({ do: 'time' } & ({ kind: 'palette'; row: PaletteRow } | { kind: 'look'; row: LookRow }));

const NAMED_USES = 8;

function PaletteDoing({
  what,
  palette,
  onClose,
}: {
  what: 'update' | 'delete' | 'rename' | 'uses';
  palette: PaletteRow;
  onClose: () => void;
}) {
  const show = useShow();
  switch (what) {
    case 'update':
      return <UpdatePalette palette={palette} onClose={onClose} />;
    case 'delete':
      return <DeletePalette palette={palette} onClose={onClose} />;
    case 'rename':
      return (
        <Rename
          of={`palettes/${palette.id}`}
          title={`Rename palette ${palette.number}`}
          name={palette.name}
          onSave={(name) => edit('change-palette', { id: palette.id, set: { name } })}
          onClose={onClose}
        />
      );
    case 'uses':
      return (
        <Uses
          title={`Palette ${palette.number} “${palette.name}” is used in`}
          uses={[
            ...paletteUses(show, palette.id),
            ...fadersWith(show, 'palette', palette.id).map((label) => ({ label })),
          ]}
          palette={palette.id}
          onClose={onClose}
        />
      );
  }
}

function DeleteEffect({ effect, onClose }: { effect: EffectRow; onClose: () => void }) {
  const uses = effectUses(useShow(), effect.id);
  const onFaders = useOnFaders('effect', effect.id);
  return (
    <Ask
      open
      onClose={onClose}
      title={`Delete effect ${effect.number} “${effect.name}”?`}
      act="Delete"
      disabled={onFaders !== null}
      onAct={() => void edit('delete-effect', { id: effect.id })}
    >
      {(uses.length > 0 || !onFaders) && (
        <p>
          {uses.length === 0
            ? 'Nothing runs it.'
            : `${listed(uses, NAMED_USES)} keep their levels without it.`}
        </p>
      )}
      <OnFaders why={onFaders} />
    </Ask>
  );
}

/** Asks it. */
export function DoingDialog({
  doing,
  shelf,
  onClose,
}: {
  doing: Doing;
  shelf: ShelfName;
  onClose: () => void;
}) {
  const show = useShow();
  if (doing.do === 'record')
    return shelf === 'looks' || shelf === 'effects' ? (
      <RecordLook onClose={onClose} />
    ) : (
      <RecordPalette family={shelf} onClose={onClose} />
    );
  if (doing.do === 'time') return <PlayTime kind={doing.kind} row={doing.row} onClose={onClose} />;
  if ('palette' in doing)
    return <PaletteDoing what={doing.do} palette={doing.palette} onClose={onClose} />;
  if ('look' in doing) {
    if (doing.do === 'delete') return <DeleteLook look={doing.look} onClose={onClose} />;
    return <LookEditor look={show.looks.get(doing.look.id) ?? doing.look} onClose={onClose} />;
  }
  return <DeleteEffect effect={doing.effect} onClose={onClose} />;
}
