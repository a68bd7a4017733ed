/** Live commands of RDM: looking who hangs there, and setting it. */
import { z } from 'zod';
import { defineLive } from '../live/define-live.ts';
import { EDITORS } from '../roles.ts';
import { UID_PATTERN } from './packet.ts';

const Uid = z.string().regex(UID_PATTERN, 'A unit is called like 7a70:00000001.');

export const rdm = defineLive({
  command: 'rdm',
  ofHouse: true,
  says: 'RDM over Art-Net: asks who hangs at the nodes (`look`), has one unit show itself, or sets its address or mode. It is asked again afterwards.',
  params: {
    do: z.enum(['look', 'identify', 'address', 'mode']),
    uid: Uid.optional(),
    /** Of `address` 1-512, of `mode` from 1, of `identify` 1 or 0. */
    value: z.number().int().min(0).max(512).optional(),
  },
  roles: EDITORS,
});
