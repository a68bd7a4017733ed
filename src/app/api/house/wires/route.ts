import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { Wires } from '@/core/wires/wires';
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

const { shape } = Wires;
const Change = Wires.extend({
  // Of what is left out nothing changes: no defaults here.
  sourceName: shape.sourceName.unwrap(),
  card: shape.card.unwrap(),
  asked: shape.asked.unwrap(),
  sync: shape.sync.unwrap(),
  artSync: shape.artSync.unwrap(),
}).partial();

export const PUT = personRoute(
  {
    says: 'Says by which network card lights are reached, what the house is called there, and whether universes are synchronised. Streams change over at once.',
    answers: 'wires',
    may: 'choose the wires',
    body: Change.strict(),
  },
  async ({ body }) => {
    // Absent is not undefined.
    const set = Object.fromEntries(Object.entries(body).filter(([, v]) => v !== undefined));
    return { wires: await changeWires(server().db, set) };
  },
);
