/** Who is here: the screens of all shows, who is told of whom, and whose view is followed. */
import type { Person, ServerMessage, View } from '../core/live/messages.ts';
import type { Client } from './client.ts';

/** Who is where is told at most this often, to each screen of a show. */
const PRESENCE_EVERY_MS = 150;

interface Told {
  timer: NodeJS.Timeout;
  again: boolean;
}

const handsOf = ({ hand, doing }: Client): Person['hands'] =>
  hand !== null || doing !== '' ? [{ hand, doing }] : [];

/** People as the screens of a show see them; of several screens the one used last says where somebody is. */
function peopleOf(clients: readonly Client[]): Person[] {
  const people = new Map<string, Person>();
  for (const c of [...clients].sort((a, b) => b.used_ms - a.used_ms)) {
    const known = people.get(c.actor.userId);
    if (known) {
      known.screens++;
      known.hands.push(...handsOf(c));
      continue;
    }
    people.set(c.actor.userId, {
      userId: c.actor.userId,
      name: c.actor.name,
      role: c.actor.role,
      place: c.place,
      cue: c.cue,
      device: c.device,
      screens: 1,
      hands: handsOf(c),
    });
  }
  return [...people.values()];
}

/** All screens that are connected, by show, and what each show’s were told last. */
export class Gathering {
  readonly clients = new Set<Client>();
  private readonly told = new Map<string, Told>();

  of(showId: string): Client[] {
    return [...this.clients].filter((c) => c.showId === showId);
  }

  to(showId: string, act: (client: Client) => void): void {
    for (const client of this.clients) if (client.showId === showId) act(client);
  }

  isHere(showId: string, userId: string): boolean {
    return this.of(showId).some((c) => c.actor.userId === userId);
  }

  /** Tells all of a show who is where: at once, and then not again for a moment, however many move. */
  tellPresence(showId: string): void {
    const told = this.told.get(showId);
    if (told) {
      told.again = true;
      return;
    }
    const message: ServerMessage = { type: 'presence', people: peopleOf(this.of(showId)) };
    this.to(showId, (c) => c.send(message));
    const timer = setTimeout(() => {
      const { again = false } = this.told.get(showId) ?? {};
      this.told.delete(showId);
      if (again) this.tellPresence(showId);
    }, PRESENCE_EVERY_MS);
    timer.unref();
    this.told.set(showId, { timer, again: false });
  }

  /** Screens are told who goes along with them, so that they say what they look at while somebody does. */
  tellFollowed(showId: string): void {
    const here = this.of(showId);
    for (const client of here) {
      const followers = here.filter((c) => c.watching.follows === client.actor.userId);
      const by = [...new Set(followers.map((c) => c.actor.name))];
      if (by.join() === client.followedBy) continue;
      client.followedBy = by.join();
      client.send({ type: 'followed', by });
    }
  }

  /** A screen looks at something else: whoever goes along sees it. Only the screen that its person used last is followed. */
  viewed(client: Client, view: View): void {
    const { userId } = client.actor;
    const here = this.of(client.showId);
    const newer = here.some(
      (c) => c !== client && c.actor.userId === userId && c.used_ms > client.used_ms,
    );
    if (newer) return;
    for (const c of here) if (c.watching.follows === userId) c.send({ type: 'view', userId, view });
  }
}
