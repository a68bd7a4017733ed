/** Hands beside the list of sheets: what plays this show, and whether it does from this screen. */
'use client';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { HandRow } from '@/core/hands/rows';
import { keptHand, MOST_KEPT } from '@/core/hands/kept';
import type { Show } from '@/core/show/show';
import { plural } from '@/core/words';
import { Ask } from '../parts/Ask';
import { IconButton } from '../parts/controls';
import { RowMenu, type RowItem } from '../parts/RowMenu';
import { edit } from '../state/edits';
import { notice } from '../state/messages';
import { keepHand } from '../state/preferences';
import { holdHand, useHands } from '../state/hands';
import { mayEdit, useScreen, useShow } from '../state/store';
import { HandDialog } from './HandDialog';

function keepWithMe(show: Show, hand: HandRow): void {
  if (keepHand(keptHand(show, hand)))
    notice.done(`“${hand.name}” goes with you: New hand offers it in every show`);
  else notice.error(`You keep ${MOST_KEPT} hands already. Nothing was kept.`, { id: 'keep-hand' });
}

const sayHand = (hand: HandRow, isHeld: boolean, isThere: boolean): string => {
  const what =
    hand.port || { midi: 'MIDI', keyboard: 'keys', gamepad: 'gamepad', desk: '' }[hand.kind];
  if (hand.at === 'player') return isThere ? `${what}, at the player` : `${what}, not heard`;
  if (!isHeld) return `${what}, not here`;
  return isThere ? what : `${what}, not connected`;
};

type Doing = { do: 'new' | 'change' | 'delete'; hand: HandRow | null } | null;

/** A hand: whether it plays from here, and whether what it is heard from is there. */
function useIsHere(hand: HandRow): { isHeld: boolean; isThere: boolean } {
  const { held, ports, player } = useHands();
  const isAtPlayer = hand.at === 'player';
  const there = isAtPlayer ? player.ports : ports;
  return {
    isHeld: isAtPlayer || held.includes(hand.id),
    isThere:
      hand.kind === 'keyboard' ||
      (!isAtPlayer && hand.kind === 'gamepad') ||
      (hand.port === '' ? there.length > 0 : there.includes(hand.port)),
  };
}

function HandLine({ hand, may, onDo }: { hand: HandRow; may: boolean; onDo: (d: Doing) => void }) {
  const show = useShow();
  const isOpen = useHands((s) => s.open === hand.id);
  const { isHeld, isThere } = useIsHere(hand);
  const items = (): RowItem[] => [
    {
      label: isHeld ? 'Does not play from this screen' : 'Plays from this screen',
      disabled: hand.at === 'player',
      run: () => holdHand(hand.id, !isHeld),
    },
    { label: 'Keep it with me, for other shows', run: () => keepWithMe(show, hand) },
    {
      label: 'Name, port and pages …',
      disabled: !may,
      run: () => onDo({ do: 'change', hand }),
    },
    {
      label: 'Delete …',
      danger: true,
      first: true,
      disabled: !may,
      run: () => onDo({ do: 'delete', hand }),
    },
  ];
  return (
    <RowMenu label={`Hand ${hand.name}`} items={items}>
      <button
        type="button"
        data-hand-name={hand.name}
        aria-pressed={isOpen}
        onClick={() => useHands.setState({ open: isOpen ? null : hand.id, learning: null })}
        className={`block min-h-11 w-full border-l-2 px-3.5 py-1 text-left ${isOpen ? 'border-standby bg-standby-wash' : 'border-transparent hover:bg-panel'}`}
      >
        <span className="block truncate font-medium">{hand.name}</span>
        <span
          className={`block truncate text-[12px] leading-4 ${isHeld && !isThere ? 'text-warning' : 'text-muted'}`}
        >
          {sayHand(hand, isHeld, isThere)}
        </span>
      </button>
    </RowMenu>
  );
}

function DeleteHand({ hand, onClose }: { hand: HandRow; onClose: () => void }) {
  return (
    <Ask
      open
      onClose={onClose}
      title={`Delete hand “${hand.name}”?`}
      act="Delete it"
      keep="Keep it"
      onAct={() => void edit('delete-hand', { id: hand.id })}
    >
      It does nothing any more; its {plural(Object.keys(hand.bindings).length, 'binding')} go with
      it. Undo brings them back.
    </Ask>
  );
}

/** Hands of the show, and which of them play here. */
export function HandList() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const [doing, setDoing] = useState<Doing>(null);
  const hands = [...show.hands.values()].sort((a, b) => a.number - b.number);
  const close = (): void => setDoing(null);
  return (
    <section aria-label="Hands" className="flex-none border-t border-line pb-2">
      <div className="flex h-10 items-center justify-between pr-2 pl-4">
        <span className="cap">Hands</span>
        {may && (
          <IconButton label="New hand" onClick={() => setDoing({ do: 'new', hand: null })}>
            <Plus size={16} />
          </IconButton>
        )}
      </div>
      {hands.map((hand) => (
        <HandLine key={hand.id} hand={hand} may={may} onDo={setDoing} />
      ))}
      {hands.length === 0 && (
        <p className="px-4 text-[12px] leading-4 text-dim">
          MIDI desks and keys that play from here.
        </p>
      )}
      {doing?.do === 'delete' && doing.hand && <DeleteHand hand={doing.hand} onClose={close} />}
      {doing && doing.do !== 'delete' && <HandDialog hand={doing.hand} onClose={close} />}
    </section>
  );
}
