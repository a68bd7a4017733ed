/** What can be done with the selected fixtures, at the right mouse button or the menu key, wherever fixtures are listed; and its dialogs. */
'use client';
import type { ReactNode } from 'react';
import { numberRanges } from '@/core/words';
import { plural } from '@/core/words';
import { willDo } from '@/core/edits/will';
import type { FixtureRow } from '@/core/fixtures/rows';
import { Ask } from '../parts/Ask';
import { RowMenu, type RowItem } from '../parts/RowMenu';
import { live, said } from '../state/commands';
import { edit, tryEdit } from '../state/edits';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { CopyDialog } from './fixtures/CopyDialog';
import { DeleteAsk } from './fixtures/DeleteAsk';
import { MacroDialog } from './fixtures/macros';
import { SwapDialog } from './fixtures/SwapDialog';
import { noteAbout } from '../notes/note-dialog';
import { doIt, useRig } from './rig-state';
import { useParts } from '../state/use-parts';

const useChosen = (): FixtureRow[] => {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  return selection.flatMap((id) => show.fixtures.get(id) ?? []);
};

/** Takes units off their addresses; their programming stays. */
export const takeOff = (chosen: readonly FixtureRow[]): void => {
  const on = chosen.filter((f) => f.patch.length > 0);
  if (on.length > 0)
    void edit('change-fixtures', { fixtures: on.map((f) => ({ id: f.id, set: { patch: [] } })) });
};

/** Back where they were; where that is taken, or where they never were anywhere, the next free addresses are offered. */
export function putBack(ids: readonly string[]): void {
  if ('message' in tryEdit('move-fixtures', { ids, to: 'back' })) doIt('back');
  else void edit('move-fixtures', { ids, to: 'back' });
}

function useItems(): RowItem[] {
  const chosen = useChosen();
  const { you, over } = useParts(useScreen, 'you', 'over');
  const ids = new Set(chosen.map((f) => f.id));
  const numbers = chosen.map((f) => f.number);
  const [plays, edits] = [mayPlay(you.role), mayEdit(you.role)];
  const on = chosen.some((f) => f.patch.length > 0);
  const parked = over.parked.some((p) => ids.has(p.fixtureId));
  if (chosen.length === 0)
    return [{ label: 'Nothing is selected', disabled: true, run: () => undefined }];
  const who = numberRanges(numbers);
  return [
    {
      label: `Light ${who}: at full, open white`,
      disabled: !plays,
      run: () => void said({ command: 'home' }),
    },
    {
      label: parked ? `Let ${who} off park` : `Park ${who}`,
      disabled: !plays,
      run: () => void live({ command: 'park', fixtures: numbers, on: !parked }),
    },
    { label: `Control of ${who} …`, disabled: !plays, run: () => doIt('macro') },
    {
      label: 'Leave a note …',
      disabled: chosen.length !== 1 || you.role === 'volunteer',
      run: () => noteAbout({ fixtureId: chosen[0]?.id ?? '' }),
    },
    { label: 'Swap type …', first: true, disabled: !edits, run: () => doIt('swap') },
    {
      label: 'Copy programming …',
      disabled: !edits || chosen.length !== 1,
      run: () => doIt('copy'),
    },
    {
      label: 'Also at …',
      disabled: !edits || chosen.length !== 1 || !on,
      run: () => doIt('patch'),
    },
    on
      ? { label: 'Off the rig', disabled: !edits, run: () => takeOff(chosen) }
      : { label: 'Back on the rig', disabled: !edits, run: () => putBack(chosen.map((f) => f.id)) },
    {
      label: `Delete ${chosen.length === 1 ? who : plural(chosen.length, 'fixture')} …`,
      first: true,
      danger: true,
      disabled: !edits,
      run: () => doIt('delete'),
    },
  ];
}

/** @param children one element; whoever draws it selects what lies under the pointer first */
export function FixtureMenu({ children }: { children: ReactNode }) {
  const items = useItems();
  return (
    <RowMenu label="Fixture menu" items={() => items}>
      {children}
    </RowMenu>
  );
}

/** The dialog that is open, for whatever is selected. */
export function FixtureDoing() {
  const chosen = useChosen();
  const doing = useRig((s) => s.doing);
  const last = chosen.at(-1);
  const close = (): void => doIt(null);
  if (!last) return null;
  if (doing === 'swap') return <SwapDialog chosen={chosen} onClose={close} />;
  if (doing === 'copy') return <CopyDialog from={last} onClose={close} />;
  if (doing === 'macro') return <MacroDialog chosen={chosen} onClose={close} />;
  if (doing === 'delete') return <DeleteAsk chosen={chosen} onClose={close} />;
  return doing === 'back' ? <BackAsk chosen={chosen} onClose={close} /> : null;
}

function BackAsk({ chosen, onClose }: { chosen: readonly FixtureRow[]; onClose: () => void }) {
  const ids = chosen.map((f) => f.id);
  const why = tryEdit('move-fixtures', { ids, to: 'back' });
  const plan = tryEdit('move-fixtures', { ids, to: 'back-or-next' });
  return (
    <Ask
      open
      onClose={onClose}
      title={`Back on the rig: ${numberRanges(chosen.map((f) => f.number))}`}
      act="Put it there"
      keep="Leave it off"
      kind="strong"
      disabled={'message' in plan}
      onAct={() => void edit('move-fixtures', { ids, to: 'back-or-next' })}
    >
      <p data-testid="back-says">
        {'message' in why ? `${why.message} ` : ''}
        {'message' in plan
          ? plan.message
          : `The next free address can be taken instead. ${willDo(plan.summary)}.`}
      </p>
    </Ask>
  );
}
