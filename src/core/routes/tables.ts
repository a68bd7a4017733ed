/** What tables of routes and named universes know of themselves. */
import { defineTable } from '../show/define-table.ts';
import { RouteRow, UniverseRow } from './rows.ts';

/** Protocols as people write them. */
export const PROTOCOL_NAMES: Readonly<Record<RouteRow['protocol'], string>> = {
  sacn: 'sACN',
  artnet: 'Art-Net',
};

export const routes = defineTable({
  name: 'routes',
  one: 'route',
  row: RouteRow,
  section: 'patch',
  says: { row: (r) => `the route of universe ${r.universe}` },
  fields: {
    protocol: { say: (protocol: RouteRow['protocol']) => PROTOCOL_NAMES[protocol] },
    wire: { called: 'number on the wire' },
  },
});

export const universes = defineTable({
  name: 'universes',
  one: 'universe',
  row: UniverseRow,
  section: 'patch',
  says: { row: (u) => `universe ${u.number}` },
});
