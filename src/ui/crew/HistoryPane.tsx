/** History: every change with who and when, by person, cue and fixture; the show as it was; undo of one, and along one's own list. */
'use client';
import { Eye, Undo2 } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import { notice } from '../state/messages';
import { parseCueNumber } from '@/core/cues/number';
import type { Member } from '@/core/live/answers';
import type { Change } from '@/core/show/undo';
import { firstList } from '@/core/show/show';
import { Choice, Field, IconButton } from '../parts/controls';
import { lookBack } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';
import { LogList, Papers, WhenWho } from './LogList';
import { useLoad, useLog, useSend } from './use-load';
import { when } from '@/core/dates';
import { useParts } from '../state/use-parts';

interface Head extends Omit<Change, 'rows' | 'editId'> {
  /** Its first rows in values. */
  lines: string[];
  more: number;
}
interface Step {
  seq: number;
  summary: string;
}
const PAGE = 100;

export function HistoryPane() {
  const show = useShow();
  const { showId, you, seq, people } = useParts(useScreen, 'showId', 'you', 'seq', 'people');
  const send = useSend();
  const [user, setUser] = useState('');
  const [cue, setCue] = useState('');
  const [fixture, setFixture] = useState('');
  const [words, setWords] = useState('');
  const searched = useDeferredValue(words.trim());
  const [opened, setOpened] = useState<ReadonlySet<number>>(new Set());
  const members = useLoad<{ members: Member[] }>(`/api/shows/${showId}/members`, people);
  const number = parseCueNumber(cue);
  const cueRow =
    number === undefined
      ? undefined
      : [...show.cues.values()]
          .filter((c) => c.number === number)
          .sort((a) => (a.listId === firstList(show)?.id ? -1 : 1))[0];
  const fixtureRow = show.fixtureByNumber(Number(fixture));
  const query = new URLSearchParams({
    last: String(PAGE),
    ...(user ? { user } : {}),
    ...(cueRow ? { cue: cueRow.id } : {}),
    ...(fixtureRow ? { fixture: fixtureRow.id } : {}),
    ...(searched ? { words: searched } : {}),
  });
  const log = useLog(
    (before: number | undefined) =>
      `/api/shows/${showId}/changes?${query}${before === undefined ? '' : `&before=${before}`}`,
    PAGE,
    seq,
    (a: { undone: number[]; changes: Head[] }) => a.changes,
    (h) => h.seq,
  );
  const undone = new Set(log.newest?.undone);
  const may = mayEdit(you.role);
  const undo = (h: Head): void =>
    void send<{ summary: string }>(`/api/shows/${showId}/undo`, 'POST', { seq: h.seq }).then(
      (r) => r && notice.done(r.summary),
    );
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_320px]">
      <section aria-label="History" className="flex min-h-0 flex-col px-5 py-4">
        <div className="flex items-end gap-2">
          <Choice
            label="By"
            className="w-40"
            value={user}
            onChange={(e) => setUser(e.target.value)}
            options={[
              { value: '', label: 'everybody' },
              ...(members.data?.members ?? []).map((m) => ({ value: m.userId, label: m.name })),
            ]}
          />
          <Field
            label="Cue"
            className="w-24"
            number
            value={cue}
            placeholder="any"
            problem={cue !== '' && !cueRow ? 'no such cue' : undefined}
            onChange={(e) => setCue(e.target.value)}
          />
          <Field
            label="Fixture"
            className="w-24"
            number
            value={fixture}
            placeholder="any"
            problem={fixture !== '' && !fixtureRow ? 'no such one' : undefined}
            onChange={(e) => setFixture(e.target.value)}
          />
          <Field
            label="Words"
            inputMode="search"
            className="max-w-52 min-w-0 flex-1"
            value={words}
            placeholder="in what was done"
            maxLength={200}
            onChange={(e) => setWords(e.target.value)}
          />
          <Papers what="history" />
        </div>
        <LogList
          log={log}
          empty="Nothing of this has been changed since the show was made."
          className="mt-3"
        >
          {(h) => (
            <li
              key={h.seq}
              data-change={h.seq}
              className="group grid min-h-9 grid-cols-[92px_120px_1fr_auto] items-center gap-2 border-b border-raised"
            >
              <WhenWho
                at={h.at}
                title={`change ${h.seq}, ${h.at}`}
                userId={h.userId}
                userName={h.userName}
              />
              <span className="min-w-0 py-1">
                <span className={undone.has(h.seq) ? 'text-dim line-through' : ''}>
                  {h.summary}
                </span>
                {h.lines.length > 0 && (
                  <button
                    type="button"
                    data-testid="values"
                    aria-expanded={opened.has(h.seq)}
                    title={opened.has(h.seq) ? undefined : 'In values'}
                    onClick={() =>
                      setOpened(
                        (now) =>
                          new Set(
                            now.has(h.seq) ? [...now].filter((x) => x !== h.seq) : [...now, h.seq],
                          ),
                      )
                    }
                    className={`block w-full text-left text-[12px] leading-4 text-muted hover:text-soft ${opened.has(h.seq) ? '' : 'truncate'}`}
                  >
                    {opened.has(h.seq)
                      ? h.lines.map((l, i) => (
                          <span key={i} className="block [overflow-wrap:anywhere]">
                            {l}
                          </span>
                        ))
                      : h.lines[0]}
                    {(opened.has(h.seq) ? h.more : h.more + h.lines.length - 1) > 0 && (
                      <span>
                        {' '}
                        and {opened.has(h.seq) ? h.more : h.more + h.lines.length - 1} more
                      </span>
                    )}
                  </button>
                )}
              </span>
              <span className="flex opacity-40 group-hover:opacity-100 focus-within:opacity-100">
                <IconButton
                  label={`Look at the show as it was after “${h.summary}”`}
                  onClick={() =>
                    void lookBack({ seq: h.seq, name: `${when(h.at)}, after “${h.summary}”` })
                  }
                >
                  <Eye size={14} />
                </IconButton>
                <IconButton
                  label={`Undo only “${h.summary}”`}
                  disabled={!may || undone.has(h.seq)}
                  onClick={() => undo(h)}
                >
                  <Undo2 size={14} />
                </IconButton>
              </span>
            </li>
          )}
        </LogList>
      </section>
      <Own />
    </div>
  );
}

/** One's own changes as a list to jump along: what is above the mark is undone. */
function Own() {
  const { showId, seq, you } = useParts(useScreen, 'showId', 'seq', 'you');
  const send = useSend();
  const own = useLoad<{ done: Step[]; undone: Step[] }>(`/api/shows/${showId}/undo`, seq);
  const jump = (to: number): void =>
    void send<{ summary: string }>(`/api/shows/${showId}/undo`, 'POST', { to }).then(
      (r) => r && notice.done(r.summary),
    );
  const may = mayEdit(you.role);
  const row =
    'block min-h-8 w-full rounded px-2 py-1 text-left text-[12.5px] hover:bg-raised disabled:hover:bg-transparent';
  return (
    <section
      aria-label="Your own changes"
      className="flex min-h-0 flex-col border-l border-line px-4 py-4"
    >
      <h2 className="text-[15px] font-semibold">Your own</h2>
      <p className="mt-0.5 text-[12.5px] text-muted">
        Click one to go back to before it, or forward to it again. Others’ work stays.
      </p>
      <ol className="mt-2 min-h-0 flex-1 overflow-y-auto">
        {(own.data?.undone ?? []).map((s) => (
          <li key={s.seq}>
            <button
              type="button"
              disabled={!may}
              onClick={() => jump(s.seq)}
              className={`${row} text-dim line-through`}
            >
              {s.summary}
            </button>
          </li>
        ))}
        <li aria-label="here" className="my-1 flex items-center gap-2 text-[11px] text-standby">
          <i className="h-px flex-1 bg-standby" /> you are here{' '}
          <i className="h-px flex-1 bg-standby" />
        </li>
        {(own.data?.done ?? []).map((s) => (
          <li key={s.seq}>
            <button
              type="button"
              disabled={!may}
              onClick={() => jump(s.seq)}
              className={`${row} text-soft`}
            >
              {s.summary}
            </button>
          </li>
        ))}
        {own.data && own.data.done.length + own.data.undone.length === 0 && (
          <li className="px-2 text-muted">You have changed nothing yet.</li>
        )}
      </ol>
    </section>
  );
}
