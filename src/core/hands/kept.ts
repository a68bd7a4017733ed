/** A hand that a person keeps for themselves: what its parts do, by numbers and names, so that it serves in another show. */
import { z } from 'zod';
import { addressesOf } from '../sheets/osc.ts';
import type { Show } from '../show/show.ts';
import { HandRow, type HandAct } from './rows.ts';

/** Hands that one person keeps at most. */
export const MOST_KEPT = 12;

/** What an id of the show was called there. */
const Called = z.union([
  z.object({ fader: z.number().int() }),
  z.object({ list: z.number().int() }),
  z.object({ piece: z.string().max(120) }),
]);

/** A hand in a file of its own, with what its bindings name written out, so that another show finds its own. */
export const KeptHand = HandRow.omit({ id: true, number: true }).extend({
  called: z.record(z.string().max(120), Called),
});
export type KeptHand = z.infer<typeof KeptHand>;

/** The thing of the show that an act is about. */
function about(act: HandAct): { table: 'faders' | 'lists' | 'pieces'; id: string } | undefined {
  if (act.do === 'piece') return { table: 'pieces', id: act.piece };
  if (act.do === 'fader' || act.do === 'flash') return { table: 'faders', id: act.fader };
  return act.do === 'list' && act.list !== undefined ? { table: 'lists', id: act.list } : undefined;
}

/** Pieces by their OSC addresses, which are numbers of sheets and names. */
const piecesBy = (show: Show): { id: string; address: string }[] =>
  [...show.sheets.keys()].flatMap((sheet) =>
    addressesOf(show, sheet).map(({ piece, address }) => ({ id: piece.id, address })),
  );

/** A hand as it is kept for other shows: what it does is said by numbers and names. */
export function keptHand(show: Show, { id, number, ...hand }: HandRow): KeptHand {
  void [id, number];
  const pieces = piecesBy(show);
  const called: KeptHand['called'] = {};
  for (const act of Object.values(hand.bindings)) {
    const at = about(act);
    if (!at) continue;
    const address = pieces.find((p) => p.id === at.id)?.address;
    const fader = show.faders.get(at.id)?.number;
    const list = show.lists.get(at.id)?.number;
    if (at.table === 'pieces' && address !== undefined) called[at.id] = { piece: address };
    else if (fader !== undefined) called[at.id] = { fader };
    else if (list !== undefined) called[at.id] = { list };
  }
  return { ...hand, called };
}

/** The same act for what is called so in this show; undefined where nothing is. */
function actHere(show: Show, kept: KeptHand, act: HandAct): HandAct | undefined {
  const at = about(act);
  if (!at) return act;
  const is = kept.called[at.id];
  if (!is) return undefined;
  if ('piece' in is) {
    const found = piecesBy(show).find((p) => p.address === is.piece);
    return found && act.do === 'piece' ? { ...act, piece: found.id } : undefined;
  }
  if ('fader' in is) {
    const found = [...show.faders.values()].find((f) => f.number === is.fader);
    return found && 'fader' in act ? { ...act, fader: found.id } : undefined;
  }
  const found = [...show.lists.values()].find((l) => l.number === is.list);
  return found && act.do === 'list' ? { ...act, list: found.id } : undefined;
}

/** @returns what its parts do in this show, and how many of them find nothing to do here */
export function bindingsHere(
  show: Show,
  kept: KeptHand,
): { bindings: HandRow['bindings']; lost: number } {
  const all = Object.entries(kept.bindings).map(
    ([key, act]) => [key, actHere(show, kept, act)] as const,
  );
  const found = all.filter((a): a is readonly [string, HandAct] => a[1] !== undefined);
  return { bindings: Object.fromEntries(found), lost: all.length - found.length };
}
