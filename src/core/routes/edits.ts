/** Routes: where a universe goes, over which protocol, on or off. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { RouteRow } from './rows.ts';
import { RowId } from '../show/fields.ts';
import { defineEdit, deleteRow, insertRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';

const Params = z.object({ id: RowId.optional(), set: RouteRow.omit({ id: true }) });
type Params = z.infer<typeof Params>;

const ART_NET_LAST = 32_767;

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
    if (set.protocol === 'artnet' && set.destination === 'multicast')
      return refuse('invalid', 'Art-Net has no multicast; give an address, or use sACN.', {
        destination: 'Not for Art-Net.',
      });
    if (set.protocol === 'sacn' && set.wire < 1)
      return refuse('invalid', 'sACN universes count from 1.', { wire: 'From 1.' });
    const twin = [...show.routes.values()].find(
      (r) =>
        r.id !== p.id &&
        r.protocol === set.protocol &&
        r.destination === set.destination &&
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
    const old = show.routes.get(p.id);
    if (!old)
      return refuse('not-found', 'This route has been deleted meanwhile. Nothing was changed.');
    return { changes: [updateRow('routes', old, set)], summary: `Changed a route: ${what}` };
  },
});

const Delete = z.object({ id: RowId });
type Delete = z.infer<typeof Delete>;

export const deleteRoute = defineEdit({
  name: 'delete-route',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const route = show.routes.get(p.id);
    if (!route) return refuse('not-found', 'This route has been deleted already.');
    return {
      changes: [deleteRow('routes', route)],
      summary: `Deleted the ${route.protocol === 'sacn' ? 'sACN' : 'Art-Net'} route of universe ${route.universe}`,
    };
  },
});
