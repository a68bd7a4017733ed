/** Versions: named by hand or kept by themselves; compared side by side; gone back to in whole or in parts. */
'use client';
import { Eye, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { notice } from '../state/messages';
import type { Version } from '@/core/live/answers';
import type { Item } from '@/core/show/compare';
import { Ask } from '../parts/Ask';
import { Button, Choice, Field, IconButton } from '../parts/controls';
import { lookBack } from '../state/link';
import { mayEdit, useScreen } from '../state/store';
import { Compared, type BothPalettes } from './Compared';
import { useLoad, useSend } from './use-load';
import { when } from '@/core/dates';
import { useParts } from '../state/use-parts';

const NOW = 'now';

/** States of the show that were kept; looked at, compared, gone back to. */
export function VersionsPane() {
  const { showId, you, seq } = useParts(useScreen, 'showId', 'you', 'seq');
  const send = useSend();
  const path = `/api/shows/${showId}/versions`;
  const versions = useLoad<Answer>(path, seq);
  const [from, setFrom] = useState<Version | null>(null);
  const [to, setTo] = useState(NOW);
  const list = versions.data?.versions ?? [];
  const may = mayEdit(you.role);
  /** @returns whether it was kept */
  const keep = async (name: string): Promise<boolean> => {
    const answer = await send<Answer>(path, 'POST', { name });
    if (answer) versions.set(answer);
    return answer !== undefined;
  };
  const forget = (v: Version): void =>
    void send<Answer>(`${path}?version=${v.id}`, 'DELETE').then((r) => r && versions.set(r));
  return (
    <div className="grid h-full grid-cols-[minmax(340px,1fr)_1.5fr]">
      <section
        aria-label="Versions"
        className="flex min-h-0 flex-col border-r border-line px-5 py-4"
      >
        {may && <KeepVersion onKeep={keep} />}
        <ol className="mt-3 min-h-0 flex-1 overflow-y-auto">
          {versions.data && list.length === 0 && (
            <li className="text-[12.5px] text-muted">
              No versions yet. One is kept by itself before anything dangerous, and whenever the
              board changes hands.
            </li>
          )}
          {list.map((v) => (
            <VersionLine
              key={v.id}
              version={v}
              chosen={from?.id === v.id}
              onChoose={() => setFrom(v)}
              onForget={may ? () => forget(v) : null}
            />
          ))}
        </ol>
      </section>
      {from ? (
        <Comparison key={`${from.id}/${to}`} from={from} to={to} onTo={setTo} versions={list} />
      ) : (
        <p className="p-6 text-muted">
          Choose a version to see what is different now: patch, palettes, cues, times and script,
          side by side. From there you go back to it, in whole or in parts.
        </p>
      )}
    </div>
  );
}

interface Answer {
  versions: Version[];
}

/** @param onKeep says whether it was kept: a name that was refused stays to be changed */
function KeepVersion({ onKeep }: { onKeep: (name: string) => Promise<boolean> }) {
  const [name, setName] = useState('');
  return (
    <form
      className="grid grid-cols-[1fr_auto] items-start gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void onKeep(name.trim()).then((kept) => kept && setName(''));
      }}
    >
      <Field
        label="Name the show as it is now"
        placeholder="after dress"
        value={name}
        maxLength={120}
        onChange={(e) => setName(e.target.value)}
      />
      <Button kind="strong" type="submit" disabled={name.trim() === ''} className="mt-5">
        Keep version
      </Button>
    </form>
  );
}

/** @param onForget null for whoever may not */
function VersionLine({
  version: v,
  chosen,
  onChoose,
  onForget,
}: {
  version: Version;
  chosen: boolean;
  onChoose: () => void;
  onForget: (() => void) | null;
}) {
  return (
    <li
      data-version={v.name}
      className={`group flex min-h-11 items-center gap-2 border-b border-raised ${chosen ? 'bg-standby-wash' : ''}`}
    >
      <button
        type="button"
        onClick={onChoose}
        className="min-w-0 flex-1 rounded px-2 py-1 text-left hover:bg-raised"
      >
        <span className={`block truncate ${v.kind === 'named' ? 'font-semibold' : 'text-soft'}`}>
          {v.name}
        </span>
        <span className="block text-[12px] text-muted">
          {when(v.at)}, {v.kind === 'named' ? v.userName : `by itself, ${v.userName}`} · change{' '}
          {v.seq}
        </span>
      </button>
      <span className="flex opacity-40 group-hover:opacity-100 focus-within:opacity-100">
        <IconButton
          label={`Look at the show as it was: ${v.name}`}
          onClick={() => void lookBack({ seq: v.seq, name: v.name })}
        >
          <Eye size={14} />
        </IconButton>
        <IconButton
          label={`Forget the name ${v.name}`}
          disabled={onForget === null}
          onClick={() => onForget?.()}
        >
          <Trash2 size={14} />
        </IconButton>
      </span>
    </li>
  );
}

function Comparison({
  from,
  to,
  onTo,
  versions,
}: {
  from: Version;
  to: string;
  onTo: (to: string) => void;
  versions: readonly Version[];
}) {
  const { showId, you, seq } = useParts(useScreen, 'showId', 'you', 'seq');
  const send = useSend();
  const other = versions.find((v) => v.id === to);
  const answer = useLoad<{ items: Item[]; palettes: BothPalettes }>(
    `/api/shows/${showId}/compare?from=${from.seq}${other ? `&to=${other.seq}` : ''}`,
    other ? other.seq : seq,
  );
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [going, setGoing] = useState(false);
  const items = answer.data?.items ?? [];
  const may = mayEdit(you.role) && to === NOW;
  const restore = (keys?: string[]): void =>
    void send<{ summary: string }>(`/api/shows/${showId}/restore`, 'POST', {
      seq: from.seq,
      name: from.name,
      ...(keys ? { keys } : {}),
    }).then((r) => {
      if (!r) return;
      notice.done(`${r.summary}. Undo takes it back.`);
      setChosen(new Set());
    });
  return (
    <section aria-label="Comparison" className="flex min-h-0 flex-col px-5 py-4">
      <div className="flex items-end gap-3">
        <h2 className="min-w-0 flex-1 truncate text-[15px] font-semibold">
          From “{from.name}” to {other ? `“${other.name}”` : 'now'}
        </h2>
        <Choice
          label="Compare with"
          className="w-52"
          value={to}
          onChange={(e) => onTo(e.target.value)}
          options={[
            { value: NOW, label: 'the show as it is now' },
            ...versions
              .filter((v) => v.id !== from.id)
              .map((v) => ({ value: v.id, label: v.name })),
          ]}
        />
      </div>
      <div data-testid="compared" className="mt-3 min-h-0 flex-1 overflow-y-auto pr-2">
        {answer.problem && <p className="text-danger">{answer.problem}</p>}
        {!answer.data && !answer.problem && <p className="text-muted">Comparing …</p>}
        {answer.data && (
          <Compared
            items={items}
            palettes={answer.data.palettes}
            before={from.name}
            after={other?.name ?? 'now'}
            {...(may ? { chosen, onChoose: setChosen } : {})}
          />
        )}
      </div>
      {may && items.length > 0 && (
        <div className="mt-3 flex items-center justify-end gap-2 border-t border-line pt-3">
          <span className="mr-auto text-[12.5px] text-muted">
            {chosen.size > 0
              ? `${chosen.size} of ${items.length} chosen`
              : 'Choose some to take them over as they were.'}
          </span>
          <Button disabled={chosen.size === 0} onClick={() => restore([...chosen])}>
            Take these over
          </Button>
          <Button kind="danger" onClick={() => setGoing(true)}>
            Go back in whole …
          </Button>
        </div>
      )}
      <Ask
        open={going}
        onClose={() => setGoing(false)}
        title={`Go back to “${from.name}”?`}
        act="Go back"
        keep="Stay as it is"
        onAct={() => restore()}
      >
        {items.length} {items.length === 1 ? 'difference goes' : 'differences go'}, for everybody in
        the show. The show as it is now is kept as a version first, one undo takes this back, and
        notes from the house stay.
      </Ask>
    </section>
  );
}
