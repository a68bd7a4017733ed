/** A field that is written when it is left: what is typed stays as it is until then, whatever others change meanwhile. */
import { useEffect, useRef, useState, type ChangeEvent, type KeyboardEvent } from 'react';
import { ApiError } from '../state/api';
import { useScreen } from '../state/store';
import { offerTyped } from '../state/typed';

type TextField = HTMLInputElement | HTMLTextAreaElement;
/** Why it cannot be, in a sentence; or what writes it. */
export type Written = string | undefined | Promise<unknown>;

/** A field that is written in, kept when it is left. */
export interface Writing {
  field: {
    value: string;
    onChange: (e: ChangeEvent<TextField>) => void;
    onBlur: () => void;
    /** Enter leaves the field, Esc puts back what stands there, so that nothing is written. */
    onKeyDown: (e: KeyboardEvent<TextField>) => void;
  };
  /** Why what was typed is not written; it stands there all the same, to be mended. */
  problem: string | undefined;
}

/** Why an answer is no yes. Who left it as the others made it has seen that, and wants nothing more. */
const refusal = (answer: unknown): string | undefined =>
  answer instanceof ApiError && answer.code !== 'unseen' ? answer.message : undefined;

/** Words about a row that goes while they are written are offered to their author. */
function useOfferedWords(label: string, words: () => string | null): void {
  // A field that is called something else by now is the same field.
  const latest = useRef({ label, words });
  latest.current = { label, words };
  useEffect(
    () => () => {
      const value = latest.current.words();
      const { showId, you } = useScreen.getState();
      if (value !== null && value.trim() !== '')
        offerTyped({
          showId,
          userId: you.userId,
          where: '',
          dialog: false,
          fields: [{ label: latest.current.label, value }],
        });
    },
    [],
  );
}

/**
 * @param value what stands there now
 * @param write called where something else was typed, when the field is left
 */
export function useWriting(
  label: string,
  value: string,
  write: (text: string) => Written,
): Writing {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string>();
  // A key puts back and leaves in one step, before anything is drawn again.
  const typed = useRef<string | null>(null);
  const being = useRef(false);
  const set = (to: string | null): void => {
    typed.current = to;
    setText(to);
    setProblem(undefined);
  };
  useOfferedWords(label, () => (being.current || typed.current === value ? null : typed.current));
  const leave = (): void => {
    const is = typed.current;
    if (is === null) return;
    if (is.trim() === value) {
      set(null);
      return;
    }
    const answer = write(is);
    if (typeof answer === 'string') {
      setProblem(answer);
      return;
    }
    being.current = true;
    void Promise.resolve(answer).then((said) => {
      being.current = false;
      // Somebody who types on has not left it.
      if (typed.current !== is) return;
      const wrong = refusal(said);
      if (wrong === undefined) set(null);
      else setProblem(wrong);
    });
  };
  return {
    field: {
      value: text ?? value,
      onChange: (e) => set(e.target.value),
      onBlur: leave,
      onKeyDown: (e) => {
        if (e.key !== 'Enter' && e.key !== 'Escape') return;
        if (e.key === 'Escape') set(null);
        e.preventDefault();
        e.currentTarget.blur();
      },
    },
    problem,
  };
}
