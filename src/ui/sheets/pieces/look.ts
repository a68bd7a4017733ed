/** How pieces look: their colours, their icons, and words that grow with them. */
import {
  Bell,
  Cloud,
  DoorOpen,
  Film,
  Flame,
  House,
  MessageSquare,
  Moon,
  Music,
  OctagonX,
  Spotlight,
  Star,
  Sun,
  User,
  Users,
  Waves,
  type LucideIcon,
} from 'lucide-react';
import type { PIECE_COLOURS, PIECE_ICONS } from '@/core/sheets/rows';
import type { PieceState } from '@/core/sheets/state';

/** Pictures that a piece may have. */
export const ICONS: Record<(typeof PIECE_ICONS)[number], LucideIcon> = {
  sun: Sun,
  moon: Moon,
  spot: Spotlight,
  house: House,
  people: Users,
  person: User,
  music: Music,
  speech: MessageSquare,
  film: Film,
  cloud: Cloud,
  fire: Flame,
  water: Waves,
  star: Star,
  bell: Bell,
  door: DoorOpen,
  stop: OctagonX,
};

/** The stripe along a piece's edge. */
export const STRIPES: Record<(typeof PIECE_COLOURS)[number], string> = {
  plain: '',
  amber: 'bg-piece-amber',
  rose: 'bg-piece-rose',
  violet: 'bg-piece-violet',
  blue: 'bg-piece-blue',
  teal: 'bg-piece-teal',
  green: 'bg-piece-green',
  sand: 'bg-piece-sand',
};

/** Words as large as their piece has room for; 11 px at least, as everywhere. */
export const NAME = 'text-[clamp(11px,min(24cqh,13cqw),34px)] leading-[1.15]';
/** Small letters, as large as the piece lets them be. */
export const SMALL = 'text-[clamp(11px,min(15cqh,9cqw),18px)] leading-[1.2]';
/** Over what a piece shows, and never larger than that. */
export const TITLE = 'text-[12px] leading-4';
/** Words that are a piece by themselves: one line as tall as it is. */
export const HEADING = 'text-[clamp(11px,min(60cqh,6cqw),40px)] leading-[1.15]';
/** Large letters, as large as the piece lets them be. */
export const LARGE = 'text-[clamp(14px,min(46cqh,24cqw),72px)] leading-none';

/** Plays or is selected, partly, or waits for a hand: told by the edge, and by words on the piece. @param plays its light, not the selection */
export function edgeOf(state: PieceState, plays: boolean): string {
  if (state.waiting) return 'bg-warning-wash inset-ring-2 inset-ring-warning';
  if (state.on)
    return plays
      ? 'bg-lime-wash inset-ring-2 inset-ring-lime'
      : 'bg-standby-wash inset-ring-2 inset-ring-standby';
  if (state.partly)
    return `bg-raised inset-ring ${plays ? 'inset-ring-lime' : 'inset-ring-standby'}`;
  return 'bg-raised';
}
