/** Parts of another show: which cues, palettes, groups and fixtures, and which of our fixtures stand for theirs. */
'use client';
import { useEffect, useMemo, useState } from 'react';
import { notice } from '../state/messages';
import { willDo } from '@/core/edits/will';
import { formatCueNumber } from '@/core/cues/number';
import type { Mapping } from '@/core/bring-in/mapping';
import { Button, Check, Choice, Tabs } from '../parts/controls';
import { api } from '../state/api';
import { bookListId } from '../state/book';
import { useScreen, useShow } from '../state/store';
import { PaneHead } from './PaneHead';
import type { OtherShow } from './types';
import { useSend } from './use-load';
import { useParts } from '../state/use-parts';

interface Named {
  id: string;
  number: number;
  name: string;
  family?: string;
}
interface Offer {
  name: string;
  lists: { id: string; name: string; cues: Named[] }[];
  palettes: Named[];
  groups: Named[];
  looks: Named[];
  effects: Named[];
  fixtures: { id: string; number: number; label: string; type: string }[];
  mapping: Record<string, string | null>;
}
type Kind = 'cues' | 'palettes' | 'groups' | 'looks' | 'effects' | 'fixtures';
const KINDS: { value: Kind; label: string }[] = [
  { value: 'cues', label: 'Cues' },
  { value: 'palettes', label: 'Palettes' },
  { value: 'groups', label: 'Groups' },
  { value: 'looks', label: 'Looks' },
  { value: 'effects', label: 'Effects' },
  { value: 'fixtures', label: 'Fixtures' },
];
const BY: { value: Mapping; label: string }[] = [
  { value: 'number', label: 'by number' },
  { value: 'type', label: 'by type, in order' },
  { value: 'position', label: 'by where they hang' },
];
const NONE = '';

export function BringIn({ other, onDone }: { other: OtherShow; onDone: () => void }) {
  const { showId } = useParts(useScreen, 'showId');
  const show = useShow();
  const send = useSend();
  const [by, setBy] = useState<Mapping>('number');
  const [offer, setOffer] = useState<Offer>();
  const [kind, setKind] = useState<Kind>('cues');
  const [chosen, setChosen] = useState<Record<Kind, ReadonlySet<string>>>({
    cues: new Set(),
    palettes: new Set(),
    groups: new Set(),
    looks: new Set(),
    effects: new Set(),
    fixtures: new Set(),
  });
  const [own, setOwn] = useState<Record<string, string | null>>({});
  const [listId, setListId] = useState(bookListId);
  const [said, setSaid] = useState<{ summary: string; notes: string[] } | string>();
  const [busy, setBusy] = useState(false);

  useEffect(() => {
    api<Offer>(`/api/shows/${showId}/bring-in`, {
      method: 'PUT',
      body: JSON.stringify({ from: other.from, by }),
    }).then(setOffer, (error: unknown) => notice.error((error as Error).message));
  }, [showId, other, by]);

  const body = useMemo(
    () => ({
      from: other.from,
      by,
      mapping: own,
      listId,
      ...Object.fromEntries(Object.entries(chosen).map(([k, ids]) => [k, [...ids]])),
    }),
    [other, by, own, listId, chosen],
  );
  const any = Object.values(chosen).some((ids) => ids.size > 0);
  useEffect(() => {
    if (!any) return;
    let current = true;
    const soon = setTimeout(() => {
      api<{ summary: string; notes: string[] }>(`/api/shows/${showId}/bring-in`, {
        method: 'POST',
        body: JSON.stringify({ ...body, preview: true }),
      }).then(
        (r) => current && setSaid(r),
        (error: unknown) => current && setSaid((error as Error).message),
      );
    }, 250);
    return () => {
      current = false;
      clearTimeout(soon);
    };
  }, [showId, body, any]);

  const bring = async (): Promise<void> => {
    setBusy(true);
    const done = await send<{ summary: string }>(`/api/shows/${showId}/bring-in`, 'POST', body);
    setBusy(false);
    if (!done) return;
    notice.done(`${done.summary}. One undo takes it all back.`);
    onDone();
  };
  const set = (ids: ReadonlySet<string>): void => setChosen({ ...chosen, [kind]: ids });
  const rows: { id: string; words: string }[] = !offer
    ? []
    : kind === 'cues'
      ? offer.lists.flatMap((l) =>
          l.cues.map((c) => ({
            id: c.id,
            words: `${offer.lists.length > 1 ? `${l.name} ` : ''}${formatCueNumber(c.number)} ${c.name}`,
          })),
        )
      : kind === 'fixtures'
        ? offer.fixtures
            .filter((f) => !(own[f.id] ?? offer.mapping[f.id]))
            .map((f) => ({ id: f.id, words: `${f.number} ${f.label}, ${f.type}` }))
        : offer[kind].map((r) => ({
            id: r.id,
            words: `${r.number} ${r.name}${r.family ? `, ${r.family}` : ''}`,
          }));
  const ours = [...show.fixtures.values()].sort((a, b) => a.number - b.number);
  return (
    <div className="flex h-full flex-col">
      <PaneHead title={`Bring in parts of “${other.name}”`} onBack={onDone}>
        <Button
          kind="strong"
          className="ml-auto"
          disabled={!any || busy || typeof said === 'string'}
          onClick={() => void bring()}
        >
          Bring them in
        </Button>
      </PaneHead>
      <div className="grid min-h-0 flex-1 grid-cols-2">
        <section aria-label="What" className="flex min-h-0 flex-col border-r border-line px-4 py-3">
          <Tabs
            label="What"
            value={kind}
            options={KINDS.map((k) => ({
              value: k.value,
              label: `${k.label}${chosen[k.value].size > 0 ? ` ${chosen[k.value].size}` : ''}`,
            }))}
            onChange={setKind}
          />
          <div className="mt-2 flex items-end gap-2">
            <Button onClick={() => set(new Set(rows.map((r) => r.id)))}>All</Button>
            <Button kind="quiet" onClick={() => set(new Set())}>
              None
            </Button>
            {kind === 'cues' && (
              <Choice
                label="Into list"
                className="ml-auto w-48"
                value={listId}
                onChange={(e) => setListId(e.target.value)}
                options={[...show.lists.values()].map((l) => ({ value: l.id, label: l.name }))}
              />
            )}
          </div>
          {kind === 'fixtures' && (
            <p className="mt-2 text-[12.5px] text-muted">
              Those that nothing of ours stands for. They come in off the rig, with their address
              remembered.
            </p>
          )}
          <div className="mt-2 min-h-0 flex-1 overflow-y-auto">
            {offer && rows.length === 0 && <p className="text-muted">Nothing of this kind.</p>}
            {rows.map((r) => (
              <Check
                key={r.id}
                checked={chosen[kind].has(r.id)}
                onChange={(on) => {
                  const next = new Set(chosen[kind]);
                  if (on) next.add(r.id);
                  else next.delete(r.id);
                  set(next);
                }}
              >
                {r.words}
              </Check>
            ))}
          </div>
          {any && said !== undefined && (
            <div role="status" className="mt-2 border-t border-line pt-2 text-[12.5px]">
              {typeof said === 'string' ? (
                <p className="text-warning">{said}</p>
              ) : (
                <>
                  <p className="font-medium">{willDo(said.summary)}</p>
                  {said.notes.slice(0, 6).map((n) => (
                    <p key={n} className="text-muted">
                      {n}
                    </p>
                  ))}
                  {said.notes.length > 6 && (
                    <p className="text-muted">and {said.notes.length - 6} more</p>
                  )}
                </>
              )}
            </div>
          )}
        </section>
        <section aria-label="Fixtures" className="flex min-h-0 flex-col px-4 py-3">
          <div className="flex items-end gap-3">
            <h3 className="flex-1 text-[13.5px] font-semibold">Whose light it is here</h3>
            <Choice
              label="Map"
              className="w-48"
              value={by}
              onChange={(e) => (setOwn({}), setBy(e.target.value as Mapping))}
              options={BY}
            />
          </div>
          <ul className="mt-2 min-h-0 flex-1 overflow-y-auto">
            {(offer?.fixtures ?? []).map((f) => {
              const to = f.id in own ? own[f.id] : offer?.mapping[f.id];
              return (
                <li
                  key={f.id}
                  className="grid h-9 grid-cols-[48px_1fr_minmax(0,220px)] items-center gap-2 border-b border-raised"
                >
                  <span className="num">{f.number}</span>
                  <span className="truncate text-soft">
                    {f.label} <span className="text-muted">{f.type}</span>
                  </span>
                  <select
                    aria-label={`Ours for ${f.number}`}
                    value={to ?? NONE}
                    onChange={(e) =>
                      setOwn({ ...own, [f.id]: e.target.value === NONE ? null : e.target.value })
                    }
                    className={`h-7 rounded-md bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)] ${to ? '' : 'text-warning'}`}
                  >
                    <option value={NONE}>none: left out</option>
                    {ours.map((o) => (
                      <option key={o.id} value={o.id}>
                        {o.number} {o.label}
                      </option>
                    ))}
                  </select>
                </li>
              );
            })}
          </ul>
        </section>
      </div>
    </div>
  );
}
