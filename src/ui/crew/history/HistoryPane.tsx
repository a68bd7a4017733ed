/** History: every change with who and when, by person, cue, fixture and words; one's own beside it. */
'use client';
import { useDeferredValue, useState } from 'react';
import { parseCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { given } from '@/core/given';
import type { Member } from '@/core/live/answers';
import { firstList, type Show } from '@/core/show/show';
import { Choice, Field } from '../../parts/controls';
import { useScreen, useShow } from '../../state/store';
import { useParts } from '../../state/use-parts';
import { LogList, Papers } from '../LogList';
import { useLoad, useLog } from '../use-load';
import { ChangeRow, type ChangeHead } from './ChangeRow';
import { Own } from './Own';

const PAGE = 100;

/** What is asked for, as it is typed; '' is all. */
interface Asked {
  user: string;
  cue: string;
  fixture: string;
  words: string;
}

/** The cue of this number, before all that of the first list. */
function cueOf(show: Show, text: string): CueRow | undefined {
  const number = parseCueNumber(text);
  const main = firstList(show)?.id;
  const all = [...show.cues.values()].filter((c) => c.number === number);
  return all.find((c) => c.listId === main) ?? all[0];
}

/** Everything that was done, and by whom. */
export function HistoryPane() {
  const show = useShow();
  const { showId, seq } = useParts(useScreen, 'showId', 'seq');
  const [asked, setAsked] = useState<Asked>({ user: '', cue: '', fixture: '', words: '' });
  const words = useDeferredValue(asked.words.trim());
  const cue = asked.cue === '' ? undefined : cueOf(show, asked.cue);
  const fixture = asked.fixture === '' ? undefined : show.fixtureByNumber(Number(asked.fixture));
  const unknown = {
    cue: asked.cue !== '' && !cue,
    fixture: asked.fixture !== '' && !fixture,
  };
  const query = new URLSearchParams({
    last: String(PAGE),
    ...given({
      user: asked.user || undefined,
      cue: cue?.id,
      fixture: fixture?.id,
      words: words || undefined,
    }),
  });
  const log = useLog(
    (before: number | undefined) =>
      `/api/shows/${showId}/changes?${query}${before === undefined ? '' : `&before=${before}`}`,
    PAGE,
    seq,
    (a: { undone: number[]; changes: ChangeHead[] }) => a.changes,
    (h) => h.seq,
  );
  const undone = new Set(log.newest?.undone);
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label="History" className="flex min-h-0 flex-col px-5 py-4">
        <Asking asked={asked} onChange={setAsked} unknown={unknown} />
        {unknown.cue || unknown.fixture ? (
          <p className="mt-3 text-muted">
            There is no {unknown.cue ? 'cue' : 'fixture'} of this number. What was deleted is found
            by its words.
          </p>
        ) : (
          <LogList
            log={log}
            empty="Nothing of this has been changed since the show was made."
            className="mt-3"
          >
            {(h) => <ChangeRow key={h.seq} change={h} isUndone={undone.has(h.seq)} />}
          </LogList>
        )}
      </section>
      <Own />
    </div>
  );
}

function Asking({
  asked,
  onChange,
  unknown,
}: {
  asked: Asked;
  onChange: (a: Asked) => void;
  unknown: { cue: boolean; fixture: boolean };
}) {
  const { showId, people } = useParts(useScreen, 'showId', 'people');
  const members = useLoad<{ members: Member[] }>(`/api/shows/${showId}/members`, people);
  const typed = (key: keyof Asked) => ({
    value: asked[key],
    onChange: (e: React.ChangeEvent<HTMLInputElement | HTMLSelectElement>) =>
      onChange({ ...asked, [key]: e.target.value }),
  });
  return (
    <div className="flex items-end gap-2">
      <Choice
        label="By"
        className="w-40"
        {...typed('user')}
        options={[
          { value: '', label: 'everybody' },
          ...(members.data?.members ?? []).map((m) => ({ value: m.userId, label: m.name })),
        ]}
      />
      <Field
        label="Cue"
        className="w-24"
        number
        placeholder="any"
        problem={unknown.cue ? 'no such cue' : undefined}
        {...typed('cue')}
      />
      <Field
        label="Fixture"
        className="w-24"
        number
        placeholder="any"
        problem={unknown.fixture ? 'no such one' : undefined}
        {...typed('fixture')}
      />
      <Field
        label="Words"
        inputMode="search"
        className="max-w-52 min-w-0 flex-1"
        placeholder="in what was done"
        maxLength={200}
        {...typed('words')}
      />
      <Papers what="history" />
    </div>
  );
}
