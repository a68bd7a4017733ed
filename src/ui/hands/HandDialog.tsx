/** What a hand is, where it is plugged in, by whose right it plays, and its pages. */
'use client';
import { X } from 'lucide-react';
import { z } from 'zod';
import {
  DISPLAY_PATTERN,
  HAND_KINDS,
  HAND_PLACES,
  HAND_ROLES,
  MOST_LETTERS,
  MOST_PAGES,
  type HandRow,
} from '@/core/hands/rows';
import { bindingsHere, type KeptHand } from '@/core/hands/kept';
import { plural } from '@/core/words';
import { Button, Dialog, IconButton } from '../parts/controls';
import { FormArea, FormChoice, FormField, useSchemaForm } from '../parts/form';
import { DESK_DISPLAYS } from './desk-words';
import { PAD_PORT } from './pads';
import { edit } from '../state/edits';
import { notice } from '../state/messages';
import { forgetHand, usePreferences } from '../state/preferences';
import { holdHand, useHands } from '../state/hands';
import { useShow } from '../state/store';
import { Foot } from '../parts/Foot';

const MOST_PAGE_LETTERS = 60;

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
    .transform((t) => t.split('\n').map((name) => name.trim()))
    .refine((names) => names.length <= MOST_PAGES, `A hand has at most ${MOST_PAGES} pages.`)
    .refine(
      (names) => names.every((name) => name.length <= MOST_PAGE_LETTERS),
      `The name of a page has at most ${MOST_PAGE_LETTERS} letters.`,
    ),
});

type HandDraft = z.output<typeof Draft>;

/** Keys and gamepads are at a screen, another desk at the player. */
const placeOf = ({ kind, at }: HandDraft): HandRow['at'] =>
  (({ midi: at, keyboard: 'screen', gamepad: 'screen', desk: 'player' }) as const)[kind];

/** The hand as it is to be; fields that its kind does not have are left out. */
function handOf(d: HandDraft): object {
  const at = placeOf(d);
  return {
    name: d.name,
    kind: d.kind,
    port: d.kind === 'keyboard' ? '' : d.port,
    pages: d.pages,
    ...(at === 'player' ? { at, role: d.role } : {}),
    ...(d.kind === 'midi' && d.displays !== ''
      ? { displays: { bytes: d.displays, letters: Number(d.letters) } }
      : {}),
    ...(d.kind === 'midi' && d.showControl !== '' ? { showControl: Number(d.showControl) } : {}),
  };
}

function useHandForm(hand: HandRow | null, onClose: () => void) {
  const screenPorts = useHands((s) => s.ports);
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
  const save = form.handleSubmit(async (d) => {
    const answer = await edit('set-hand', { ...(hand ? { id: hand.id } : {}), set: handOf(d) });
    if (!('changes' in answer)) {
      const { kind, port, name } = answer.fields ?? {};
      if (port) form.setError('port', { message: port });
      else if (kind) form.setError('kind', { message: answer.message });
      else form.setError('name', { message: name ?? answer.message });
      return;
    }
    const id = answer.changes[0]?.id;
    if (!hand && id !== undefined) {
      if (placeOf(d) === 'screen') holdHand(id, true);
      useHands.setState({ open: id });
    }
    onClose();
  });
  return { form, save };
}

/** Ports that a hand may be heard from. @param own the one that it has, which need not be there now */
function usePortOptions(kind: HandRow['kind'], isAtPlayer: boolean, own: string | undefined) {
  const screenPorts = useHands((s) => s.ports);
  const playerPorts = useHands((s) => s.player.ports);
  const there = (isAtPlayer ? playerPorts : screenPorts).filter(
    (p) => !/^(?:sacn|artnet)\//.test(p) && p.startsWith(PAD_PORT) === (kind === 'gamepad'),
  );
  const known = [...new Set([...there, ...(own ? [own] : [])])];
  return [{ value: '', label: 'any of them' }, ...known.map((p) => ({ value: p, label: p }))];
}

type Form = ReturnType<typeof useHandForm>['form'];

/** What there is to say of the kind that is chosen. */
function OfKind({ form, hand }: { form: Form; hand: HandRow | null }) {
  const kind = form.watch('kind');
  const isAtPlayer = kind === 'desk' || (kind === 'midi' && form.watch('at') === 'player');
  const ports = usePortOptions(kind, isAtPlayer, hand?.port);
  return (
    <>
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
        <FormChoice form={form} name="port" label="Heard from" options={ports} />
      )}
      {kind === 'midi' && (
        <>
          <FormField
            form={form}
            name="showControl"
            label="Show control, device"
            placeholder="takes none"
            inputMode="numeric"
          />
          <FormField
            form={form}
            name="displays"
            label="Its displays are written with"
            placeholder={DESK_DISPLAYS.bytes}
          />
          <FormField form={form} name="letters" label="Letters each" number />
        </>
      )}
      {isAtPlayer && (
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
    </>
  );
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

/** A hand’s own fields; without one, a new hand. */
export function HandDialog({ hand, onClose }: { hand: HandRow | null; onClose: () => void }) {
  const { form, save } = useHandForm(hand, onClose);
  return (
    <Dialog
      of={hand ? `hands/${hand.id}` : undefined}
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
          <OfKind form={form} hand={hand} />
        </div>
        <FormArea form={form} name="pages" label="Its pages, a name on each line" rows={3} />
        <Foot onLeave={onClose} act={hand ? 'Change it' : 'Make it'} />
      </form>
    </Dialog>
  );
}
