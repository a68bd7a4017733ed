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

interface Named {
  id: string;
  number: number;
  name: string;
  family?: string;
}
/** What another show has. */
export interface Offer {
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

type Chosen = Record<Kind, ReadonlySet<string>>;
const NOTHING: Chosen = {
  cues: new Set(),
  palettes: new Set(),
  groups: new Set(),
  looks: new Set(),
  effects: new Set(),
  fixtures: new Set(),
};
/** By fixture of theirs what somebody said stands for it; null: nothing does. */
type Own = Readonly<Record<string, string | null>>;
type Said = { summary: string; notes: string[] } | string;

const oursFor = (id: string, own: Own, offer: Pick<Offer, 'mapping'>): string | null =>
  (id in own ? own[id] : offer.mapping[id]) ?? null;

/** What there is of a kind, in words. */
export function offered(offer: Offer, kind: Kind, own: Own): { id: string; words: string }[] {
  if (kind === 'cues')
    return offer.lists.flatMap((l) =>
      l.cues.map((c) => ({
        id: c.id,
        words: `${offer.lists.length > 1 ? `${l.name} ` : ''}${formatCueNumber(c.number)} ${c.name}`,
      })),
    );
  if (kind === 'fixtures')
    return offer.fixtures
      .filter((f) => oursFor(f.id, own, offer) === null)
      .map((f) => ({ id: f.id, words: `${f.number} ${f.label}, ${f.type}` }));
  return offer[kind].map((r) => ({
    id: r.id,
    words: `${r.number} ${r.name}${r.family ? `, ${r.family}` : ''}`,
  }));
}

/** What the other show has, and which fixtures of ours stand for its own. */
function useOffer(showId: string, other: OtherShow, by: Mapping): Offer | undefined {
  const [offer, setOffer] = useState<Offer>();
  useEffect(() => {
    api<Offer>(`/api/shows/${showId}/bring-in`, {
      method: 'PUT',
      body: JSON.stringify({ from: other.from, by }),
    }).then(setOffer, (error: unknown) => notice.error((error as Error).message));
  }, [showId, other, by]);
  return offer;
}

const ASKED_AFTER_MS = 250;

/** What bringing it in would do, said while it is chosen. */
function usePreview(showId: string, body: object, any: boolean): Said | undefined {
  const [said, setSaid] = useState<Said>();
  useEffect(() => {
    if (!any) return;
    let current = true;
    const soon = setTimeout(() => {
      api<Exclude<Said, string>>(`/api/shows/${showId}/bring-in`, {
        method: 'POST',
        body: JSON.stringify({ ...body, preview: true }),
      }).then(
        (r) => current && setSaid(r),
        (error: unknown) => current && setSaid((error as Error).message),
      );
    }, ASKED_AFTER_MS);
    return () => {
      current = false;
      clearTimeout(soon);
    };
  }, [showId, body, any]);
  return any ? said : undefined;
}

/** Brings parts of another show into this one. */
export function BringIn({ other, onDone }: { other: OtherShow; onDone: () => void }) {
  const showId = useScreen((s) => s.showId);
  const send = useSend();
  const [by, setBy] = useState<Mapping>('number');
  const offer = useOffer(showId, other, by);
  const [chosen, setChosen] = useState<Chosen>(NOTHING);
  const [own, setOwn] = useState<Own>({});
  const [listId, setListId] = useState(bookListId);
  const [busy, setBusy] = useState(false);
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
  const said = usePreview(showId, body, any);
  const bring = async (): Promise<void> => {
    setBusy(true);
    const done = await send<{ summary: string }>(`/api/shows/${showId}/bring-in`, 'POST', body);
    setBusy(false);
    if (!done) return;
    notice.done(`${done.summary}. One undo takes it all back.`);
    onDone();
  };
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
          <WhatComes
            offer={offer}
            own={own}
            chosen={chosen}
            onChoose={setChosen}
            listId={listId}
            onList={setListId}
          />
          {said !== undefined && <WhatItDoes said={said} />}
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
          {offer && <StandIns offer={offer} own={own} onOwn={setOwn} />}
        </section>
      </div>
    </div>
  );
}

function WhatComes({
  offer,
  own,
  chosen,
  onChoose,
  listId,
  onList,
}: {
  offer: Offer | undefined;
  own: Own;
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
  listId: string;
  onList: (id: string) => void;
}) {
  const show = useShow();
  const [kind, setKind] = useState<Kind>('cues');
  const rows = offer ? offered(offer, kind, own) : [];
  const set = (ids: ReadonlySet<string>): void => onChoose({ ...chosen, [kind]: ids });
  const put = (id: string, on: boolean): void => {
    const next = new Set(chosen[kind]);
    if (on) next.add(id);
    else next.delete(id);
    set(next);
  };
  return (
    <>
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
            onChange={(e) => onList(e.target.value)}
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
          <Check key={r.id} checked={chosen[kind].has(r.id)} onChange={(on) => put(r.id, on)}>
            {r.words}
          </Check>
        ))}
      </div>
    </>
  );
}

const NOTES_SHOWN = 6;
function WhatItDoes({ said }: { said: Said }) {
  return (
    <div role="status" className="mt-2 border-t border-line pt-2 text-[12.5px]">
      {typeof said === 'string' ? (
        <p className="text-warning">{said}</p>
      ) : (
        <>
          <p className="font-medium">{willDo(said.summary)}</p>
          {said.notes.slice(0, NOTES_SHOWN).map((n) => (
            <p key={n} className="text-muted">
              {n}
            </p>
          ))}
          {said.notes.length > NOTES_SHOWN && (
            <p className="text-muted">and {said.notes.length - NOTES_SHOWN} more</p>
          )}
        </>
      )}
    </div>
  );
}

/** For each fixture of theirs the one of ours that stands for it. */
function StandIns({ offer, own, onOwn }: { offer: Offer; own: Own; onOwn: (own: Own) => void }) {
  const show = useShow();
  const ours = [...show.fixtures.values()].sort((a, b) => a.number - b.number);
  return (
    <ul className="mt-2 min-h-0 flex-1 overflow-y-auto">
      {offer.fixtures.map((f) => {
        const to = oursFor(f.id, own, offer);
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
              onChange={({ target: { value } }) =>
                onOwn({ ...own, [f.id]: value === NONE ? null : value })
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
  );
}
