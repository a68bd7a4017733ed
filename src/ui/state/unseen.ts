/** The question that is asked when somebody else has changed what is about to be written. */
import { create } from 'zustand';
import type { Unseen } from '@/core/refusal';

type Answer = Record<string, 'mine' | 'theirs'> | null;

/** What others did to what this person is about to write, until they have decided. */
export const useUnseen = create<{ items: Unseen[]; answer: ((answer: Answer) => void) | null }>(
  () => ({ items: [], answer: null }),
);

/** Shows both and waits; null: nothing is written. */
export const askUnseen = (items: Unseen[]): Promise<Answer> =>
  new Promise((resolve) => {
    useUnseen.getState().answer?.(null);
    useUnseen.setState({ items, answer: resolve });
  });

/** What they decided. */
export function answerUnseen(answer: Answer): void {
  useUnseen.getState().answer?.(answer);
  useUnseen.setState({ items: [], answer: null });
}
