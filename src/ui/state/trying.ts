/**
 * The effect that is being made or changed on this screen. Every change is on stage at once; Keep writes it, Leave gives
 * back what was there. It outlives a reload of the page in this tab.
 */
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { EffectRow, type EffectTrack } from '@/core/effects/rows';
import { ApiError } from './api';
import { ask, live } from './commands';
import { edit, settled } from './edits';
import { notice } from './messages';
import { useScreen } from './store';

/** An effect that is being made. */
export type EffectDraft = Omit<EffectRow, 'id' | 'number'>;

/** An effect that is tried while it is made. */
export interface Trying {
  showId: string;
  /** The effect that is changed; null for a new one. */
  of: string | null;
  /** Under which it plays: its own, or while blind and for a new one a new id. */
  id: string;
  number: number;
  draft: EffectDraft;
  /** The draft differs from what the show has. */
  changed: boolean;
  /** Which lane is worked on, and which of its steps. */
  lane: number;
  step: number | null;
  /** It stands still on stage while this is set. */
  off: boolean;
}

const useTrying = create<{ trying: Trying | null }>()(
  persist(() => ({ trying: null as Trying | null }), {
    name: 'wingman-trying',
    storage: createJSONStorage(() => sessionStorage),
  }),
);

/** What is tried in a show; null while nothing is. */
export const useTryingIn = (showId: string): Trying | null =>
  useTrying((s) => (s.trying?.showId === showId ? s.trying : null));

function set(fields: Partial<Trying>): void {
  useTrying.setState(({ trying }) => ({ trying: trying && { ...trying, ...fields } }));
}

/** What a new lane begins as. */
export const LANE: EffectTrack = {
  attribute: 'Dimmer',
  wave: 'sine',
  mode: 'relative',
  size: 0.3,
  base: 0,
  width: 1,
  offset: 0,
};
const NEW_EFFECT: EffectDraft = {
  name: 'New effect',
  tracks: [LANE],
  speed: { round_s: 3 },
  direction: 'forward',
  spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
};

const newId = (): string => `try-${crypto.randomUUID()}`;
const draftOf = ({ id: _id, number: _number, ...draft }: EffectRow): EffectDraft => draft;

/** Opens an effect to be worked on, or a new one. */
export function openEffect(effect: EffectRow | null): void {
  const { showId, show, programmer } = useScreen.getState();
  const numbers = [...show.effects.values()].map((e) => e.number);
  if (useTrying.getState().trying?.changed) {
    notice.warning('Keep or leave the effect that is open first.', { id: 'effect-open' });
    return;
  }
  const shared = effect !== null && !programmer.blind;
  useTrying.setState({
    trying: {
      showId,
      of: effect?.id ?? null,
      id: shared ? effect.id : newId(),
      number: effect?.number ?? Math.max(0, ...numbers) + 1,
      draft: effect ? draftOf(effect) : NEW_EFFECT,
      changed: effect === null,
      lane: 0,
      step: null,
      off: false,
    },
  });
  play();
}

type Fields = { [K in keyof EffectDraft]?: EffectDraft[K] | undefined };

/** Changes the draft; it is on stage with the next answer of the player. What is undefined is taken out. */
export function change(fields: Fields): void {
  const { trying } = useTrying.getState();
  if (!trying) return;
  const all = Object.entries({ ...trying.draft, ...fields });
  const draft = Object.fromEntries(all.filter(([, v]) => v !== undefined)) as EffectDraft;
  set({ draft, changed: true });
  play();
}

/** Changes the lane that is chosen. */
export function changeLane(fields: Partial<EffectTrack>): void {
  const { trying } = useTrying.getState();
  if (!trying) return;
  change({
    tracks: trying.draft.tracks.map((t, i) => (i === trying.lane ? { ...t, ...fields } : t)),
  });
}

/** Chooses a lane, and a step of it. */
export const choose = (lane: number, step: number | null): void => set({ lane, step });

let sending = false;
let again = false;
/** Tells the player what is tried now; while it answers, only the newest waits. */
export function play(): void {
  const { trying } = useTrying.getState();
  if (!trying || trying.off || useScreen.getState().connection !== 'live') return;
  if (sending) {
    again = true;
    return;
  }
  const row = EffectRow.safeParse({ ...trying.draft, id: trying.id, number: trying.number });
  // What cannot be an effect yet is said in the panel, and what plays stays.
  if (!row.success) return;
  sending = true;
  void ask({ command: 'try-effect', effect: row.data }).then((reply) => {
    sending = false;
    if (!reply.ok) notice.error(reply.message, { id: 'try-effect' });
    if (again) {
      again = false;
      play();
    }
  });
}

/** Takes it off the stage and keeps the draft, or puts it there again. */
export function setOff(off: boolean): void {
  set({ off });
  if (off) void live({ command: 'try-effect', effect: null });
  else play();
}

/** While blind it plays under an id of its own, so that what runs on stage stays as it is. */
export function blindChanged(blind: boolean): void {
  const { trying } = useTrying.getState();
  if (!trying || trying.of === null) return;
  const id = blind ? newId() : trying.of;
  if (blind === (trying.id !== trying.of)) return;
  void live({ command: 'try-effect', effect: null }).then(() => {
    set({ id });
    play();
  });
}

/** Gives back what was there. */
export function leaveEffect(): void {
  useTrying.setState({ trying: null });
  void live({ command: 'try-effect', effect: null });
}

/** Writes it; where it was tried it runs on. @returns whether it was written */
export async function keepEffect(): Promise<boolean> {
  const { trying } = useTrying.getState();
  if (!trying) return false;
  const { of, id, number, draft } = trying;
  const answer = await edit('set-effect', {
    ...(of === null ? { as: id } : { id: of }),
    set: { ...draft, number },
  });
  if (answer instanceof ApiError) return false;
  useTrying.setState({ trying: null });
  await settled();
  await live({ command: 'try-effect', effect: null, kept: of ?? id });
  return true;
}
