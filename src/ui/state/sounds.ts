/** Sound, as this screen knows it: how the player’s machine stands, how well this screen is in step, shapes of files. */
import { create } from 'zustand';
import type { SoundsState } from '@/core/live/messages';
import type { SoundFile, SoundRow } from '@/core/sounds/rows';
import { ApiError } from './api';
import { useScreen } from './store';

/** How sound of tracks is heard here. */
export interface SoundHere {
  /** How far the sound of each list is from its track here, in milliseconds: positive is late. */
  off_ms: Readonly<Record<string, number>>;
  /** Why nothing is heard here although it should be. */
  problem: string | null;
}

/** How it is heard, at the player’s machine and here. */
export const useSounds = create<{ player: SoundsState; here: SoundHere }>(() => ({
  player: { devices: [], inputs: [], inputProblem: null, problem: null, ready: {}, off_ms: {} },
  here: { off_ms: {}, problem: null },
}));

const showPath = (): string => `/api/shows/${window.location.pathname.split('/')[2] ?? ''}`;

/** Where a sound is had from. */
export const soundUrl = ({ data, file }: SoundRow): string =>
  data ?? (file ? `${showPath()}/sounds/${file.sha256}` : '');

const shapes = new Map<string, Promise<Uint8Array>>();

/** The shape of a file at a zoom, fetched once. */
export function shapeOf(file: SoundFile, zoom: number): Promise<Uint8Array> {
  const key = `${file.sha256}/${zoom}`;
  const known = shapes.get(key);
  if (known) return known;
  const asked = fetch(`${showPath()}/sounds/${file.sha256}/shape?zoom=${zoom}`).then(
    async (answer) => {
      if (!answer.ok) throw new Error('no shape');
      return new Uint8Array(await answer.arrayBuffer());
    },
  );
  shapes.set(key, asked);
  // What failed is asked for again the next time.
  asked.catch(() => shapes.delete(key));
  return asked;
}

/** A sound that was taken in. */
export interface Brought {
  sound: string;
  file: SoundFile;
  problem?: string;
}

/**
 * Brings a file to the show, and says how much of it is on its way.
 * @throws ApiError with the server’s own words
 */
export function bringSound(file: File, onShare: (share: number) => void): Promise<Brought> {
  const name = file.name.replace(/\.\w+$/, '').slice(0, 120) || 'Sound';
  return new Promise((resolve, reject) => {
    // `fetch` does not say how much of a body has gone.
    const request = new XMLHttpRequest();
    request.open('POST', `${showPath()}/sounds?name=${encodeURIComponent(name)}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (e) => onShare(e.total > 0 ? e.loaded / e.total : 0);
    request.onload = () => {
      const json = JSON.parse(request.responseText || '{}') as Brought & {
        error?: { code: string; message: string };
      };
      if (request.status < 300) resolve(json);
      else
        reject(
          new ApiError(
            request.status,
            json.error?.code ?? 'unavailable',
            json.error?.message ?? 'Wingman cannot answer right now. Nothing was taken in.',
          ),
        );
    };
    request.onerror = () =>
      reject(new ApiError(0, 'offline', 'The connection broke off. Nothing was taken in.'));
    request.send(file);
  });
}

/** Where the sounds of the show in sight are heard. */
export const soundAt = (): 'screens' | 'player' | 'both' =>
  useScreen.getState().show.settings.get('show')?.soundOut?.at ?? 'screens';
