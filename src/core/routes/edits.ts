/** Routes: where a universe goes, over which protocol, on or off. */
import { rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { RouteRow } from './rows.ts';
import { PROTOCOL_NAMES } from './tables.ts';
import { RowId, Universe } from '../show/fields.ts';
import { same } from '../same.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';

/** A destination that the protocol does not have, in a sentence. */
function wrongDestination(r: Pick<RouteRow, 'protocol' | 'destination'>) {
  if (r.protocol === 'artnet' && r.destination === 'multicast')
    return refuse('invalid', 'Art-Net has no multicast; give an address, or use sACN.', {
      destination: 'Not for Art-Net.',
    });
  if (r.protocol === 'sacn' && (r.destination === 'nodes' || r.destination === 'broadcast'))
    return refuse('invalid', 'sACN goes by multicast or to one address.', {
      destination: 'Not for sACN.',
    });
  return undefined;
}

const Params = z.object({ id: RowId.optional(), set: RouteRow.omit({ id: true }) });
type Params = z.infer<typeof Params>;

const ART_NET_LAST = 32_767;
const SACN_LAST = 63_999;

/** Makes or changes where a run of universes goes: protocol, destination, priority, card. */
export const setRoute = defineEdit({
  name: 'set-route',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const { set } = p;
    if (set.protocol === 'artnet' && set.wire > ART_NET_LAST)
      return refuse('invalid', `Art-Net port addresses end at ${ART_NET_LAST}.`, {
        wire: 'Too high.',
      });
    const wrong = wrongDestination(set);
    if (wrong) return wrong;
    if (set.protocol === 'sacn' && set.wire < 1)
      return refuse('invalid', 'sACN universes count from 1.', { wire: 'From 1.' });
    const twin = [...show.routes.values()].find(
      (r) =>
        r.id !== p.id &&
        r.protocol === set.protocol &&
        r.destination === set.destination &&
        r.card === set.card &&
        r.wire === set.wire,
    );
    if (twin?.universe === set.universe)
      return refuse(
        'clash',
        `Universe ${twin.universe} goes there already: this route would be the same one twice.`,
        { universe: 'There already.' },
      );
    if (twin)
      return refuse(
        'clash',
        `Universe ${twin.universe} already goes to ${set.protocol === 'sacn' ? 'sACN universe' : 'Art-Net port address'} ${set.wire} there.`,
        { wire: 'Taken.' },
      );
    const what = `universe ${set.universe} over ${set.protocol === 'sacn' ? 'sACN' : 'Art-Net'}${set.on ? '' : ', off'}`;
    if (p.id === undefined)
      return {
        changes: [insertRow('routes', { id: newId(), ...set })],
        summary: `Added a route: ${what}`,
      };
    const old = rowFor(show, 'routes', p.id);
    if (isRefusal(old)) return old;
    // As it is sent, whole: a card that is not in it any more is the house’s again.
    const next: RouteRow = { id: old.id, ...set };
    return { changes: [replaceRow('routes', old, next)], summary: `Changed a route: ${what}` };
  },
});

const Run = z
  .object({
    /** The first and the last universe of a run. */
    from: Universe,
    to: Universe,
    protocol: RouteRow.shape.protocol,
    destination: RouteRow.shape.destination,
    /** The first one’s number on the wire; the others count on from there. */
    wire: RouteRow.shape.wire,
    priority: RouteRow.shape.priority.default(100),
    /** The network card by which they leave; absent: the house’s. */
    card: RouteRow.shape.card,
    /** Other routes of these universes over this protocol go. */
    instead: z.boolean().default(true),
    /** Universes that are patched later go the same way. */
    others: z.boolean().default(false),
  })
  .refine((p) => p.to >= p.from, { path: ['to'], message: 'A run ends after it begins.' });

const placeOf = (r: Pick<RouteRow, 'protocol' | 'destination' | 'wire' | 'card'>): string =>
  `${r.protocol}/${r.destination}/${r.card ?? ''}/${r.wire}`;

/** Why a run cannot go there; undefined where it can. */
function wrongRun(show: Show, p: z.output<typeof Run>, leaves: ReadonlySet<string>) {
  const last = p.wire + p.to - p.from;
  const wrong = wrongDestination(p);
  if (wrong) return wrong;
  if (p.protocol === 'sacn' && (p.wire < 1 || last > SACN_LAST))
    return refuse('invalid', `sACN universes are 1 to ${SACN_LAST}.`, { wire: 'Out of range.' });
  if (p.protocol === 'artnet' && last > ART_NET_LAST)
    return refuse('invalid', `Art-Net port addresses end at ${ART_NET_LAST}.`, {
      wire: 'Too high.',
    });
  const taken = [...show.routes.values()].find(
    (r) =>
      !leaves.has(r.id) &&
      r.protocol === p.protocol &&
      r.destination === p.destination &&
      r.card === p.card &&
      r.wire >= p.wire &&
      r.wire <= last &&
      r.universe !== p.from + r.wire - p.wire,
  );
  return taken
    ? refuse('clash', `Universe ${taken.universe} goes to ${taken.wire} there already.`, {
        wire: 'Taken.',
      })
    : undefined;
}

/** A run of universes in one line: where they go, counted on. */
export const mapUniverses = defineEdit({
  name: 'map-universes',
  params: Run,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const inRun = (r: RouteRow): boolean => r.universe >= p.from && r.universe <= p.to;
    const old = [...show.routes.values()].filter((r) => inRun(r) && r.protocol === p.protocol);
    const leaving = p.instead ? old : [];
    const wrong = wrongRun(show, p, new Set(leaving.map((r) => r.id)));
    if (wrong) return wrong;
    const changes: RowChange[] = [];
    const kept = new Set<string>();
    for (let universe = p.from; universe <= p.to; universe++) {
      const set = {
        universe,
        protocol: p.protocol,
        destination: p.destination,
        wire: p.wire + universe - p.from,
        priority: p.priority,
        on: true,
        ...(p.card === undefined ? {} : { card: p.card }),
      };
      const own =
        old.find((r) => placeOf(r) === placeOf(set)) ??
        leaving.find((r) => r.universe === universe && !kept.has(r.id));
      if (own) kept.add(own.id);
      if (!own) changes.push(insertRow('routes', { id: newId(), ...set }));
      else if (!same(own, { id: own.id, ...set }))
        changes.push(replaceRow('routes', own, { id: own.id, ...set }));
    }
    for (const r of leaving) if (!kept.has(r.id)) changes.push(deleteRow('routes', r));
    const settings = show.settings.get('show');
    const { protocol, destination, priority, card } = p;
    const newUniverses = {
      protocol,
      destination,
      priority,
      ...(card === undefined ? {} : { card }),
      shift: p.wire - p.from,
    };
    if (p.others && settings && !same(settings.newUniverses, newUniverses))
      changes.push(replaceRow('settings', settings, { ...settings, newUniverses }));
    if (changes.length === 0) return refuse('nothing', 'They go there already.');
    const run = p.from === p.to ? `universe ${p.from}` : `universes ${p.from} to ${p.to}`;
    return {
      changes,
      summary: `Sent ${run} over ${PROTOCOL_NAMES[p.protocol]} to ${p.destination}${p.others ? ', and those that are patched later' : ''}`,
    };
  },
});

const Delete = z.object({ id: RowId });
type Delete = z.infer<typeof Delete>;

/** Deletes a route; its universe ends there as the protocol wants. */
export const deleteRoute = defineEdit({
  name: 'delete-route',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const route = rowFor(show, 'routes', p.id, 'already');
    if (isRefusal(route)) return route;
    return {
      changes: [deleteRow('routes', route)],
      summary: `Deleted the ${route.protocol === 'sacn' ? 'sACN' : 'Art-Net'} route of universe ${route.universe}`,
    };
  },
});
