/**
 * The process that sounds at the machine of the player: it decodes, mixes and writes, and what goes wrong in it ends
 * nothing else. What it is to play is told by the player; what it plays by is the clock that both have.
 */
import { join } from 'node:path';
import { z } from 'zod';
import type { SoundFile } from '../../core/sounds/rows.ts';
import { freshLtc, readLtc } from '../../core/timecode/ltc.ts';
import { connect } from '../../store/database.ts';
import { guardConsole, makeLog, surviveDatabase } from '../../store/survive.ts';
import { soundAnywhere } from '../../store/sounds/kept.ts';
import {
  monotonic,
  SIMULATED_INPUT,
  SIMULATED_OUTPUT,
  type CodeNow,
  type FromSound,
  type ToSound,
  type TrackNow,
} from './messages.ts';
import { CodeWriters } from './code-writers.ts';
import { Mixer } from './mixer.ts';
import { cardInput, listInputs, simulatedInput, type Input } from './inputs.ts';
import { cardOutput, listOutputs, simulatedOutput, type Output } from './outputs.ts';
import { dropUnused, makeReady, openSamples } from './pcm-file.ts';

const environment = z
  .object({ DATABASE_URL: z.string(), WINGMAN_DATA: z.string() })
  .parse(process.env);
const log = makeLog('sound');
guardConsole();
surviveDatabase(log);
const { db } = connect(environment.DATABASE_URL, 2);
const CACHE = join(environment.WINGMAN_DATA, 'sounds');
const HEARD = join(environment.WINGMAN_DATA, 'heard');
/** Written ahead of what is heard; a block is what is mixed at once. */
const AHEAD_MS = 250;
const BLOCK_MS = 50;
const TICK_MS = 20;
const TELL_MS = 500;
const LOOK_MS = 3000;

type Open = ReturnType<typeof openSamples>;
const state = {
  devices: [] as string[],
  inputs: [] as string[],
  inputProblem: null as string | null,
  problem: null as string | null,
  /** Why a sound is not ready, while one is not. */
  readyProblem: null as string | null,
  ready: new Map<string, number>(),
};
const open = new Map<string, Open>();
let tracks: TrackNow[] = [];
let ended: TrackNow[] = [];
let wanted: string | null = null;
/** The player has said that sound goes out here at all. */
let isWanted = false;
let output: Output | null = null;
let mixer = new Mixer(48_000);
/** The frame of the output that is written next. */
let next = 0;

/** Timecode has an output of its own. */
const code = {
  wanted: null as string | null,
  output: null as Output | null,
  next: 0,
  codes: [] as CodeNow[],
  writers: new CodeWriters(),
};

async function openCode(device: string | null): Promise<void> {
  code.wanted = device;
  code.output?.close();
  code.output = null;
  if (device === null) return;
  const made =
    device === SIMULATED_OUTPUT
      ? simulatedOutput(HEARD, 'code')
      : await cardOutput(device === '' ? null : device);
  if (typeof made === 'string') {
    state.problem ??= made;
    return;
  }
  if (code.wanted !== device) return made.close();
  code.output = made;
  code.next = made.frame();
}

/** Timecode has an input of its own as well. */
const codeIn = { wanted: null as string | null, input: null as Input | null };

async function openInput(name: string | null): Promise<void> {
  codeIn.wanted = name;
  codeIn.input?.close();
  codeIn.input = null;
  state.inputProblem = null;
  if (name === null) return;
  const reader = freshLtc();
  const hears = (samples: Float32Array, rate_hz: number): void => {
    // Of several in one block the last says where it is.
    const last = readLtc(reader, samples, rate_hz).at(-1);
    if (last) process.send?.({ is: 'time', time: last.time, way: last.way } satisfies FromSound);
  };
  const made =
    name === SIMULATED_INPUT ? simulatedInput(HEARD, hears) : await cardInput(name, hears);
  if (codeIn.wanted !== name) {
    if (typeof made !== 'string') made.close();
  } else if (typeof made === 'string') state.inputProblem = made;
  else codeIn.input = made;
}

async function openOutput(device: string | null): Promise<void> {
  wanted = device;
  isWanted = true;
  output?.close();
  output = null;
  const made = device === SIMULATED_OUTPUT ? simulatedOutput(HEARD) : await cardOutput(device);
  if (wanted !== device) {
    if (typeof made !== 'string') made.close();
    return;
  }
  if (typeof made === 'string') {
    state.problem = made;
    return;
  }
  state.problem = null;
  output = made;
  mixer = new Mixer(made.rate_hz);
  next = made.frame();
}

/** All that may be heard; what could not be made ready is tried again. */
let files: readonly SoundFile[] = [];
let making: Promise<void> = Promise.resolve();
/** One after another: decoding takes all of a processor. */
function ready(all: readonly SoundFile[]): void {
  for (const file of all) {
    if (state.ready.has(file.sha256)) continue;
    state.ready.set(file.sha256, 0);
    making = making
      .then(async () => {
        const kept = await soundAnywhere(db, file.sha256);
        if (!kept) return void state.ready.delete(file.sha256);
        await makeReady(CACHE, kept.about, kept.reader, (share) =>
          state.ready.set(file.sha256, share),
        );
        state.ready.set(file.sha256, 1);
        state.readyProblem = null;
      })
      .catch((error: unknown) => {
        state.ready.delete(file.sha256);
        state.readyProblem = `A sound could not be made ready at this machine, and is tried again: ${(error as Error).message}`;
        log.warn({ error: String(error) }, 'a sound could not be made ready');
      });
  }
}

function samplesOf(file: SoundFile): Open | undefined {
  if (state.ready.get(file.sha256) !== 1) return undefined;
  const known = open.get(file.sha256);
  if (known) return known;
  try {
    const made = openSamples(CACHE, file);
    open.set(file.sha256, made);
    return made;
  } catch {
    state.ready.delete(file.sha256);
    return undefined;
  }
}

/** Blocks of an output until it is written far enough ahead. @returns the frame that comes next */
function ahead(
  to: Output,
  from: number,
  fill: (starts_ms: number, left: Float32Array, right: Float32Array) => void,
): number {
  const block = Math.round((to.rate_hz * BLOCK_MS) / 1000);
  const now = to.frame();
  // This process was held up: what is past is past.
  let frame = from < now ? now + block : from;
  for (; frame < now + (to.rate_hz * AHEAD_MS) / 1000; frame += block) {
    const [left, right] = [new Float32Array(block), new Float32Array(block)];
    fill(to.heardAt(frame), left, right);
    to.write(left, right, frame);
  }
  return frame;
}

function mixCode(): void {
  const { output: to, codes } = code;
  if (!to) return;
  code.next = ahead(to, code.next, (starts_ms, left, right) => {
    for (const now of codes) code.writers.add(now, left, starts_ms, to.rate_hz);
    right.set(left);
  });
}

function mix(): void {
  mixCode();
  if (!output) return;
  next = ahead(output, next, (starts_ms, left, right) => {
    for (const track of [...tracks, ...ended]) {
      const samples = samplesOf(track.file);
      if (samples) mixer.add(track, samples, starts_ms, { left, right });
    }
  });
  const over = monotonic();
  ended = ended.filter((t) => over - t.at_ms < (t.end_s + 1) * 1000 && t.rate > 0);
}

function heard(message: ToSound): void {
  switch (message.do) {
    case 'device':
      return void openOutput(message.name);
    case 'code-device':
      return void openCode(message.name);
    case 'code-input':
      return void openInput(message.name);
    case 'codes':
      code.codes = message.codes;
      return;
    case 'ready':
      ({ files } = message);
      return ready(files);
    case 'tracks': {
      const keys = new Set(message.tracks.map((t) => t.key));
      // What is no longer on its track stands: it fades, and is forgotten.
      const gone = tracks.filter((t) => !keys.has(t.key)).map((t) => ({ ...t, rate: 0 }));
      tracks = message.tracks;
      ended = [...ended, ...gone];
      return ready(message.tracks.map((t) => t.file));
    }
    case 'once': {
      ready([message.file]);
      const { key, file } = message;
      const whole = { sound: 'once', at_s: 0 };
      ended = [
        ...ended,
        {
          key,
          file,
          sound: whole,
          end_s: file.length_s,
          position_s: 0,
          at_ms: monotonic(),
          rate: 1,
        },
      ];
      return;
    }
    case 'silence':
      ended = ended.map((t) => ({ ...t, rate: 0 }));
  }
}

function tell(): void {
  const says: FromSound = {
    is: 'state',
    devices: state.devices,
    inputs: state.inputs,
    inputProblem: state.inputProblem,
    problem: state.problem ?? state.readyProblem,
    ready: Object.fromEntries(state.ready),
    off_ms: Object.fromEntries(mixer.off_ms),
  };
  process.send?.(says);
}

async function look(): Promise<void> {
  const { devices } = await listOutputs();
  state.devices = devices;
  state.inputs = [...(await listInputs()), SIMULATED_INPUT];
  ready(files);
  // A card that has come back is taken up again.
  if (!output && isWanted && wanted !== SIMULATED_OUTPUT) await openOutput(wanted);
  if (!code.output && code.wanted !== null) await openCode(code.wanted);
  if (!codeIn.input && codeIn.wanted !== null) await openInput(codeIn.wanted);
}

process.on('message', heard);
process.on('disconnect', () => process.exit(0));
process.on('SIGINT', () => undefined);
setInterval(mix, TICK_MS);
setInterval(tell, TELL_MS);
setInterval(() => void look(), LOOK_MS);
void look().then(tell);
void dropUnused(CACHE, Date.now());
