/**
 * What a look is made of: parts taken out, more put in, what you hold added. Nothing is written before what follows from it is
 * seen; what is not changed here follows what others make of it.
 */
'use client';
import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { consequences, type Consequence } from '@/core/cues/consequences';
import { plural } from '@/core/words';
import { itemsFrom, lookUses } from '@/core/looks/edits';
import { membersOf } from '@/core/groups/members';
import type { LookItem, LookRow } from '@/core/looks/rows';
import type { Show } from '@/core/show/show';
import { Button, Choice, Dialog, Field, IconButton } from '../../parts/controls';
import { edit, tryEdit } from '../../state/edits';
import { heldValues } from '../../state/recording';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { Consequences } from './Consequences';
import { linesOf } from './look-words';

interface Of {
  look: LookRow;
  items: readonly LookItem[];
  put: (items: readonly LookItem[]) => void;
  editable: boolean;
}

function Parts({ items, put, editable }: Of) {
  const show = useShow();
  return (
    <ul className="mt-3 max-h-52 overflow-y-auto" aria-label="Parts">
      {linesOf(show, items).map((l) => (
        <li
          key={l.text}
          className="flex h-8 items-center border-t border-line text-soft first:border-t-0"
        >
          <span className="min-w-0 flex-1 truncate">{l.text}</span>
          {editable && (
            <IconButton
              label={`Take out ${l.text}`}
              className="!size-7"
              onClick={() => put(items.filter((i) => !l.items.includes(i)))}
            >
              <Trash2 size={13} />
            </IconButton>
          )}
        </li>
      ))}
      {items.length === 0 && <li className="text-muted">No parts.</li>}
    </ul>
  );
}

/** Whom a palette or an effect is put in for: the selection, as the group that it is, where it is one. */
function membersNow(show: Show): string[] {
  const selection = [...useScreen.getState().selection];
  if (selection.length === 0) return [];
  const group = [...show.groups.values()]
    .sort((a, b) => a.number - b.number)
    .find((g) => membersOf(show, g).join() === selection.join());
  return group ? [group.id] : selection;
}

/** @param choice as `look/1`, kind and id @returns undefined where nobody is selected for it */
function itemOf(show: Show, choice: string): LookItem | undefined {
  const [kind, id] = choice.split('/');
  if (!id) return undefined;
  if (kind === 'look') return { kind, look: id };
  const members = membersNow(show);
  if (members.length === 0) return undefined;
  if (kind === 'palette') return { kind, palette: id, members };
  return kind === 'effect' ? { kind, effect: id, members } : undefined;
}

function PutIn({ look, items, put }: Of) {
  const show = useShow();
  const holds = useScreen((s) => s.values.size > 0);
  const named = (kind: string, rows: Iterable<{ id: string; name: string }>) =>
    [...rows]
      .filter((r) => r.id !== look.id)
      .map((r) => ({ value: `${kind}/${r.id}`, label: `${kind} ${r.name}` }));
  return (
    <div className="mt-2 flex flex-wrap items-end gap-2">
      <Choice
        label="Put in"
        className="w-64"
        value=""
        onChange={(e) => {
          const item = itemOf(show, e.target.value);
          if (item) put([...items, item]);
        }}
        options={[
          { value: '', label: 'a look, or for the selection …' },
          ...named('look', show.looks.values()),
          ...named('palette', show.palettes.values()),
          ...named('effect', show.effects.values()),
        ]}
      />
      <Button onClick={() => put([...items, ...itemsFrom(show, heldValues())])} disabled={!holds}>
        Add what you hold
      </Button>
      <Button
        disabled={items !== look.items || !look.items.some((i) => i.kind === 'look')}
        title={
          items === look.items
            ? 'Its own parts instead of other looks'
            : 'Save first, or leave it as it was'
        }
        onClick={() => void edit('flatten-look', { id: look.id })}
      >
        Free of other looks
      </Button>
    </div>
  );
}

/** Cues that have it, and the ways out of it for one of them. */
function InCues({ look, editable }: Of) {
  const show = useShow();
  const uses = lookUses(show, look.id).filter((u) => u.cueId !== undefined);
  if (uses.length === 0) return null;
  return (
    <div className="mt-3">
      <span className="cap">In {plural(uses.length, 'cue')}</span>
      <ul className="mt-1 max-h-32 overflow-y-auto">
        {uses.map((u) => (
          <li key={u.label} className="flex h-8 items-center gap-2 text-soft">
            <span className="min-w-0 flex-1 truncate">{u.label}</span>
            {editable && (
              <>
                <Button
                  kind="quiet"
                  className="!h-7"
                  title="This cue gets a copy of its own; the others go on together"
                  onClick={() => void edit('own-look', { id: look.id, cueId: u.cueId })}
                >
                  Make its own
                </Button>
                <Button
                  kind="quiet"
                  className="!h-7"
                  title="The values themselves, in this cue alone"
                  onClick={() => void edit('flatten-look', { id: look.id, cueId: u.cueId })}
                >
                  Flatten
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What would follow from other parts; why they cannot be. @param items null: as they are */
function useFollows(
  look: LookRow,
  items: readonly LookItem[] | null,
): { problem?: string; found: Consequence[] } {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  return useMemo(() => {
    void revision;
    if (items === null) return { found: [] };
    const plan = tryEdit('record-look', { id: look.id, how: 'replace', items });
    return 'message' in plan
      ? { problem: plan.message, found: [] }
      : { found: consequences(show, plan.changes) };
  }, [show, look, items, revision]);
}

/** What a look says, unit by unit. */
export function LookEditor({ look, onClose }: { look: LookRow; onClose: () => void }) {
  const editable = mayEdit(useScreen((s) => s.you.role));
  const [draft, setDraft] = useState<readonly LookItem[] | null>(null);
  const [typed, setTyped] = useState<string | null>(null);
  const { problem, found } = useFollows(look, draft);
  const name = typed ?? look.name;
  const isNamed = name.trim() !== '' && name.trim() !== look.name;
  const of: Of = { look, items: draft ?? look.items, put: setDraft, editable };
  const save = async (): Promise<void> => {
    const answers = [];
    if (isNamed)
      answers.push(
        await edit(
          'change-look',
          { id: look.id, set: { name: name.trim() } },
          { quiet: draft !== null },
        ),
      );
    if (draft !== null)
      answers.push(await edit('record-look', { id: look.id, how: 'replace', items: draft }));
    if (answers.every((a) => 'seq' in a)) onClose();
  };
  return (
    <Dialog
      of={`looks/${look.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Look ${look.number} “${look.name}”`}
      width="w-[560px]"
      tall
    >
      <Field
        label="Name"
        value={name}
        maxLength={120}
        disabled={!editable}
        onChange={(e) => setTyped(e.target.value)}
      />
      <Parts {...of} />
      {editable && <PutIn {...of} />}
      <InCues {...of} />
      {draft !== null && (
        <div className="mt-3 border-t border-line pt-3" role={problem ? 'alert' : undefined}>
          {problem ? <p className="text-warning">{problem}</p> : <Consequences found={found} />}
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          {draft === null ? 'Close' : 'Leave it as it was'}
        </Button>
        {editable && (
          <Button
            kind="strong"
            disabled={problem !== undefined || (draft === null && !isNamed)}
            onClick={() => void save()}
          >
            Save
          </Button>
        )}
      </div>
    </Dialog>
  );
}
