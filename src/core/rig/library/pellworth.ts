/** Pellworth: conventional profiles, fresnels, floods, practicals and house lights. A made-up maker. */
import type { TypeRow } from '../../types/rows.ts';
import { makeType, mode } from '../make-type.ts';

const lamp = (
  id: string,
  name: string,
  watts: number,
  lamp_K: number,
  shape: TypeRow['shape'],
  weight_kg: number,
): TypeRow =>
  makeType({
    id: `pellworth-${id}`,
    maker: 'Pellworth',
    name,
    shape,
    lamp_K,
    watts,
    weight_kg,
    modes: [mode('Dimmer', ['Dimmer']), mode('Dimmer 16 bit', ['Dimmer:16'])],
  });

/** All types of Pellworth. */
export const PELLWORTH: readonly TypeRow[] = [
  lamp('shoreline', 'Shoreline 26', 750, 3100, 'profile', 7.2),
  lamp('shoreline-19', 'Shoreline 19', 750, 3100, 'profile', 7.4),
  lamp('shoreline-36', 'Shoreline 36', 750, 3100, 'profile', 7),
  lamp('shoreline-zoom', 'Shoreline zoom 15-30', 1000, 3200, 'profile', 12),
  lamp('jetty', 'Jetty fresnel', 1000, 2950, 'wash', 6),
  lamp('jetty-2', 'Jetty fresnel 2 kW', 2000, 3200, 'wash', 11),
  lamp('breakwater', 'Breakwater pebble', 650, 3000, 'wash', 4.5),
  lamp('jonquil', 'Jonquil batten', 1500, 2900, 'strip', 9),
  lamp('mudflat', 'Mudflat flood', 500, 2900, 'wash', 3),
  lamp('tin-par', 'Tin par 64', 1000, 3200, 'wash', 2.5),
  lamp('lantern', 'Deck lantern', 60, 2300, 'house', 0.8),
  lamp('house', 'House relay', 1800, 2700, 'house', 0),
  lamp('sconce', 'Hall sconce', 80, 2600, 'house', 1.2),
  lamp('worklight', 'Work light', 400, 4000, 'house', 3),
];
