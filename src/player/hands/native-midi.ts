/** MIDI devices at the machine of the player, by `@julusian/midi`. A machine without a sound system has none, and says so. */
import { existsSync } from 'node:fs';
import type * as Midi from '@julusian/midi';
import type { Input, Output } from '@julusian/midi';

/** On Linux every MIDI port is a client of this; without it the package would complain into the log at each look. */
const LINUX_SEQUENCER = '/dev/snd/seq';

/** MIDI ports of this machine. */
export interface MidiPorts {
  /** Looks which devices there are: new ones are opened, those that are gone are told. */
  look: () => void;
  names: () => readonly string[];
  /** Why none can be heard, in a sentence; null while they can. */
  problem: () => string | null;
  send: (port: string, bytes: readonly number[]) => void;
  close: () => void;
}

interface Heard {
  heard: (port: string, bytes: readonly number[]) => void;
  gone: (port: string) => void;
}

interface Device {
  input: Input | null;
  output: Output | null;
}

/** Names of ports have a number at their end that changes with every plugging in (`Wing 20:0`). */
const plain = (name: string): string => name.replace(/\s\d+:\d+$/, '').trim();

/** Opens them; says why where the machine has none. */
export async function nativeMidi(ears: Heard): Promise<MidiPorts> {
  const none = (why: string): MidiPorts => ({
    look: () => undefined,
    names: () => [],
    problem: () => why,
    send: () => undefined,
    close: () => undefined,
  });
  if (process.platform === 'linux' && !existsSync(LINUX_SEQUENCER))
    return none('This machine has no MIDI: its system offers no sequencer (ALSA).');
  try {
    const midi = await import('@julusian/midi');
    const list = { input: new midi.Input(), output: new midi.Output() };
    return ports(midi, list, ears);
  } catch (error) {
    return none(`The MIDI of this machine cannot be used: ${(error as Error).message}.`);
  }
}

function ports(
  midi: Pick<typeof Midi, 'Input' | 'Output'>,
  list: { input: Input; output: Output },
  ears: Heard,
): MidiPorts {
  const devices = new Map<string, Device>();
  const namesOf = (port: Input | Output): string[] =>
    Array.from({ length: port.getPortCount() }, (_, i) => plain(port.getPortName(i)));
  const open = <P extends Input | Output>(port: P, at: number): P | null => {
    try {
      port.openPort(at);
      return port;
    } catch {
      // Somebody else has it, or it went between the look and the opening.
      return null;
    }
  };
  const shut = ({ input, output }: Device): void => {
    input?.closePort();
    output?.closePort();
  };
  const look = (): void => {
    const inputs = namesOf(list.input);
    const outputs = namesOf(list.output);
    const here = new Set([...inputs, ...outputs]);
    for (const [name, device] of devices)
      if (!here.has(name)) {
        devices.delete(name);
        shut(device);
        ears.gone(name);
      }
    for (const name of here) {
      if (devices.has(name)) continue;
      const from = inputs.indexOf(name);
      const to = outputs.indexOf(name);
      const input = from < 0 ? null : open(new midi.Input(), from);
      // System exclusive is heard for show control, quarter frames for time code; clocks are not.
      input?.ignoreTypes(false, false, true);
      input?.on('message', (_, bytes) => ears.heard(name, bytes));
      devices.set(name, { input, output: to < 0 ? null : open(new midi.Output(), to) });
    }
  };
  return {
    look,
    names: () => [...devices.keys()],
    problem: () => null,
    send: (port, bytes) => devices.get(port)?.output?.sendMessage([...bytes]),
    close: () => {
      for (const device of devices.values()) shut(device);
      list.input.closePort();
      list.output.closePort();
    },
  };
}
