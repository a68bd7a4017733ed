/** Live commands of the network: what devices on it are called, what other desks show. */
import { z } from 'zod';
import { defineLive } from '../live/define-live.ts';
import { LONG_NAME_BYTES, SHORT_NAME_BYTES } from '../output/art-poll.ts';
import { EDITORS, PLAYERS } from '../roles.ts';
import { idOf } from '../show/fields.ts';

export const takeIn = defineLive({
  command: 'take-in',
  ofHouse: true,
  says: 'Takes what another desk shows now, in the universe of an input, as values into your programmer: to be recorded as a look or a cue.',
  params: { input: idOf('inputs') },
  roles: PLAYERS,
});

const within = (bytes: number) =>
  z
    .string()
    .trim()
    .refine(
      (t) => new TextEncoder().encode(t).length <= bytes,
      `The node has room for ${bytes} bytes.`,
    );

export const renameNode = defineLive({
  command: 'rename-node',
  ofHouse: true,
  says: 'Gives an Art-Net node other names (ArtAddress); it keeps them, and everybody on the network sees them. An empty one stays as it is.',
  params: {
    address: z.ipv4('A node has an IPv4 address.'),
    /** Which of the replies of a device it is, as it says itself. */
    bindIndex: z.number().int().min(0).max(255).default(0),
    shortName: within(SHORT_NAME_BYTES).default(''),
    longName: within(LONG_NAME_BYTES).default(''),
  },
  roles: EDITORS,
});
