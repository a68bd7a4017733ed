/** Timecode that a list gives, read by the readers of timecode: where it is, and where it jumps. */
import { cue, exampleShow } from '../core/testing/example.ts';
import { readArtTimeCode } from '../core/timecode/art.ts';
import { freshMtc, readMtc } from '../core/timecode/mtc.ts';
import { formatTimecode, secondsOf } from '../core/timecode/rate.ts';
import { desk, mara } from './simulated-desk.ts';
import { makeTimecodeOut } from './timecode-out.ts';

const MAIN = 'main';

function giving() {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 50 });
  const d = desk(show);
  d.edit(mara, 'place-cues', { list: MAIN, at: { [id]: 0 } });
  d.edit(mara, 'change-list', {
    id: MAIN,
    set: {
      time: {
        on: true,
        end_s: 100,
        tempo: [],
        marks: [],
        gives: { to: ['midi', 'artnet'], rate: '25', offset_s: 3600 },
      },
    },
  });
  const sent: { at_s: number; bytes: Uint8Array }[] = [];
  const art: string[] = [];
  let now_s = 0;
  const out = makeTimecodeOut({
    midi: (bytes) => void sent.push({ at_s: now_s, bytes }),
    artnet: (packet) => {
      const t = readArtTimeCode(packet);
      if (t) art.push(formatTimecode(t));
    },
  });
  const pass = (seconds: number): void => {
    for (let i = 0; i < seconds * 200; i++) {
      d.pass(0.005);
      now_s += 0.005;
      out.tick(d.live);
    }
  };
  return { d, sent, art, pass };
}

test('a reader is locked, and where it says is where the list is, within a frame', () => {
  const g = giving();
  g.d.say(mara, { command: 'track', do: 'play', at_s: 0 });
  g.pass(3);
  const state = freshMtc();
  const heard = g.sent.flatMap(({ at_s, bytes }) => {
    const time = readMtc(state, bytes);
    return time && !time.stands ? [{ at_s, says_s: secondsOf(time.time) - 3600 }] : [];
  });
  expect(heard.length).toBeGreaterThan(30);
  for (const { at_s, says_s } of heard.slice(1)) expect(Math.abs(says_s - at_s)).toBeLessThan(0.05);
  expect(g.art.at(-1)).toMatch(/^01:00:0[23]:/);
});

test('a jump is told as a whole, and so is a moment at which it stands, once', () => {
  const g = giving();
  g.d.say(mara, { command: 'track', do: 'play', at_s: 0 });
  g.pass(1);
  g.sent.length = 0;
  g.d.say(mara, { command: 'track', do: 'pause', at_s: 50 });
  g.pass(1);
  const whole = g.sent.filter(({ bytes }) => bytes[0] === 0xf0);
  expect(whole).toHaveLength(1);
  expect(readMtc(freshMtc(), whole[0]?.bytes ?? [])?.time).toMatchObject({
    h: 1,
    m: 0,
    s: 50,
    f: 0,
  });
  expect(g.art.at(-1)).toBe('01:00:50:00');
  expect(g.sent).toHaveLength(1);
});
