/** Where MIDI comes from and goes to: devices at this browser, and the simulated desk in another window of it. */
import type { Input, Output } from 'webmidi';
import type { DeskWord } from './desk-words';
import { DESK_CHANNEL, DESK_PORT } from './desk-words';

interface Ears {
  /** One message, as it came. */
  heard: (port: string, bytes: ArrayLike<number>) => void;
  /** The device is there no more. */
  gone: (port: string) => void;
  /** Which ports there are. */
  ports: (names: readonly string[]) => void;
}

const SYSTEM_EXCLUSIVE = 0xf0;

/** Browsers give MIDI to pages that are secure, and some to none. */
export const canHear = (): boolean => 'requestMIDIAccess' in navigator;

/** MIDI ports of this browser, and the simulated hand. */
export class Ports {
  private readonly desk = new BroadcastChannel(DESK_CHANNEL);
  private hasDesk = false;
  private readonly outputs = new Map<string, Output>();
  private inputs: readonly string[] = [];
  private hasExclusive = false;

  constructor(private readonly ears: Ears) {
    this.desk.onmessage = ({ data }: MessageEvent<DeskWord>) => this.fromDesk(data);
    this.desk.postMessage({ says: 'who' } satisfies DeskWord);
  }

  private fromDesk(word: DeskWord): void {
    if (word.says === 'bytes' && word.from === 'desk') {
      this.setDesk(true);
      this.ears.heard(DESK_PORT, word.bytes);
    } else if (word.says === 'here') this.setDesk(true);
    else if (word.says === 'gone') {
      this.setDesk(false);
      this.ears.gone(DESK_PORT);
    }
  }

  private setDesk(has: boolean): void {
    if (this.hasDesk === has) return;
    this.hasDesk = has;
    this.tell();
  }

  private tell(): void {
    this.ears.ports([...this.inputs, ...(this.hasDesk ? [DESK_PORT] : [])]);
  }

  /** Asks the browser for its devices; people are asked once. @throws where they, or the browser, do not let us */
  async hear(): Promise<void> {
    // Only where it is wanted: the server that draws this page first has no such devices.
    const { WebMidi } = await import('webmidi');
    // Show control is system exclusive, which some browsers give to nobody: without it the rest is heard.
    this.hasExclusive = await WebMidi.enable({ sysex: true }).then(
      () => true,
      () => WebMidi.enable().then(() => false),
    );
    const look = (): void => {
      this.outputs.clear();
      for (const output of WebMidi.outputs) this.outputs.set(output.name, output);
      for (const input of WebMidi.inputs) this.listen(input);
      this.inputs = WebMidi.inputs.map((i) => i.name);
      this.tell();
    };
    WebMidi.addListener('connected', look);
    WebMidi.addListener('disconnected', ({ port }: { port: { name: string } }) => {
      this.ears.gone(port.name);
      look();
    });
    look();
  }

  private readonly heardFrom = new Set<string>();
  private listen(input: Input): void {
    if (this.heardFrom.has(input.id)) return;
    this.heardFrom.add(input.id);
    input.addListener('midimessage', ({ message }) => this.ears.heard(input.name, message.data));
  }

  send(port: string, bytes: readonly number[]): void {
    if (port === DESK_PORT) {
      const word: DeskWord = { says: 'bytes', from: 'show', bytes: [...bytes] };
      this.desk.postMessage(word);
      return;
    }
    // Without system exclusive, which a browser may give to nobody, the rest goes on.
    if (bytes[0] === SYSTEM_EXCLUSIVE && !this.hasExclusive) return;
    this.outputs.get(port)?.send([...bytes]);
  }

  close(): void {
    this.desk.close();
  }
}
