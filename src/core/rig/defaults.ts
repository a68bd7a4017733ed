/** What a new show starts with: an empty stage to hang on, a main list, and routes to the simulated node. */
import type { PieceRow } from '../plan/rows.ts';
import type { NewUniverses, RouteRow } from '../routes/rows.ts';
import type { RowChange } from '../show/show.ts';

const line = (
  id: string,
  name: string,
  kind: PieceRow['kind'],
  z: number,
  ...points: [number, number][]
): PieceRow => ({
  id,
  name,
  kind,
  z,
  points: points.map(([x, y]) => ({ x, y })),
});

const emptyStage = (): PieceRow[] => [
  line('cyc', 'Cyc', 'cyc', 0, [-6, 8.6], [-3, 8.95], [0, 9.1], [3, 8.95], [6, 8.6]),
  line('bar-4', 'Bar 4', 'bar', 6, [-6, 7.6], [6, 7.6]),
  line('bar-3', 'Bar 3', 'bar', 6, [-6, 5.6], [6, 5.6]),
  line('bar-2', 'Bar 2', 'bar', 6, [-6, 3.6], [6, 3.6]),
  line('bar-1', 'Bar 1', 'bar', 6, [-6, 1.6], [6, 1.6]),
  line('boom-r', 'Boom R', 'boom', 2, [-7.8, 6.2], [-7.8, 1.8]),
  line('boom-l', 'Boom L', 'boom', 2, [7.8, 6.2], [7.8, 1.8]),
  line('floor', 'Floor', 'bar', 0.2, [-5.2, 6.65], [5.2, 6.65]),
  line(
    'proscenium-r',
    'Proscenium',
    'edge',
    0,
    [-8.2, 0],
    [-6, 0],
    [-6, 0.25],
    [-5.75, 0.25],
    [-5.75, -0.3],
  ),
  line('proscenium-l', '', 'edge', 0, [8.2, 0], [6, 0], [6, 0.25], [5.75, 0.25], [5.75, -0.3]),
  line('apron', '', 'edge', 0, [-5.75, -0.3], [-3, -0.85], [0, -1.05], [3, -0.85], [5.75, -0.3]),
  line('foh', 'FOH bridge', 'bar', 6.5, [-6.2, -2.4], [6.2, -2.4]),
  line('house', 'House', 'house', 4, [-5.4, -3.6], [-2.7, -3.9], [0, -4], [2.7, -3.9], [5.4, -3.6]),
];

/** As the show says for new universes; else both protocols to the simulated node. Art-Net port addresses count from 0, sACN universes from 1. */
export function routesFor(universe: number, as?: NewUniverses): RouteRow[] {
  if (!as) return toTheNode(universe);
  const { shift, ...route } = as;
  return [
    { id: `${route.protocol}-${universe}`, universe, wire: universe + shift, on: true, ...route },
  ];
}

const toTheNode = (universe: number): RouteRow[] => [
  {
    id: `sacn-${universe}`,
    universe,
    protocol: 'sacn',
    destination: 'node',
    wire: universe,
    priority: 100,
    on: true,
  },
  {
    id: `artnet-${universe}`,
    universe,
    protocol: 'artnet',
    destination: 'node',
    wire: universe - 1,
    priority: 100,
    on: true,
  },
];

const insert = <C extends RowChange>(change: C): C => change;

/** The rows that a show begins with: settings, a list, the lines of an empty stage, a way out for universe 1. */
export function newShowRows(name: string, venue = ''): RowChange[] {
  return [
    insert({
      table: 'settings',
      id: 'show',
      before: null,
      after: { id: 'show', name, venue, note: '' },
    }),
    insert({
      table: 'lists',
      id: 'main',
      before: null,
      after: { id: 'main', number: 1, name: 'Main list', back_s: 2 },
    }),
    ...emptyStage().map((row) => insert({ table: 'pieces', id: row.id, before: null, after: row })),
    ...routesFor(1).map((row) => insert({ table: 'routes', id: row.id, before: null, after: row })),
  ];
}
