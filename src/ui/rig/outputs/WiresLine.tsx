/** Above the routes: by which card lights are reached, asked once, and a plain sentence where nothing leaves. */
'use client';
import { useState } from 'react';
import type { NetworkState } from '@/core/live/messages';
import { sayCard } from '@/core/wires/cards';
import { Button } from '../../parts/controls';
import { useScreen } from '../../state/store';
import { CardChoice, sayWires, WiresDialog } from './WiresDialog';

function Question({ network }: { network: NetworkState }) {
  const [card, setCard] = useState('');
  return (
    <section
      aria-label="Where are the lights?"
      className="mt-2 max-w-[620px] rounded-md bg-standby-wash px-3 py-2"
    >
      <h2 className="font-semibold">Where are the lights?</h2>
      <p className="text-soft">
        This machine has several network cards. What leaves by the wrong one lights nothing.
      </p>
      <div className="mt-1">
        <CardChoice network={network} card={card} onCard={setCard} />
      </div>
      <div className="mt-1 flex justify-end">
        <Button
          kind="strong"
          onClick={() => void sayWires({ card: card === '' ? null : card, asked: true })}
        >
          There
        </Button>
      </div>
    </section>
  );
}

/** `eth1, 10.20.0.5`, or what is wrong with it. */
function sayWay({ wires, cards }: NetworkState): string {
  if (wires.card === null) return 'as the machine decides';
  const card = cards.find((c) => c.name === wires.card);
  return card ? `by ${sayCard(card)}` : `by ${wires.card}, which is not in this machine`;
}

const waysOfSync = ({ sync, artSync }: NetworkState['wires']): string =>
  [sync > 0 ? `sACN waits for universe ${sync}` : '', artSync ? 'ArtSync' : '']
    .filter(Boolean)
    .join(', ');

/** By which card lights are reached, in a line. */
export function WiresLine() {
  const network = useScreen((s) => s.outputs);
  const makesShows = useScreen((s) => s.makes);
  const [open, setOpen] = useState(false);
  if (!network) return null;
  const { wires, cards } = network;
  const sync = waysOfSync(wires);
  return (
    <>
      {!wires.asked && cards.length > 1 && makesShows && <Question network={network} />}
      <p className="mt-2 flex flex-wrap items-center gap-x-2 text-soft" data-testid="wires">
        <span>
          Lights leave <span className="text-text">{sayWay(network)}</span>, as “{wires.sourceName}”
          {sync && `; ${sync}`}.
        </span>
        {makesShows && (
          <button
            type="button"
            className="font-semibold text-standby hover:underline"
            onClick={() => setOpen(true)}
          >
            Change …
          </button>
        )}
      </p>
      {open && <WiresDialog network={network} onClose={() => setOpen(false)} />}
    </>
  );
}
