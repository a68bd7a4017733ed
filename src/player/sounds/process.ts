/**
 * The process that sounds at the machine of the player (sounding.ts): what goes wrong in it ends nothing else. It brings
 * the machine's cards, the house's files, and the times at which it is done.
 */
import { join } from 'node:path';
import { z } from 'zod';
import { connect } from '../../store/database.ts';
import { guardConsole, makeLog, surviveDatabase } from '../../store/survive.ts';
import { soundAnywhere } from '../../store/sounds/kept.ts';
import {
  monotonic,
  SIMULATED_INPUT,
  SIMULATED_OUTPUT,
  type FromSound,
  type ToSound,
} from './messages.ts';
import { cardNames, machineCards } from './cards.ts';
import { cardInput, simulatedInput } from './inputs.ts';
import { cardOutput, simulatedOutput } from './outputs.ts';
import { dropUnused, makeReady, openSamples } from './pcm-file.ts';
import { makeSounding } from './sounding.ts';

const environment = z
  .object({ DATABASE_URL: z.string(), WINGMAN_DATA: z.string() })
  .parse(process.env);
const log = makeLog('sound');
guardConsole();
surviveDatabase(log);
const { db } = connect(environment.DATABASE_URL, 2);
const CACHE = join(environment.WINGMAN_DATA, 'sounds');
const HEARD = join(environment.WINGMAN_DATA, 'heard');
const TICK_MS = 20;
const TELL_MS = 500;
const LOOK_MS = 3000;

const sounding = makeSounding({
  openOutput: async (device, of) =>
    device === SIMULATED_OUTPUT ? simulatedOutput(HEARD, of) : cardOutput(machineCards, device),
  openInput: async (name, heard) =>
    name === SIMULATED_INPUT ? simulatedInput(HEARD, heard) : cardInput(machineCards, name, heard),
  listOutputs: async () => [...(await cardNames(machineCards, 'audiooutput')), SIMULATED_OUTPUT],
  listInputs: async () => [...(await cardNames(machineCards, 'audioinput')), SIMULATED_INPUT],
  makeReady: async (file, done) => {
    const kept = await soundAnywhere(db, file.sha256);
    if (kept) await makeReady(CACHE, kept.about, kept.reader, done);
    return kept !== undefined;
  },
  openSamples: (file) => openSamples(CACHE, file),
  say: (message: FromSound) => void process.send?.(message),
  failed: (error) => log.warn({ error: String(error) }, 'a sound could not be made ready'),
  now_ms: monotonic,
});

process.on('message', (message: ToSound) => sounding.heard(message));
process.on('disconnect', () => process.exit(0));
process.on('SIGINT', () => undefined);
setInterval(sounding.mix, TICK_MS);
setInterval(sounding.tell, TELL_MS);
setInterval(() => void sounding.look(), LOOK_MS);
void sounding.look().then(sounding.tell);
void dropUnused(CACHE, Date.now());
