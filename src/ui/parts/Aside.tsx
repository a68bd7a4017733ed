/** Findings that are meant: put aside with a word why, listed under the others, and taken up again. */
'use client';
import { useState } from 'react';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow } from '../state/store';

/** On a finding's row: asks for the word. */
export function PutAside({ finding }: { finding: { key: string; text: string } }) {
  const role = useScreen((s) => s.you.role);
  const [word, setWord] = useState<string | null>(null);
  if (!mayEdit(role)) return null;
  if (word === null)
    return (
      <button
        type="button"
        title="This is meant: put it aside with a word why"
        onClick={() => setWord('')}
        className="h-7 flex-none rounded-md px-2 text-[12px] text-muted hover:bg-raised hover:text-soft"
      >
        Put aside …
      </button>
    );
  return (
    <form
      className="flex flex-none items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (word.trim() !== '')
          void edit('put-aside', {
            key: finding.key,
            word: word.trim(),
            text: finding.text.slice(0, 400),
          });
      }}
    >
      <input
        autoFocus
        aria-label="Why it is meant"
        value={word}
        maxLength={120}
        placeholder="why, in a word"
        onChange={(e) => setWord(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && (e.stopPropagation(), setWord(null))}
        className="h-7 w-36 rounded-md bg-ink px-2 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
      />
      <button
        type="submit"
        disabled={word.trim() === ''}
        className="h-7 rounded-md bg-raised px-2 text-[12px] text-soft hover:bg-lift disabled:text-faint"
      >
        Put aside
      </button>
    </form>
  );
}

/** Under the others. */
export function AsideList({ findings }: { findings: readonly { key: string; text: string }[] }) {
  const aside = useShow().settings.get('show')?.aside ?? {};
  const role = useScreen((s) => s.you.role);
  if (findings.length === 0) return null;
  return (
    <details className="mt-2 px-1 text-[12.5px] text-muted">
      <summary className="cursor-default py-1">
        {findings.length === 1 ? '1 finding is' : `${findings.length} findings are`} put aside
      </summary>
      <ul aria-label="Put aside">
        {findings.map((f) => (
          <li key={f.key} className="flex min-h-8 items-center gap-2 border-t border-line py-1">
            <span className="min-w-0 flex-1">
              {f.text} <b className="font-medium text-soft">{aside[f.key]?.word}</b>{' '}
              <span>({aside[f.key]?.by})</span>
            </span>
            {mayEdit(role) && (
              <button
                type="button"
                onClick={() =>
                  void edit('put-aside', { key: f.key, word: null, text: f.text.slice(0, 400) })
                }
                className="h-7 flex-none rounded-md px-2 text-[12px] text-standby hover:bg-raised"
              >
                Take up again
              </button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
