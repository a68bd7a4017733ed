/** Working apart: a copy, the show as a file, coming together again, parts of another show, back-ups. */
'use client';
import { useState } from 'react';
import { notice } from '../state/messages';
import { Button, Choice, Dialog, Field, FileField } from '../parts/controls';
import { mayEdit, useScreen, useShow } from '../state/store';
import { plural } from '@/core/words';
import type { Backup, CopyOf } from '@/core/live/answers';
import { showName } from '@/core/show/show';
import { api } from '../state/api';
import { BringIn } from './BringIn';
import { MergeView } from './MergeView';
import type { OtherShow } from './types';
import { useLoad, useSend } from './use-load';
import { when } from '@/core/dates';
import { useParts } from '../state/use-parts';

const HEAD = 'text-[15px] font-semibold';

/** Working apart: copies, files, and coming together again. */
export function Apart() {
  const { showId, you } = useParts(useScreen, 'showId', 'you');
  const show = useShow();
  const send = useSend();
  const [copying, setCopying] = useState(false);
  const [name, setName] = useState('');
  const [other, setOther] = useState<OtherShow | null>(null);
  const [doing, setDoing] = useState<'merge' | 'parts'>('merge');
  const may = mayEdit(you.role);
  const makes = useScreen((s) => s.makes);
  if (other)
    return doing === 'merge' ? (
      <MergeView other={other} onDone={() => setOther(null)} onParts={() => setDoing('parts')} />
    ) : (
      <BringIn other={other} onDone={() => setOther(null)} />
    );
  return (
    <div className="grid h-full grid-cols-2">
      <section
        aria-label="Take it along"
        className="overflow-y-auto border-r border-line px-5 py-4"
      >
        <h2 className={HEAD}>Take the show along</h2>
        <p className="mt-1 text-[12.5px] text-muted">
          A file has everything of the show, and what was changed in it, in plain JSON. At home it
          opens as a show of its own; back here it is merged.
        </p>
        <div className="mt-3 flex gap-2">
          <a
            href={`/api/shows/${showId}/export/show.wingman`}
            download
            className="inline-flex h-8 items-center rounded-md bg-lift px-3 text-[12.5px] font-semibold shadow-[inset_0_0_0_1px_var(--color-edge)] hover:bg-brim"
          >
            Save as a file
          </a>
          {makes && (
            <Button
              onClick={() => {
                setName(`${showName(show)}, ${you.name.split(' ')[0]}’s copy`);
                setCopying(true);
              }}
            >
              Make a copy here …
            </Button>
          )}
        </div>
        {you.role === 'owner' && <Copies onMerge={(o) => (setDoing('merge'), setOther(o))} />}
        {you.role === 'owner' && <Backups />}
        <Dialog
          open={copying}
          onOpenChange={setCopying}
          title="Make a copy"
          about="A show of your own, in rehearsal, to try things in. It remembers where it comes from, so that it can be merged back."
        >
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void send<{ id: string }>(`/api/shows/${showId}/copy`, 'POST', {
                name: name.trim(),
              }).then((r) => r && window.location.assign(`/shows/${r.id}/stage`));
            }}
          >
            <Field
              label="Its name"
              value={name}
              maxLength={120}
              onChange={(e) => setName(e.target.value)}
            />
            <div className="mt-3 flex justify-end">
              <Button kind="strong" type="submit" disabled={name.trim() === ''}>
                Make the copy
              </Button>
            </div>
          </form>
        </Dialog>
      </section>
      <section aria-label="Come together" className="overflow-y-auto px-5 py-4">
        <h2 className={HEAD}>Come together</h2>
        <p className="mt-1 text-[12.5px] text-muted">
          Merge a copy or a file that began from this show: what only one side changed comes in by
          itself, what both changed is asked. Or bring in parts of any other show.
        </p>
        {may ? (
          <ChooseOther onChosen={(o, what) => (setDoing(what), setOther(o))} />
        ) : (
          <p className="mt-3 text-muted">Owners and programmers merge.</p>
        )}
      </section>
    </div>
  );
}

function ChooseOther({
  onChosen,
}: {
  onChosen: (other: OtherShow, what: 'merge' | 'parts') => void;
}) {
  const showId = useScreen((s) => s.showId);
  const shows = useLoad<{
    shows: { id: string; name: string; role: string; deletedAt: string | null }[];
  }>('/api/shows', showId);
  const others = (shows.data?.shows ?? []).filter(
    (s) => s.id !== showId && s.role !== 'volunteer' && !s.deletedAt,
  );
  const [chosen, setChosen] = useState('');
  const [file, setFile] = useState<{
    id: string;
    show: { name: string };
    made: string;
    by: string;
    counts: Record<string, number>;
  } | null>(null);
  const [busy, setBusy] = useState(false);
  const take = async (f: File): Promise<void> => {
    setBusy(true);
    try {
      setFile(
        await api(`/api/incoming?name=${encodeURIComponent(f.name)}`, {
          method: 'POST',
          body: f,
          headers: { 'content-type': 'application/zip' },
        }),
      );
      setChosen('');
    } catch (error) {
      notice.error((error as Error).message, { duration: 8000 });
    }
    setBusy(false);
  };
  const picked = others.find((s) => s.id === chosen);
  const listed = picked ? { from: { show: picked.id }, name: picked.name } : null;
  const other: OtherShow | null = file ? { from: { file: file.id }, name: file.show.name } : listed;
  const offered = file
    ? `${file.show.name}, saved ${when(file.made)}`
    : 'Or bring a .wingman file along';
  return (
    <div className="mt-3 max-w-[460px] space-y-3">
      <Choice
        label="A show here"
        value={chosen}
        onChange={(e) => {
          setChosen(e.target.value);
          setFile(null);
        }}
        options={[
          { value: '', label: others.length > 0 ? 'choose one' : 'you are in no other show' },
          ...others.map((s) => ({ value: s.id, label: s.name })),
        ]}
      />
      <FileField
        label="A show file"
        accept=".wingman,application/zip"
        said={busy ? 'Reading …' : offered}
        onFile={(f) => void take(f)}
      />
      {file && (
        <p className="text-[12.5px] text-muted">
          Saved by {file.by}: {plural(file.counts.fixtures ?? 0, 'fixture')},{' '}
          {plural(file.counts.cues ?? 0, 'cue')}, {plural(file.counts.palettes ?? 0, 'palette')}.
        </p>
      )}
      <div className="flex gap-2">
        <Button kind="strong" disabled={!other} onClick={() => other && onChosen(other, 'merge')}>
          Merge …
        </Button>
        <Button disabled={!other} onClick={() => other && onChosen(other, 'parts')}>
          Bring in parts …
        </Button>
      </div>
    </div>
  );
}

/** Who copied this show, and how far they are from it. */
function Copies({ onMerge }: { onMerge: (other: OtherShow) => void }) {
  const { showId, seq } = useParts(useScreen, 'showId', 'seq');
  const copies = useLoad<{ copies: CopyOf[] }>(`/api/shows/${showId}/copies`, seq);
  const mine = useLoad<{ shows: { id: string }[] }>('/api/shows', showId);
  const found = copies.data?.copies ?? [];
  return (
    <section aria-label="Copies" className="mt-6 border-t border-line pt-4">
      <h2 className={HEAD}>Copies of this show</h2>
      {copies.data && found.length === 0 && (
        <p className="mt-1 text-[12.5px] text-muted">
          Nobody has copied it in this house. Who takes a file along brings it back as a file.
        </p>
      )}
      <ul className="mt-1">
        {found.map((c) => (
          <li
            key={c.id}
            data-copy={c.id}
            className="flex min-h-11 items-center gap-3 border-b border-raised py-1"
          >
            <span className="min-w-0 flex-1">
              <span className="block truncate font-medium">{c.name}</span>
              <span className="block truncate text-[12px] text-muted">
                {c.owners.join(', ')} ·{' '}
                {c.there === 0 && c.here === 0
                  ? 'the same as here'
                  : `${plural(c.there, 'change')} there, ${c.here} here`}{' '}
                since {c.merged ? 'it was merged' : 'it was copied'} · last {when(c.changedAt)}
              </span>
            </span>
            {mine.data?.shows.some((s) => s.id === c.id) ? (
              <Button
                disabled={c.there === 0}
                onClick={() => onMerge({ from: { show: c.id }, name: c.name })}
              >
                Merge …
              </Button>
            ) : (
              <span
                className="text-[12px] text-muted"
                title="Ask them for an invitation, or for it as a file"
              >
                not yours to open
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Backups() {
  const { showId, seq } = useParts(useScreen, 'showId', 'seq');
  const [made, setMade] = useState('');
  const send = useSend();
  const list = useLoad<{ backups: Backup[] }>(`/api/backups?show=${showId}`, `${seq}/${made}`);
  const found = list.data?.backups ?? [];
  return (
    <div className="mt-6 border-t border-line pt-4">
      <div className="flex items-center gap-3">
        <h2 className={HEAD}>Back-ups</h2>
        <Button
          onClick={() =>
            void send<{ file: string }>('/api/backups', 'POST', { show: showId }).then((r) => {
              if (!r) return;
              setMade(r.file);
              notice.done('The back-up is written.');
            })
          }
        >
          Back up now
        </Button>
      </div>
      <p className="mt-1 text-[12.5px] text-muted">
        Written by itself every ten minutes in which something changed, into the data folder: the
        newest 24, and one a day for two weeks.
      </p>
      <ul className="mt-2">
        {list.data && found.length === 0 && (
          <li className="text-muted">The first is written within ten minutes.</li>
        )}
        {found.slice(0, 40).map((b) => (
          <li key={b.file} className="flex min-h-9 items-center gap-3 border-b border-raised">
            <span className="num flex-1 text-[12.5px]">{when(b.at)}</span>
            <span className="text-[12px] text-muted">
              change {b.seq}, {Math.max(1, Math.round(b.bytes / 1024))} kB
            </span>
            <Button
              kind="quiet"
              onClick={() =>
                void send<{ id: string }>('/api/backups', 'POST', {
                  show: showId,
                  file: b.file,
                }).then((r) => r && window.location.assign(`/shows/${r.id}/stage`))
              }
            >
              Open as a show of its own
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
