/** Who hears of what happens in a show: one's own screens, the others', and nobody of another show. */
import type { Logger } from 'pino';
import type { Database } from '../store/database.ts';
import { audienceOf } from './audience.ts';
import type { Client } from './client.ts';
import { Gathering } from './gathering.ts';
import type { LiveShow } from './live-show.ts';
import type { Saves } from './saves.ts';

const heard: string[] = [];
/** A screen of somebody that notes what it is told. */
const screenOf = (userId: string, showId: string, sound = false): Client =>
  ({
    showId,
    actor: { userId, name: userId, role: 'programmer' },
    watching: { sound },
    send: (m: { type: string }) => void heard.push(`${showId} ${userId} ${m.type}`),
    sendProgrammer: () => void heard.push(`${showId} ${userId} own values`),
    sendOthers: () => void heard.push(`${showId} ${userId} others’ values`),
  }) as unknown as Client;

const gathering = new Gathering();
for (const c of [
  screenOf('mara', 'ferry', true),
  screenOf('mara', 'ferry'),
  screenOf('tam', 'ferry'),
  screenOf('mara', 'sunday'),
])
  gathering.clients.add(c);
const journal: unknown[] = [];
let at: string | undefined;
const show = {
  name: 'Ferry',
  show: { settings: { get: () => (at === undefined ? {} : { soundOut: { at } }) } },
} as unknown as LiveShow;
const atMachine: string[] = [];
const audience = audienceOf('ferry', () => show, {
  db: {} as Database,
  log: { warn: () => undefined } as unknown as Logger,
  gathering,
  saves: { touched: () => undefined } as unknown as Saves,
  note: (_, happened) => void journal.push(happened),
  sounds: { play: (_, sound) => atMachine.push(sound) > 0 },
});
afterEach(() => heard.splice(0));

test('what somebody holds is theirs on every screen of theirs, and another’s to everybody else', () => {
  audience.programmer('mara');
  expect(heard).toEqual([
    'ferry mara own values',
    'ferry mara own values',
    'ferry tam others’ values',
  ]);
});

test('a sound goes to the screens that play sounds, and says to how many', () => {
  expect(audience.sound('bell')).toBe(1);
  expect(heard).toEqual(['ferry mara sound']);
  expect(atMachine).toEqual([]);
});

test('it is heard where the show says: at screens, at the player’s machine, or at both', () => {
  at = 'player';
  expect(audience.sound('bell')).toBe(1);
  expect(heard).toEqual([]);
  at = 'both';
  expect(audience.sound('bell')).toBe(2);
  expect(heard).toEqual(['ferry mara sound']);
  expect(atMachine).toEqual(['bell', 'bell']);
  at = undefined;
});

test('a word of its moment goes to the one it is for, and into no inbox', () => {
  audience.word('tam', {
    type: 'word',
    kind: 'over',
    from: { userId: 'mara', name: 'Mara' },
    text: 'Mara pressed “House light”, over your board.',
  });
  expect(heard).toEqual(['ferry tam word']);
});

test('who is here is asked by show', () => {
  expect([audience.present('tam'), audience.present('iden')]).toEqual([true, false]);
  expect(audience.people().map((p) => p.userId)).toEqual(['mara', 'mara', 'tam']);
});

test('the journal names who did it', () => {
  audience.journal({
    kind: 'go',
    by: { userId: 'mara', name: 'Mara Kell' },
    text: 'GO: cue 5',
  });
  expect(journal).toEqual([
    { kind: 'go', userId: 'mara', userName: 'Mara Kell', text: 'GO: cue 5' },
  ]);
});
