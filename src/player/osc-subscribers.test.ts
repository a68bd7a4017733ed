/** Who is told over OSC, of what, and until when. */
import { readOsc } from '../core/output/osc.ts';
import { desk, mara } from './simulated-desk.ts';
import {
  hearSubscription,
  makeSubscribers,
  MOST_SUBSCRIBERS,
  SUBSCRIBED_MS,
  tellSubscribers,
} from './osc-subscribers.ts';

function here() {
  const d = desk();
  const sent: { to: string; says: string }[] = [];
  const subscribers = makeSubscribers((packet, to) => {
    const m = readOsc(packet);
    sent.push({ to: `${to.address}:${to.port}`, says: [m?.address, ...(m?.args ?? [])].join(' ') });
  });
  const ask = (
    what: string,
    args: (number | string)[] = [],
    at_ms = 0,
    address = '10.0.0.9',
  ): boolean =>
    hearSubscription(subscribers, `/wingman/${what}`, args, { address, port: 7000 }, at_ms);
  const tell = (at_ms = 0): string[] => {
    sent.length = 0;
    tellSubscribers(subscribers, d.show, d.live.playback(), at_ms);
    return sent.map((s) => s.says);
  };
  return { d, sent, subscribers, ask, tell };
}

test('whoever asks is told everything once, and then what changes, where it asked from', () => {
  const h = here();
  expect(h.ask('subscribe')).toBe(true);
  expect(h.tell()).toEqual(expect.arrayContaining(['/wingman/master 1', '/wingman/blackout 0']));
  expect(h.sent[0]?.to).toBe('10.0.0.9:7000');
  expect(h.tell()).toEqual([]);
  h.d.say(mara, { command: 'master', level: 0.5 });
  expect(h.tell()).toEqual(['/wingman/master 0.5']);
});

test('another port may be named; one that is none is not taken', () => {
  const h = here();
  h.ask('subscribe', [9001]);
  h.tell();
  expect(h.sent[0]?.to).toBe('10.0.0.9:9001');
  for (const port of [0, 70_000, 1.5, 'x']) h.ask('subscribe', [port], 0, '10.0.0.10');
  expect(h.subscribers.all.size).toBe(1);
});

test('it ends when asked, or a minute after the last asking; asking again tells nothing twice', () => {
  const h = here();
  h.ask('subscribe');
  h.tell();
  h.ask('subscribe', [], 50_000);
  expect(h.tell(50_000)).toEqual([]);
  h.d.say(mara, { command: 'blackout', on: true });
  expect(h.tell(50_000 + SUBSCRIBED_MS - 1)).toEqual(['/wingman/blackout 1']);
  h.d.say(mara, { command: 'blackout', on: false });
  expect(h.tell(50_000 + SUBSCRIBED_MS + 1)).toEqual([]);
  h.ask('subscribe');
  h.ask('unsubscribe');
  expect(h.tell()).toEqual([]);
});

test('no more than so many are told, and other addresses are none of its business', () => {
  const h = here();
  for (let i = 0; i < MOST_SUBSCRIBERS + 5; i++) h.ask('subscribe', [], 0, `10.0.1.${i}`);
  expect(h.subscribers.all.size).toBe(MOST_SUBSCRIBERS);
  expect(h.ask('go')).toBe(false);
});
