/** What the house says of its network: the card of the lights, the name of its source, synchronisation. */
'use client';
import { z } from 'zod';
import type { NetworkState } from '@/core/live/messages';
import { sayCard, type Card } from '@/core/wires/cards';
import { Wires } from '@/core/wires/wires';
import { Check, Dialog } from '../../parts/controls';
import { FormField, useSchemaForm } from '../../parts/form';
import { api } from '../../state/api';
import { plural } from '@/core/words';
import { notice } from '../../state/messages';
import { Foot } from '../../parts/Foot';

const LAST_SYNC = 63_999;
const Draft = z.object({
  sourceName: Wires.shape.sourceName,
  sync: z
    .string()
    .trim()
    .regex(/^\d{0,5}$/, 'A universe, or nothing.')
    .refine((t) => Number(t) <= LAST_SYNC, `At most ${LAST_SYNC}.`),
  artSync: z.boolean(),
  card: z.string(),
});
/** The machine decides. */
const NONE = '';

/** What was heard on a card: `3 Art-Net nodes, 1 sACN source`. */
function heardOn(card: string, { nodes, sources }: NetworkState): string {
  const n = new Set(nodes.filter((x) => x.card === card).map((x) => x.address)).size;
  const s = sources.filter((x) => x.card === card && !x.own).length;
  const said = [
    n > 0 ? plural(n, 'Art-Net node') : '',
    s > 0 ? plural(s, 'sACN source') : '',
  ].filter(Boolean);
  return said.length === 0 ? 'nothing heard' : said.join(', ');
}

const LINK_WORDS: Readonly<Record<Card['link'], string>> = {
  up: 'connected',
  down: 'no cable',
  unknown: 'connected, as far as the machine says',
};

function CardLine({
  value,
  title,
  note,
  chosen,
  onChoose,
}: {
  value: string;
  title: string;
  note: string;
  chosen: boolean;
  onChoose: (value: string) => void;
}) {
  return (
    <label className="flex min-h-9 cursor-pointer items-center gap-2.5 rounded px-2 hover:bg-raised">
      <input
        type="radio"
        name="card"
        value={value}
        checked={chosen}
        onChange={() => onChoose(value)}
        className="size-4 accent-[var(--color-standby)]"
      />
      <span className="num text-[13px]">{title}</span>
      <span className="ml-auto text-right text-[12.5px] text-muted">{note}</span>
    </label>
  );
}

/** Says something of the network to the house. @returns whether it was taken */
export async function sayWires(set: Partial<Wires>): Promise<boolean> {
  try {
    await api('/api/house/wires', { method: 'PUT', body: JSON.stringify(set) });
    return true;
  } catch (error) {
    notice.error((error as Error).message);
    return false;
  }
}

/** Chooses a network card. */
export function CardChoice({
  network,
  card,
  onCard,
}: {
  network: NetworkState;
  card: string;
  onCard: (card: string) => void;
}) {
  const known = network.cards.some((c) => c.name === card);
  return (
    <fieldset aria-label="Where the lights are">
      <CardLine
        value={NONE}
        title="The machine decides"
        note="right where there is one card"
        chosen={card === NONE}
        onChoose={onCard}
      />
      {network.cards.map((c) => (
        <CardLine
          key={c.name}
          value={c.name}
          title={sayCard(c)}
          note={`${LINK_WORDS[c.link]} · ${heardOn(c.name, network)}`}
          chosen={card === c.name}
          onChoose={onCard}
        />
      ))}
      {card !== NONE && !known && (
        <CardLine value={card} title={card} note="not in this machine" chosen onChoose={onCard} />
      )}
    </fieldset>
  );
}

/** How the house is on its network. */
export function WiresDialog({ network, onClose }: { network: NetworkState; onClose: () => void }) {
  const { wires } = network;
  const form = useSchemaForm(Draft, {
    sourceName: wires.sourceName,
    sync: wires.sync === 0 ? '' : String(wires.sync),
    artSync: wires.artSync,
    card: wires.card ?? NONE,
  });
  const [card, artSync] = form.watch(['card', 'artSync']);
  const say = form.handleSubmit(async (draft) => {
    const done = await sayWires({
      sourceName: draft.sourceName,
      sync: Number(draft.sync),
      artSync: draft.artSync,
      card: draft.card === NONE ? null : draft.card,
      asked: true,
    });
    if (done) onClose();
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="The network of the house"
      about="For every show on air here. Streams change over at once."
      width="w-[560px]"
    >
      <form onSubmit={(e) => void say(e)} className="flex flex-col gap-3">
        <div>
          <h3 className="cap mb-1">Lights are reached by</h3>
          <CardChoice network={network} card={card} onCard={(c) => form.setValue('card', c)} />
        </div>
        <div className="flex gap-3">
          <FormField
            form={form}
            name="sourceName"
            label="Called on the network"
            className="flex-1"
          />
          <FormField
            form={form}
            name="sync"
            label="sACN synchronisation, universe"
            number
            className="w-52"
            placeholder="none"
          />
        </div>
        <Check checked={artSync} onChange={(on) => form.setValue('artSync', on)}>
          Art-Net nodes show all universes of a frame together (ArtSync)
        </Check>
        <Foot leave="Leave it" onLeave={onClose} act="Say so" />
      </form>
    </Dialog>
  );
}
