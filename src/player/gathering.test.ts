/** Who is told of whom: screens of a show of each other, and of nobody else's. */
import type { ServerMessage } from '../core/live/messages.ts';
import type { Client } from './client.ts';
import { Gathering } from './gathering.ts';

interface Made {
  client: Client;
  heard: ServerMessage[];
}
function screenOf(
  userId: string,
  more: { showId?: string; used_ms?: number; follows?: string; hand?: string; doing?: string } = {},
): Made {
  const heard: ServerMessage[] = [];
  const client = {
    showId: more.showId ?? 'ferry',
    actor: { userId, name: userId, role: 'programmer' },
    place: 'book',
    cue: null,
    device: 'a laptop',
    used_ms: more.used_ms ?? 0,
    hand: more.hand ?? null,
    doing: more.doing ?? '',
    followedBy: '',
    watching: { follows: more.follows ?? null },
    send: (m: ServerMessage) => void heard.push(m),
  };
  return { client: client as unknown as Client, heard };
}
const gather = (...screens: Made[]): Gathering => {
  const gathering = new Gathering();
  for (const s of screens) gathering.clients.add(s.client);
  return gathering;
};
const kinds = ({ heard }: Made): string[] => heard.map((m) => m.type);

describe('presence', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  test('the first move is told at once, those that follow together a moment later, and then nothing', () => {
    const [mara, tam] = [screenOf('mara'), screenOf('tam', { showId: 'sunday' })];
    const gathering = gather(mara, tam);
    gathering.tellPresence('ferry');
    expect(kinds(mara)).toEqual(['presence']);
    for (let i = 0; i < 20; i++) gathering.tellPresence('ferry');
    expect(kinds(mara)).toEqual(['presence']);
    jest.advanceTimersByTime(200);
    expect(kinds(mara)).toEqual(['presence', 'presence']);
    jest.advanceTimersByTime(2000);
    expect(kinds(mara)).toHaveLength(2);
    expect(kinds(tam)).toEqual([]);
  });

  test('a move that nothing follows is told once', () => {
    const mara = screenOf('mara');
    gather(mara).tellPresence('ferry');
    jest.advanceTimersByTime(2000);
    expect(kinds(mara)).toEqual(['presence']);
  });

  test('of several screens of somebody the one used last says where they are; what hands do on all of them is told', () => {
    const old = screenOf('mara', { used_ms: 10, hand: 'cues/5', doing: '' });
    const used = screenOf('mara', { used_ms: 20, doing: 'Record cue' });
    Object.assign(used.client, { place: 'stage' });
    const gathering = gather(old, used, screenOf('tam'));
    gathering.tellPresence('ferry');
    const [message] = old.heard;
    expect(message).toMatchObject({
      people: [
        {
          userId: 'mara',
          place: 'stage',
          screens: 2,
          hands: [
            { hand: null, doing: 'Record cue' },
            { hand: 'cues/5', doing: '' },
          ],
        },
        { userId: 'tam', screens: 1, hands: [] },
      ],
    });
  });
});

describe('going along with somebody', () => {
  test('who is followed is told by whom, once, and again when nobody does any more', () => {
    const [mara, tam] = [screenOf('mara'), screenOf('tam', { follows: 'mara' })];
    const gathering = gather(mara, tam, screenOf('tam', { follows: 'mara' }));
    gathering.tellFollowed('ferry');
    gathering.tellFollowed('ferry');
    expect(mara.heard).toEqual([{ type: 'followed', by: ['tam'] }]);
    for (const c of gathering.of('ferry')) c.watching.follows = null;
    gathering.tellFollowed('ferry');
    expect(mara.heard.at(-1)).toEqual({ type: 'followed', by: [] });
    expect(tam.heard).toEqual([]);
  });

  test('the view of the screen that was used last goes to who follows, that of an older one to nobody', () => {
    const [older, newer] = [screenOf('mara', { used_ms: 1 }), screenOf('mara', { used_ms: 2 })];
    const [tam, iden] = [screenOf('tam', { follows: 'mara' }), screenOf('iden')];
    const gathering = gather(older, newer, tam, iden);
    const view = { place: 'book' } as never;
    gathering.viewed(older.client, view);
    expect(tam.heard).toEqual([]);
    gathering.viewed(newer.client, view);
    expect(tam.heard).toEqual([{ type: 'view', userId: 'mara', view }]);
    expect(iden.heard).toEqual([]);
    expect([gathering.isHere('ferry', 'iden'), gathering.isHere('sunday', 'iden')]).toEqual([
      true,
      false,
    ]);
  });
});
