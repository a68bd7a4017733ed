/** Sheets: surfaces of pieces, locked in use and open for arranging; the list of them at the left. */
'use client';
import { Lock, LockOpen, Plus, SquareArrowOutUpRight } from 'lucide-react';
import { useState } from 'react';
import type { SheetRow } from '@/core/sheets/rows';
import { Ask } from '../parts/Ask';
import { Button, IconButton, Tabs } from '../parts/controls';
import { PhoneCode } from '../parts/PhoneCode';
import { RowMenu } from '../parts/RowMenu';
import { Sortable, SortableItem } from '../parts/sortable';
import { edit } from '../state/edits';
import { openSheet, useSheets, type SheetTool } from '../state/sheets';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { HandList } from '../hands/HandList';
import { HandPanel } from '../hands/HandPanel';
import { useHands } from '../state/hands';
import { openWindow as inOwnWindow } from '../windows/open-windows';
import { AreasDialog } from './Areas';
import { Arrange } from './arrange/Arrange';
import { NewSheet } from './NewSheet';
import { SheetDialog } from './SheetDialog';
import { Surface } from './Surface';
import { useOpenSheet } from './use-open-sheet';

const TOOLS: readonly { value: SheetTool; label: string }[] = [
  { value: 'select', label: 'Select' },
  { value: 'spot', label: 'Who lights this spot?' },
];

type Doing =
  | { do: 'new' }
  | { do: 'areas' }
  | { do: 'phone'; sheet: SheetRow }
  | { do: 'change'; sheet: SheetRow }
  | { do: 'delete'; sheet: SheetRow }
  | null;

function openWindow(showId: string, sheet: SheetRow): void {
  inOwnWindow(`/shows/${showId}/sheet#${sheet.id}`);
}

function SheetList({
  sheets,
  open,
  begin,
}: {
  sheets: readonly SheetRow[];
  open: SheetRow | undefined;
  begin: (doing: Doing) => void;
}) {
  const { you, showId } = useParts(useScreen, 'you', 'showId');
  const may = mayEdit(you.role);
  const order = (ids: string[]): void => void edit('order-sheets', { ids });
  return (
    <nav aria-label="Sheets" className="flex w-44 flex-none flex-col border-r border-line">
      <div className="flex h-11 flex-none items-center justify-between pr-2 pl-4">
        <span className="cap">Sheets</span>
        {may && (
          <IconButton label="New sheet" onClick={() => begin({ do: 'new' })}>
            <Plus size={16} />
          </IconButton>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Sortable ids={sheets.map((s) => s.id)} onOrder={may ? order : undefined}>
          {sheets.map((sheet) => (
            <SortableItem key={sheet.id} id={sheet.id}>
              <RowMenu
                label={`Sheet ${sheet.name}`}
                items={() => [
                  { label: 'In a window of its own', run: () => openWindow(showId, sheet) },
                  { label: 'On a phone or tablet …', run: () => begin({ do: 'phone', sheet }) },
                  {
                    label: 'Name and size …',
                    disabled: !may,
                    run: () => begin({ do: 'change', sheet }),
                  },
                  {
                    label: 'Delete …',
                    danger: true,
                    disabled: !may,
                    first: true,
                    run: () => begin({ do: 'delete', sheet }),
                  },
                ]}
              >
                <button
                  type="button"
                  data-sheet={sheet.id}
                  aria-current={sheet.id === open?.id}
                  onClick={() => openSheet(sheet.id)}
                  className={`block min-h-11 w-full border-l-2 px-3.5 py-1.5 text-left ${sheet.id === open?.id ? 'border-standby bg-standby-wash' : 'border-transparent hover:bg-panel'}`}
                >
                  <span
                    className={`block truncate font-medium ${sheet.id === open?.id ? 'text-standby' : ''}`}
                  >
                    {sheet.name}
                  </span>
                  <span className="block truncate text-[12px] leading-4 text-muted">
                    {sheet.about ?? ''}
                  </span>
                </button>
              </RowMenu>
            </SortableItem>
          ))}
        </Sortable>
      </div>
      <HandList />
    </nav>
  );
}

/** How the sheet is being used: locked, or open for arranging. */
function Head({ sheet, begin }: { sheet: SheetRow; begin: (doing: Doing) => void }) {
  const { you, showId } = useParts(useScreen, 'you', 'showId');
  const { arranging, tool, time_s } = useParts(useSheets, 'arranging', 'tool', 'time_s');
  const may = mayEdit(you.role);
  const isOpen = arranging && may;
  const Mark = isOpen ? LockOpen : Lock;
  const inUse =
    time_s === null
      ? 'a touch plays or selects, nothing moves'
      : `what is pressed next takes ${time_s} s`;
  return (
    <div
      className={`flex h-11 flex-none items-center gap-3 border-b px-4 ${isOpen ? 'border-warning bg-warning-wash' : 'border-line bg-panel'}`}
    >
      <Mark size={15} aria-hidden="true" className={isOpen ? 'text-warning' : 'text-soft'} />
      <b className="font-semibold">{isOpen ? 'Arranging' : 'In use'}</b>
      <span className="min-w-0 flex-1 truncate text-[12.5px] text-muted">
        {isOpen ? `“${sheet.name}”: nothing here plays` : inUse}
      </span>
      {isOpen && <Button onClick={() => begin({ do: 'areas' })}>Areas …</Button>}
      {!isOpen && (
        <Tabs
          label="A touch of the plan"
          value={tool}
          options={TOOLS}
          onChange={(next) => useSheets.setState({ tool: next, spot: null })}
        />
      )}
      <IconButton label="In a window of its own" onClick={() => openWindow(showId, sheet)}>
        <SquareArrowOutUpRight size={15} />
      </IconButton>
      {may && (
        <Button
          kind={isOpen ? 'strong' : 'line'}
          onClick={() => useSheets.setState({ arranging: !arranging, chosen: [], spot: null })}
        >
          {isOpen ? 'Done' : 'Arrange'}
        </Button>
      )}
    </div>
  );
}

function Dialogs({ doing, done }: { doing: Doing; done: () => void }) {
  const showId = useScreen((s) => s.showId);
  if (!doing) return null;
  if (doing.do === 'phone') {
    const { name, id } = doing.sheet;
    const link = { name, about: 'a sheet to play from', path: `/shows/${showId}/page#${id}` };
    return <PhoneCode link={link} onClose={done} />;
  }
  if (doing.do === 'new') return <NewSheet onClose={done} />;
  if (doing.do === 'areas') return <AreasDialog onClose={done} />;
  if (doing.do === 'change') return <SheetDialog sheet={doing.sheet} onClose={done} />;
  return (
    <Ask
      open
      onClose={done}
      title={`Delete sheet “${doing.sheet.name}”?`}
      act="Delete it"
      keep="Keep it"
      onAct={() => void edit('delete-sheet', { id: doing.sheet.id })}
    >
      Its pieces go with it; what they stand for stays. Whoever has this sheet sees it no more. Undo
      brings it back.
    </Ask>
  );
}

/** Sheets: one that plays, or is arranged. */
export function SheetsPlace() {
  const { sheets, sheet } = useOpenSheet();
  const role = useScreen((s) => s.you.role);
  const arranging = useSheets((s) => s.arranging) && mayEdit(role);
  const [doing, setDoing] = useState<Doing>(null);
  const hand = useShow().hands.get(useHands((s) => s.open) ?? '');
  return (
    <div className="flex h-full">
      {!(arranging && sheet) && <SheetList sheets={sheets} open={sheet} begin={setDoing} />}
      {sheet ? (
        <div className="flex min-w-0 flex-1 flex-col">
          <Head sheet={sheet} begin={setDoing} />
          <div className={`min-h-0 flex-1 ${arranging ? '' : 'p-3'}`}>
            {arranging ? (
              <Arrange key={sheet.id} sheet={sheet} />
            ) : (
              <Surface key={sheet.id} sheet={sheet} />
            )}
          </div>
          {hand && !arranging && <HandPanel hand={hand} />}
        </div>
      ) : (
        <div className="m-auto max-w-sm p-6 text-center text-muted">
          <p>
            A sheet is a surface of pieces: the plan, buttons, faders, cues, whatever one plays or
            looks at.
          </p>
          {mayEdit(role) && (
            <Button kind="strong" className="mt-3" onClick={() => setDoing({ do: 'new' })}>
              Make the first one
            </Button>
          )}
        </div>
      )}
      <Dialogs doing={doing} done={() => setDoing(null)} />
    </div>
  );
}
