/** What the parts of Rig share: the universe on the map, the type picked, the patch being prepared. */
import { create } from 'zustand';
import { parsePoint } from '@/core/fixtures/points';
import type { Mode, TypeRow } from '@/core/types/rows';
import { typeAlong } from '../state/library';

/** What Rig shows above. */
export type Upper = 'addresses' | 'plan';
/** What Rig shows below. */
export type Lower = 'fixtures' | 'outputs' | 'dmx' | 'power' | 'findings';

/** What is typed into the form that patches. */
export interface Draft {
  quantity: string;
  first: string;
  label: string;
  address: string;
  gap: string;
  /** What the number says: free channels between units, or channels from one start to the next. */
  spacing: 'gap' | 'every';
  hang: string;
  overflow: boolean;
  group: boolean;
  palettes: boolean;
}
const EMPTY: Draft = {
  quantity: '1',
  first: '',
  label: '',
  address: '',
  gap: '0',
  spacing: 'gap',
  hang: '',
  overflow: false,
  group: false,
  palettes: false,
};

/** What is asked about the units that are chosen. */
export type Doing = 'swap' | 'copy' | 'macro' | 'delete' | 'patch' | 'back' | null;

/** What Rig is looking at. */
export interface RigState {
  universe: number;
  picked: { type: TypeRow; mode: Mode } | null;
  draft: Draft;
  upper: Upper;
  lower: Lower;
  /** A type under the hand, on its way from the list to the map. */
  carrying: { type: TypeRow; mode: Mode } | null;
  /** What is being done with the selected fixtures. */
  doing: Doing;
}

/** Its universe, its parts, what is patched and asked. */
export const useRig = create<RigState>(() => ({
  universe: 1,
  picked: null,
  draft: EMPTY,
  upper: 'addresses',
  lower: 'fixtures',
  carrying: null,
  doing: null,
}));

/** Asks something about the units that are chosen. */
export const doIt = (doing: Doing): void => useRig.setState({ doing });

/** Types into the form that patches. */
export const setDraft = (fields: Partial<Draft>): void =>
  useRig.setState((s) => ({ draft: { ...s.draft, ...fields } }));
/** After patching: what was for this batch goes, and the type with it, so that a second Enter or click patches nothing; what holds for the next one stays. */
export const clearDraft = (): void =>
  useRig.setState((s) => ({
    picked: null,
    draft: { ...s.draft, quantity: '1', first: '', address: '', label: '', overflow: false },
  }));
/** Goes to a universe. */
export const setUniverse = (universe: number): void => useRig.setState({ universe });

const whole = (text: string): number | undefined =>
  /^\d{1,6}$/.test(text.trim()) ? Number(text) : undefined;

/** The form as parameters of `patch-fixtures`; undefined while a number is not one. */
export function patchParams(
  picked: RigState['picked'],
  draft: Draft,
  at?: { universe: number; address: number },
): Record<string, unknown> | undefined {
  const quantity = whole(draft.quantity);
  const typedGap = whole(draft.gap);
  const gap =
    typedGap === undefined || draft.spacing === 'gap'
      ? typedGap
      : typedGap - (picked?.mode.footprint ?? 0);
  const first = draft.first.trim() === '' ? undefined : whole(draft.first);
  const typed = draft.address.trim() === '' ? undefined : parsePoint(draft.address);
  if (
    !picked ||
    quantity === undefined ||
    gap === undefined ||
    (draft.first.trim() !== '' && first === undefined)
  )
    return undefined;
  if (!at && draft.address.trim() !== '' && !typed) return undefined;
  const point = at ?? typed;
  return {
    typeId: picked.type.id,
    ...typeAlong(picked.type),
    mode: picked.mode.name,
    quantity,
    gap,
    hang: draft.hang,
    overflow: draft.overflow,
    group: draft.group,
    palettes: draft.palettes,
    ...(first === undefined ? {} : { first }),
    ...(draft.label.trim() === '' ? {} : { label: draft.label.trim() }),
    ...(point ? { universe: point.universe, address: point.address } : {}),
  };
}
