/** A fader as its dialog has it: every field as it is typed, and what is sent of it. */
import { z } from 'zod';
import { seconds } from '@/core/cues/clock';
import {
  FADER_HOLDS,
  FADER_KEYS,
  FADER_MODES,
  OTHERS_COME,
  type FaderKind,
  type FaderRow,
} from '@/core/faders/rows';
import { typedTime } from '../../parts/form';
import { PRIORITY } from '@/core/lists/rows';

const whole = (says: string, least: number, most: number) =>
  z
    .string()
    .trim()
    .refine((t) => t === '' || (/^\d+$/.test(t) && Number(t) >= least && Number(t) <= most), says);

/** A fader’s fields as they are typed. */
export const FaderDraft = z.object({
  kind: z.enum(FADER_HOLDS),
  id: z.string(),
  number: whole('A number from 1 to 999.', 1, 999),
  name: z.string().trim(),
  priority: whole('From 0 to 100.', 0, 100),
  mode: z.enum(FADER_MODES),
  flash: z.enum(FADER_KEYS),
  come: z.enum(OTHERS_COME),
  at: whole('From 0 to 100 %.', 0, 100),
  own: typedTime(true),
  starts: z.boolean(),
  inTime: z.boolean(),
  releases: z.boolean(),
  keeps: z.boolean(),
});
export type FaderDraft = z.infer<typeof FaderDraft>;

const HALF = 0.5;

/** @param first what a new fader holds to begin with */
export const draftOf = (fader: FaderRow | null, first: string): FaderDraft => ({
  kind: fader?.holds.kind ?? 'list',
  id: fader?.holds.id ?? first,
  number: fader ? String(fader.number) : '',
  name: fader?.name ?? '',
  priority: String(fader?.priority ?? PRIORITY),
  mode: fader?.mode ?? 'proportional',
  flash: fader?.flash ?? 'full',
  come: fader?.others?.come ?? 'raised',
  at: String(Math.round((fader?.others?.at ?? HALF) * 100)),
  own: String(fader?.others?.time_s ?? ''),
  starts: fader?.startsWhenRaised ?? false,
  inTime: fader?.inListTime ?? false,
  releases: fader?.releasesAtZero ?? false,
  keeps: fader?.keepsThroughRelease ?? false,
});

/** What a fader of a kind of thing can do with it. */
export function modesFor(kind: FaderKind): readonly FaderRow['mode'][] {
  if (kind === 'effect') return ['size', 'rate'];
  return kind === 'list' ? ['proportional', 'inhibiting', 'rate'] : ['proportional', 'inhibiting'];
}

/** What a fader’s key may do for what it holds. */
export const keysFor = (kind: FaderKind): readonly FaderRow['flash'][] =>
  FADER_KEYS.filter((k) => k !== 'go' || kind === 'list');

/** Its colour, position and beam come as one likes. */
export const hasOthers = ({ kind, mode }: Pick<FaderDraft, 'kind' | 'mode'>): boolean =>
  (kind === 'look' || kind === 'palette') && mode === 'proportional';

function othersOf(d: FaderDraft): Pick<FaderRow, 'others'> {
  const time_s = d.own === '' ? undefined : seconds(d.own);
  const plain = d.come === 'raised' && time_s === undefined;
  if (plain || !hasOthers(d)) return {};
  return {
    others: {
      come: d.come,
      ...(d.come === 'at' ? { at: Number(d.at) / 100 } : {}),
      ...(d.come === 'travel' || time_s === undefined ? {} : { time_s }),
    },
  };
}

/** As `set-fader` takes it. @param called what the thing that it holds is called, for a fader without a name of its own */
export const setOf = (d: FaderDraft, called: string) => ({
  name: d.name === '' ? called : d.name,
  holds: { kind: d.kind, id: d.id },
  mode: d.mode,
  flash: keysFor(d.kind).includes(d.flash) ? d.flash : ('full' as const),
  ...othersOf(d),
  ...(d.number === '' ? {} : { number: Number(d.number) }),
  ...(d.kind === 'list' && d.starts ? { startsWhenRaised: true } : {}),
  ...(d.kind === 'list' && d.starts && d.inTime ? { inListTime: true } : {}),
  ...(d.kind === 'list' && d.releases ? { releasesAtZero: true } : {}),
  ...(d.keeps ? { keepsThroughRelease: true } : {}),
  ...(d.priority === '' || Number(d.priority) === PRIORITY ? {} : { priority: Number(d.priority) }),
});
