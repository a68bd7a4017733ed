/** Hands at this screen: which are held here, on which page, what was heard of them, and what is being learned. */
import { create } from 'zustand';
import type { ControlId, HandAct, HandRow } from '@/core/hands/rows';
import type { HandsState as PlayerHands } from '@/core/live/messages';

/** A hand that learns what its parts do. */
export interface Learning {
  hand: string;
  /** What the next part that moves will do; null: touch it first. */
  act: HandAct | null;
}

/** Hands at this screen. */
export interface HandsState {
  ports: readonly string[];
  /** Why devices of this browser are not heard; null: they are, or nobody asked. */
  deaf: string | null;
  hears: boolean;
  /** Ids of the hands that play from this screen. */
  held: readonly string[];
  /** Page of each hand, from 1. */
  pages: Readonly<Record<string, number>>;
  /** Where each part of a hand stands, as it was last heard. */
  heard: Readonly<Record<string, Readonly<Record<ControlId, number>>>>;
  learning: Learning | null;
  /** Of the hands at the machine of the player. */
  player: PlayerHands;
  /** The hand whose picture is open. */
  open: string | null;
}

const SILENT = { state: 'none' as const, rate: null, code: null };

/** Which are there, on which pages, and what they hold. */
export const useHands = create<HandsState>(() => ({
  ports: [],
  deaf: null,
  hears: false,
  held: [],
  pages: {},
  heard: {},
  learning: null,
  player: {
    ports: [],
    problems: [],
    pages: {},
    heard: {},
    timecode: { midi: SILENT, ltc: SILENT, artnet: SILENT },
  },
  open: null,
}));

const HELD = 'wingman-hands-held';

/** On this machine: the same hand does not play from everybody's keyboard. */
export function loadHeld(): void {
  try {
    const ids: unknown = JSON.parse(window.localStorage.getItem(HELD) ?? '[]');
    if (Array.isArray(ids)) useHands.setState({ held: ids.filter((i) => typeof i === 'string') });
  } catch {
    // What cannot be read is no hand.
  }
}

/** A part is held, or let go of. */
export function holdHand(id: string, on: boolean): void {
  const { held } = useHands.getState();
  const next = on ? [...new Set([...held, id])] : held.filter((h) => h !== id);
  window.localStorage.setItem(HELD, JSON.stringify(next));
  useHands.setState({ held: next });
}

/** Page on which a hand plays: of one at the machine of the player, that machine says which. */
export const pageIn = (s: Pick<HandsState, 'pages' | 'player'>, hand: string): number =>
  s.player.pages[hand] ?? s.pages[hand] ?? 1;
/** The page that a hand is turned to, from 1. */
export const pageOf = (hand: string): number => pageIn(useHands.getState(), hand);
/** Where the parts of a hand were heard last. */
export const heardOf = (
  s: Pick<HandsState, 'heard' | 'player'>,
  hand: string,
): Readonly<Record<ControlId, number>> | undefined => s.player.heard[hand] ?? s.heard[hand];

/** To the next page of a hand or the one before, round and round. */
export function turnPage(hand: HandRow, by: 1 | -1): void {
  const n = hand.pages.length;
  const next = ((pageOf(hand.id) - 1 + by + n) % n) + 1;
  useHands.setState((s) => ({ pages: { ...s.pages, [hand.id]: next } }));
}
