/** Hands beside the list of sheets: what plays this show, and whether it does from this screen. */
'use client';
import { Plus, X } from 'lucide-react';
import { z } from 'zod';
import { useState } from 'react';
import {
  DISPLAY_PATTERN,
  HAND_KINDS,
  HAND_PLACES,
  HAND_ROLES,
  MOST_LETTERS,
  MOST_PAGES,
  type HandRow,
} from '@/core/hands/rows';
import { bindingsHere, keptHand, MOST_KEPT, type KeptHand } from '@/core/hands/kept';
import type { Show } from '@/core/show/show';
import { plural } from '@/core/words';
import { Ask, Button, Dialog, IconButton } from '../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../parts/form';
import { RowMenu } from '../parts/RowMenu';
import { DESK_DISPLAYS } from './desk-words';
import { PAD_PORT } from './pads';
import { edit } from '../state/actions';
import { notice } from '../state/messages';
import { forgetHand, keepHand, usePreferences } from '../state/preferences';
import { holdHand, useHands } from '../state/hands';
import { mayEdit, useScreen, useShow } from '../state/store';

const Draft = z.object({
  name: z.string().trim().min(1, 'It needs a name.').max(120),
  kind: z.enum(HAND_KINDS),
  at: z.enum(HAND_PLACES),
  role: z.enum(HAND_ROLES),
  port: z.string().trim().max(120),
  showControl: z
    .string()
    .trim()
    .regex(/^(?:\d{1,2}|10\d|11[01])?$/, 'A device is 0 to 111, or nothing.'),
  displays: z
    .string()
    .trim()
    .refine(
      (t) => t === '' || DISPLAY_PATTERN.test(t),
      'Like F0 7D 01 nn tt F7: nn is the part, tt its letters.',
    ),
  letters: z
    .string()
    .trim()
    .refine(
      (t) => /^\d+$/.test(t) && Number(t) >= 1 && Number(t) <= MOST_LETTERS,
      `From 1 to ${MOST_LETTERS}.`,
    ),
  pages: z
    .string()
    .refine((t) => t.split('\n').length <= MOST_PAGES, `A hand has at most ${MOST_PAGES} pages.`),
});

function HandDialog({ hand, onClose }: { hand: HandRow | null; onClose: () => void }) {
  const screenPorts = useHands((s) => s.ports);
  const playerPorts = useHands((s) => s.player.ports);
  const form = useSchemaForm(Draft, {
    name: hand?.name ?? '',
    kind: hand?.kind ?? 'midi',
    at: hand?.at ?? 'screen',
    role: hand?.role ?? 'operator',
    port: hand?.port ?? screenPorts[0] ?? '',
    showControl: hand?.showControl === undefined ? '' : String(hand.showControl),
    displays: hand?.displays?.bytes ?? '',
    letters: String(hand?.displays?.letters ?? DESK_DISPLAYS.letters),
    pages: (hand?.pages ?? ['']).join('\n'),
  });
  const kind = form.watch('kind');
  const isThere = kind === 'desk' || (kind === 'midi' && form.watch('at') === 'player');
  const ports = (isThere ? playerPorts : screenPorts).filter(
    (p) => !/^(?:sacn|artnet)\//.test(p) && p.startsWith(PAD_PORT) === (kind === 'gamepad'),
  );
  const save = form.handleSubmit(async (d) => {
    const pages = d.pages.split('\n').map((t) => t.trim().slice(0, 60));
    // Keys and gamepads are at a screen, another desk at the player.
    const at = { midi: d.at, keyboard: 'screen', gamepad: 'screen', desk: 'player' }[d.kind];
    const set = {
      name: d.name,
      kind: d.kind,
      port: d.kind === 'keyboard' ? '' : d.port,
      pages,
      ...(at === 'player' ? { at, role: d.role } : {}),
      ...(d.kind === 'midi' && d.displays !== ''
        ? { displays: { bytes: d.displays, letters: Number(d.letters) } }
        : {}),
      ...(d.kind === 'midi' && d.showControl !== '' ? { showControl: Number(d.showControl) } : {}),
    };
    const answer = await edit('set-hand', { ...(hand ? { id: hand.id } : {}), set });
    if (!('changes' in answer)) {
      const { kind: ofKind, port, name } = answer.fields ?? {};
      if (port) form.setError('port', { message: port });
      else if (ofKind) form.setError('kind', { message: answer.message });
      else form.setError('name', { message: name ?? answer.message });
      return;
    }
    const id = answer.changes[0]?.id;
    if (!hand && id !== undefined) {
      if (at === 'screen') holdHand(id, true);
      useHands.setState({ open: id });
    }
    onClose();
  });
  const known = [...new Set([...ports, ...(hand?.port ? [hand.port] : [])])];
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={hand ? `Hand “${hand.name}”` : 'New hand'}
      about="What it plays is learned afterwards: touch a thing on the screen, move a part of the hand."
      width="w-[420px]"
    >
      {!hand && (
        <Mine
          onPut={(id) => {
            holdHand(id, true);
            useHands.setState({ open: id });
            onClose();
          }}
        />
      )}
      <form onSubmit={(e) => void save(e)} className="space-y-3">
        <FormField form={form} name="name" label="Name" maxLength={120} placeholder="Fader wing" />
        <div className="grid grid-cols-2 gap-3">
          <FormChoice
            form={form}
            name="kind"
            label="It is"
            options={[
              { value: 'midi', label: 'MIDI' },
              { value: 'keyboard', label: 'a keyboard' },
              { value: 'gamepad', label: 'a gamepad' },
              { value: 'desk', label: 'another desk' },
            ]}
          />
          {kind === 'midi' && (
            <FormChoice
              form={form}
              name="at"
              label="Plugged in at"
              options={[
                { value: 'screen', label: 'a screen' },
                { value: 'player', label: 'the player’s machine' },
              ]}
            />
          )}
          {kind === 'desk' && (
            <FormField
              form={form}
              name="port"
              label="Universe that is the desk"
              placeholder="sacn/5 or artnet/0.0.4"
            />
          )}
          {(kind === 'midi' || kind === 'gamepad') && (
            <FormChoice
              form={form}
              name="port"
              label="Heard from"
              options={[
                { value: '', label: 'any of them' },
                ...known.map((p) => ({ value: p, label: p })),
              ]}
            />
          )}
          {kind === 'midi' && (
            <FormField
              form={form}
              name="showControl"
              label="Show control, device"
              placeholder="takes none"
              inputMode="numeric"
            />
          )}
          {kind === 'midi' && (
            <>
              <FormField
                form={form}
                name="displays"
                label="Its displays are written with"
                placeholder={DESK_DISPLAYS.bytes}
              />
              <FormField form={form} name="letters" label="Letters each" number />
            </>
          )}
          {isThere && (
            <FormChoice
              form={form}
              name="role"
              label="It plays by the right of"
              options={[
                { value: 'operator', label: 'an operator' },
                { value: 'programmer', label: 'a programmer' },
              ]}
            />
          )}
        </div>
        <label className="block text-[12px] text-muted">
          Its pages, a name on each line
          <textarea
            rows={3}
            {...form.register('pages')}
            className="mt-1 block w-full rounded-md bg-ink p-2 text-[13px] text-text inset-ring inset-ring-edge"
          />
        </label>
        <div className="flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button kind="strong" type="submit">
            {hand ? 'Change it' : 'Make it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function keepWithMe(show: Show, hand: HandRow): void {
  if (keepHand(keptHand(show, hand)))
    notice.done(`“${hand.name}” goes with you: New hand offers it in every show`);
  else notice.error(`You keep ${MOST_KEPT} hands already. Nothing was kept.`, { id: 'keep-hand' });
}

/** Hands that this person keeps: put into this show as they are, or forgotten. */
function Mine({ onPut }: { onPut: (id: string) => void }) {
  const show = useShow();
  const mine = usePreferences((s) => s.hands);
  if (mine.length === 0) return null;
  const put = async (kept: KeptHand): Promise<void> => {
    const { called, bindings: old, ...set } = kept;
    void [called, old];
    const { bindings, lost } = bindingsHere(show, kept);
    const answer = await edit('set-hand', { set, bindings });
    const id = 'changes' in answer ? answer.changes[0]?.id : undefined;
    if (id === undefined) return;
    if (lost > 0)
      notice(`${plural(lost, 'part')} of “${kept.name}” find nothing to do in this show`, {
        id: 'hand-lost',
      });
    onPut(id);
  };
  return (
    <section aria-label="Hands of mine" className="mb-3 rounded-lg bg-raised p-2.5">
      <h3 className="cap mb-1">Yours</h3>
      {mine.map((kept) => (
        <div key={kept.name} className="flex h-9 items-center gap-2">
          <span className="min-w-0 flex-1 truncate">{kept.name}</span>
          <Button kind="line" onClick={() => void put(kept)}>
            Put it here
          </Button>
          <IconButton label={`Keep ${kept.name} no longer`} onClick={() => forgetHand(kept.name)}>
            <X size={14} />
          </IconButton>
        </div>
      ))}
    </section>
  );
}

const sayHand = (hand: HandRow, isHeld: boolean, isThere: boolean): string => {
  const what =
    hand.port || { midi: 'MIDI', keyboard: 'keys', gamepad: 'gamepad', desk: '' }[hand.kind];
  if (hand.at === 'player') return isThere ? `${what}, at the player` : `${what}, not heard`;
  if (!isHeld) return `${what}, not here`;
  return isThere ? what : `${what}, not connected`;
};

export function HandList() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const { held, ports, player, open } = useHands();
  const [doing, setDoing] = useState<{
    do: 'new' | 'change' | 'delete';
    hand: HandRow | null;
  } | null>(null);
  const hands = [...show.hands.values()].sort((a, b) => a.number - b.number);
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
      {hands.map((hand) => {
        const isAtPlayer = hand.at === 'player';
        const isHeld = isAtPlayer || held.includes(hand.id);
        const there = isAtPlayer ? player.ports : ports;
        const isThere =
          hand.kind === 'keyboard' ||
          (!isAtPlayer && hand.kind === 'gamepad') ||
          (hand.port === '' ? there.length > 0 : there.includes(hand.port));
        return (
          <RowMenu
            key={hand.id}
            label={`Hand ${hand.name}`}
            items={() => [
              {
                label: isHeld ? 'Does not play from this screen' : 'Plays from this screen',
                disabled: isAtPlayer,
                run: () => holdHand(hand.id, !isHeld),
              },
              {
                label: 'Keep it with me, for other shows',
                run: () => keepWithMe(show, hand),
              },
              {
                label: 'Name, port and pages …',
                disabled: !may,
                run: () => setDoing({ do: 'change', hand }),
              },
              {
                label: 'Delete …',
                danger: true,
                first: true,
                disabled: !may,
                run: () => setDoing({ do: 'delete', hand }),
              },
            ]}
          >
            <button
              type="button"
              data-hand-name={hand.name}
              aria-pressed={open === hand.id}
              onClick={() =>
                useHands.setState({ open: open === hand.id ? null : hand.id, learning: null })
              }
              className={`block min-h-11 w-full border-l-2 px-3.5 py-1 text-left ${open === hand.id ? 'border-standby bg-standby-wash' : 'border-transparent hover:bg-panel'}`}
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
      })}
      {hands.length === 0 && (
        <p className="px-4 text-[12px] leading-4 text-dim">
          MIDI desks and keys that play from here.
        </p>
      )}
      {doing?.do === 'delete' && doing.hand && (
        <Ask
          open
          onClose={() => setDoing(null)}
          title={`Delete hand “${doing.hand.name}”?`}
          act="Delete it"
          keep="Keep it"
          onAct={() => void edit('delete-hand', { id: doing.hand?.id })}
        >
          It does nothing any more; its {plural(Object.keys(doing.hand.bindings).length, 'binding')}{' '}
          go with it. Undo brings them back.
        </Ask>
      )}
      {doing && doing.do !== 'delete' && (
        <HandDialog hand={doing.hand} onClose={() => setDoing(null)} />
      )}
    </section>
  );
}
