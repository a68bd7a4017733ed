/** Run by no-allocation.test.ts in a process of its own: prints the bytes that a frame leaves behind, for each case. */
import { slotKey } from '../cues/rows.ts';
import { Engine } from '../playback/engine.ts';
import { compileEffects, waveFinder } from '../playback/programs.ts';
import { compileSlots, slotIndex } from '../playback/slots.ts';
import { holds, moves } from './columns.ts';
import { apply, exampleShow, idOf } from './example.ts';

const FRAME_S = 1 / 44;
const WARM = 20_000;
const FRAMES = 10_000;
const LONG_S = 100_000;

const collect = (globalThis as { gc?: () => void }).gc ?? (() => undefined);

/** Bytes a frame that are there after so many frames and were not before. */
function left(engine: Engine): number {
  let frame = 2;
  for (let i = 0; i < WARM; i++) engine.tick(frame++ * FRAME_S);
  collect();
  const before = process.memoryUsage().heapUsed;
  for (let i = 0; i < FRAMES; i++) engine.tick(frame++ * FRAME_S);
  return (process.memoryUsage().heapUsed - before) / FRAMES;
}

function stage() {
  const show = exampleShow();
  apply(show, 'add-standard-effects', {});
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const programs = compileEffects(show, 120);
  const effect = [...show.effects.values()].find((e) =>
    e.tracks.some((t) => t.attribute === 'Dimmer'),
  );
  const engine = new Engine(slots);
  engine.setPrograms(programs);
  engine.tick(0);
  const all = [...show.fixtures.values()].flatMap((f) => index.get(slotKey(f.id, 'Dimmer')) ?? []);
  const pan = index.get(slotKey(idOf(show, 101), 'Pan')) ?? 0;
  return { engine, all, pan, wave: waveFinder(programs)(effect?.id ?? '', 'Dimmer', '') };
}

function oneList(): number {
  const { engine, all } = stage();
  engine.move('a', moves(all, { level: 1, up_s: LONG_S }), 0);
  return left(engine);
}

/** Lists that meet, one of them let go of, with effects, paced and mastered; hands over them, one that lets go; inhibited. */
function everything(): number {
  const { engine, all, pan, wave } = stage();
  const both = [...all, pan];
  engine.move('a', moves(both, { level: 0.8, up_s: LONG_S, wave, phase: 0.2 }), 0);
  engine.move('b', moves(both, { level: 1, up_s: LONG_S, curve: 1 }), 0);
  engine.move('c', moves(both, { level: 0.4, up_s: LONG_S }), 0);
  engine.configure([{ id: 'c', ltp: true, priority: 60 }]);
  engine.tick(FRAME_S);
  engine.release('b', LONG_S, FRAME_S);
  engine.setRate('a', 1.5);
  engine.setListMaster('a', 0.5, LONG_S, FRAME_S);
  engine.hold('mara', holds(all, { level: 0.3, fade_s: LONG_S, wave }), FRAME_S);
  engine.hold('tam', holds(all, { level: 0.9, fade_s: LONG_S }), FRAME_S);
  engine.letGo('tam', all, LONG_S, FRAME_S);
  engine.setInhibit(new Float32Array(engine.slots.keys.length).fill(0.5));
  return left(engine);
}

console.log(
  JSON.stringify({ slots: stage().all.length, oneList: oneList(), everything: everything() }),
);
