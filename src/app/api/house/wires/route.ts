import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { ChangeWires } from '@/core/wires/wires';
import { changeWires, readWires } from '@/store/wires';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  {
    says: 'What the house has said of its network: the card by which lights are reached, the name of its source, synchronisation.',
    answers: 'wires',
    may: 'look at the wires',
  },
  async () => ({ wires: await readWires(server().db) }),
);

export const PUT = personRoute(
  {
    says: 'Says by which network card lights are reached, what the house is called there, and whether universes are synchronised. Streams change over at once.',
    answers: 'wires',
    may: 'choose the wires',
    body: ChangeWires,
  },
  async ({ body }) => ({ wires: await changeWires(server().db, body) }),
);
