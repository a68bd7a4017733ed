/** The sound cards of this machine, as the package reaches them that plays and records. */
import type * as Audio from 'node-web-audio-api';

/** One input or output of a card. */
interface CardEnd {
  kind: string;
  /** Empty where the system gives it no name. */
  label: string;
  deviceId: string;
}
/** What an input is heard through. */
interface Stream {
  getTracks: () => { stop: () => void }[];
}
/** The package; its types leave out the devices of the machine. */
export type Cards = typeof Audio & {
  mediaDevices: {
    enumerateDevices: () => Promise<CardEnd[]>;
    getUserMedia: (wanted: { audio: boolean | { deviceId: string } }) => Promise<Stream>;
  };
};

/** @throws where the package has nothing for this machine */
export const machineCards = async (): Promise<Cards> =>
  (await import('node-web-audio-api')) as unknown as Cards;

/** What people see and choose; it is what is kept, too. */
const nameOf = (end: CardEnd): string => end.label || end.deviceId;

async function endsOf({ mediaDevices }: Cards, kind: CardEnd['kind']): Promise<CardEnd[]> {
  return (await mediaDevices.enumerateDevices()).filter((d) => d.kind === kind);
}

/** Each name once; none where the cards cannot be asked. */
export async function cardNames(
  cards: () => Promise<Cards>,
  kind: 'audioinput' | 'audiooutput',
): Promise<string[]> {
  try {
    return [...new Set((await endsOf(await cards(), kind)).map(nameOf))];
  } catch {
    return [];
  }
}

/** @returns its id; undefined where there is none of this name */
export async function cardCalled(
  cards: Cards,
  kind: 'audioinput' | 'audiooutput',
  name: string,
): Promise<string | undefined> {
  return (await endsOf(cards, kind)).find((d) => nameOf(d) === name)?.deviceId;
}
