/** Hands: what people hold that plays a show, and what each part of it does. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

/** What a hand may be. */
export const HAND_KINDS = ['midi', 'keyboard', 'gamepad', 'desk'] as const;
/** Where a hand is: at the screens of people, who play with it by their own right, or at the machine of the player. */
export const HAND_PLACES = ['screen', 'player'] as const;
/** Kinds that the machine of the player can hear. */
export const AT_PLAYER: readonly (typeof HAND_KINDS)[number][] = ['midi', 'desk'];
/** Rights that a hand at the machine of the player may have: nobody says who moves it. */
export const HAND_ROLES = ['operator', 'programmer'] as const;
/** Another desk over the network: the universe that is read, `sacn/5` or `artnet/0.0.4` as net, sub-net and universe. */
export const DESK_PORT_PATTERN =
  /^(?:sacn\/(?:[1-9]\d{0,4})|artnet\/(?:\d{1,2}|1[01]\d|12[0-7])\.(?:\d|1[0-5])\.(?:\d|1[0-5]))$/;
/** Pages of bindings that a hand has at most; page 0 holds on all of them. */
export const MOST_PAGES = 16;
/** Bindings that a hand may have. */
export const MOST_BINDINGS = 1000;
/** What a control may do with a list. */
export const HAND_LISTS = ['go', 'back', 'pause', 'release'] as const;

/**
 * A part of a hand: `note.1.60` and `cc.1.7` are MIDI channel and number, `program.1.5`, `bend.1`; `key.Shift+KeyQ` is a
 * key of the keyboard by its place; `pad.key.3` and `pad.axis.1` are of a gamepad; `slot.17` is an address of a universe.
 */
export const ControlId = z
  .string()
  .max(60)
  .regex(
    /^(?:(?:note|cc|program)\.(?:[1-9]|1[0-6])\.(?:\d|[1-9]\d|1[01]\d|12[0-7])|bend\.(?:[1-9]|1[0-6])|key\.(?:(?:Control|Alt|Shift)\+){0,3}[A-Za-z0-9]{1,24}|pad\.(?:key|axis)\.(?:\d|[1-5]\d)|slot\.(?:[1-9]|[1-9]\d|[1-4]\d\d|50\d|51[0-2]))$/,
    'This is no part of a hand.',
  );
export type ControlId = z.infer<typeof ControlId>;

/** What a part of a hand does. What it points at may be gone: it does nothing then, and that is shown. */
export const HandAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('piece'), piece: idOf('sheetpieces') }),
  z.object({ do: z.literal('fader'), fader: idOf('faders') }),
  z.object({ do: z.literal('flash'), fader: idOf('faders') }),
  z.object({ do: z.literal('list'), what: z.enum(HAND_LISTS), list: idOf('lists').optional() }),
  z.object({ do: z.literal('master') }),
  z.object({ do: z.literal('blackout') }),
  z.object({ do: z.literal('line'), text: z.string().trim().min(1).max(400) }),
  z.object({ do: z.literal('page'), by: z.union([z.literal(1), z.literal(-1)]) }),
]);
export type HandAct = z.infer<typeof HandAct>;

/** From F0 to F7: bytes of 7 bits in hex, `nn` a part's number, `cc` its channel, and once `tt`, its letters. */
export const DISPLAY_PATTERN =
  /^F0(?: (?:[0-7][0-9A-F]|nn|cc)){1,24} tt(?: (?:[0-7][0-9A-F]|nn|cc)){0,8} F7$/;
/** Letters of a name that a hand’s display is told. */
export const MOST_LETTERS = 32;

const BindingKey = z.string().regex(/^\d{1,2}:/);

/** A hand: a surface of faders, knobs and keys, and what each does. */
export const HandRow = z.object({
  id: idOf('hands'),
  number: z.number().int().min(1).max(99),
  name: Name,
  kind: z.enum(HAND_KINDS),
  /** Absent: at the screens. */
  at: z.enum(HAND_PLACES).optional(),
  /** At the machine of the player: by whose right it plays; absent: an operator’s. */
  role: z.enum(HAND_ROLES).optional(),
  /** It takes MIDI Show Control under this device number. */
  showControl: z.number().int().min(0).max(111, 'A device of show control is 0 to 111.').optional(),
  /** Of MIDI: how words are written on its displays (letters.ts); absent: it has none. */
  displays: z
    .object({
      bytes: z
        .string()
        .max(160)
        .regex(DISPLAY_PATTERN, 'Like F0 7D 01 nn tt F7: nn is the part, tt its letters.'),
      letters: z
        .number()
        .int()
        .min(1, 'A display has at least one letter.')
        .max(MOST_LETTERS, `A display has at most ${MOST_LETTERS} letters.`),
    })
    .optional(),
  /** A MIDI port as its machine calls it; empty: whichever is heard. Of a desk: its universe. */
  port: z.string().max(120),
  /** Names of its pages, from the first. */
  pages: z
    .array(z.string().trim().max(60))
    .min(1, 'A hand has at least one page.')
    .max(MOST_PAGES, `A hand has at most ${MOST_PAGES} pages.`),
  /** By `page:control`; page 0 is every page. */
  bindings: z.record(BindingKey, HandAct),
});
export type HandRow = z.infer<typeof HandRow>;

/** The key of what a control does on a page; page 0 is every page. */
export const bindingKey = (page: number, control: ControlId): string => `${page}:${control}`;

/** What a control does on a page: what is bound there, or on every page. */
export const actOn = (hand: HandRow, page: number, control: ControlId): HandAct | undefined =>
  hand.bindings[bindingKey(page, control)] ?? hand.bindings[bindingKey(0, control)];

/** Bindings that hold on a page, by their controls. */
export function boundOn(hand: HandRow, page: number): Map<ControlId, HandAct> {
  const found = new Map<ControlId, HandAct>();
  for (const wanted of [0, page])
    for (const [key, act] of Object.entries(hand.bindings)) {
      const at = key.indexOf(':');
      if (Number(key.slice(0, at)) === wanted) found.set(key.slice(at + 1), act);
    }
  return found;
}

/** Every part of a hand that does something on any of its pages, with what it does on this one. */
export function partsOn(hand: HandRow, page: number): Map<ControlId, HandAct | undefined> {
  const parts = new Map<ControlId, HandAct | undefined>();
  for (let p = 0; p <= hand.pages.length; p++)
    for (const control of boundOn(hand, p).keys()) parts.set(control, actOn(hand, page, control));
  return parts;
}
