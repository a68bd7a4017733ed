/** Looks: recorded, tweaked part by part, flattened, given to one cue for its own, deleted. */
'use client';
import { Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { consequences } from '@/core/cues/consequences';
import { numberRanges } from '@/core/words';
import { plural } from '@/core/words';
import { itemsFrom, lookUses } from '@/core/looks/edits';
import { membersOf } from '@/core/groups/members';
import { attributeInfo } from '@/core/rig/attributes';
import type { LookItem, LookRow } from '@/core/looks/rows';
import type { Show } from '@/core/show/show';
import { Button, Check, Choice, Dialog, Field, IconButton } from '../../parts/controls';
import { edit, heldValues, tryEdit } from '../../state/actions';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { Consequences } from './Consequences';

/** A part of a look in words. */
function sayItem(show: Show, item: LookItem): string {
  const whom = (ids: readonly string[]): string =>
    ids.map((id) => show.groups.get(id)?.name ?? show.fixtures.get(id)?.number ?? '?').join(', ');
  switch (item.kind) {
    case 'level':
      return `${show.fixtures.get(item.fixtureId)?.number ?? '?'} ${attributeInfo(item.attribute).label.toLowerCase()} ${Math.round(item.level * 100)} %`;
    case 'palette':
      return `palette ${show.palettes.get(item.palette)?.name ?? '?'} on ${whom(item.members)}`;
    case 'effect':
      return `effect ${show.effects.get(item.effect)?.name ?? '?'} over ${whom(item.members)}`;
    case 'look':
      return `look ${show.looks.get(item.look)?.name ?? '?'}`;
  }
}

/** Levels of many units as one line each attribute, so that a look of a hundred levels can be read. */
function lines(show: Show, items: readonly LookItem[]): { text: string; items: LookItem[] }[] {
  const found: { text: string; items: LookItem[] }[] = [];
  const levels = new Map<string, LookItem[]>();
  for (const item of items) {
    if (item.kind !== 'level') {
      found.push({ text: sayItem(show, item), items: [item] });
      continue;
    }
    const key = `${item.attribute}/${Math.round(item.level * 1000)}`;
    levels.set(key, [...(levels.get(key) ?? []), item]);
  }
  for (const group of levels.values()) {
    const [first] = group;
    if (first?.kind !== 'level') continue;
    const numbers = group.flatMap((i) =>
      i.kind === 'level' ? (show.fixtures.get(i.fixtureId)?.number ?? []) : [],
    );
    found.push({
      text: `${numberRanges(numbers)} ${attributeInfo(first.attribute).label.toLowerCase()} ${Math.round(first.level * 100)} %`,
      items: group,
    });
  }
  return found;
}

export function RecordLook({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const [name, setName] = useState('');
  const [fader, setFader] = useState(false);
  const parts = useMemo(() => {
    void values;
    return lines(show, itemsFrom(show, heldValues()));
  }, [show, values]);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Record a look"
      about="Made of what you hold; palettes, effects and looks in it stay what they are."
      width="w-[430px]"
    >
      {parts.length === 0 ? (
        <p className="text-soft">You hold nothing yet. Make a picture, then record it as a look.</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void edit('record-look', {
              values: heldValues(),
              fader,
              ...(name.trim() ? { name: name.trim() } : {}),
            }).then((a) => 'seq' in a && onClose());
          }}
        >
          <Field
            label="Name"
            autoFocus
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
          />
          <ul className="mt-3 max-h-48 overflow-y-auto text-[12.5px] text-soft">
            {parts.map((p) => (
              <li key={p.text} className="truncate leading-6">
                {p.text}
              </li>
            ))}
          </ul>
          <div className="mt-4 flex items-center justify-between">
            <Check checked={fader} onChange={setFader}>
              Under the first free fader
            </Check>
            <Button kind="strong" type="submit">
              Record look
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

/** The look's parts: taken out one by one, more put in, what you hold added; nothing is written before the consequences are seen. */
export function LookEditor({ look, onClose }: { look: LookRow; onClose: () => void }) {
  const show = useShow();
  const you = useScreen((s) => s.you);
  const [items, setItems] = useState<readonly LookItem[]>(look.items);
  const [name, setName] = useState(look.name);
  const [adding, setAdding] = useState('');
  const changed = items !== look.items;
  const params = { id: look.id, how: 'replace', items };
  const revision = useScreen((s) => s.revision);
  const plan = useMemo(() => {
    void revision;
    return changed ? tryEdit('record-look', { id: look.id, how: 'replace', items }) : null;
  }, [changed, look, items, revision]);
  const problem = plan && 'message' in plan ? plan.message : undefined;
  const found = useMemo(
    () => (plan && !('message' in plan) ? consequences(show, plan.changes) : []),
    [show, plan],
  );
  const uses = lookUses(show, look.id).filter((u) => u.cueId !== undefined);
  const editable = mayEdit(you.role);
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  const add = (item: LookItem): void => setItems([...items, item]);
  const save = async (): Promise<void> => {
    if (name.trim() && name.trim() !== look.name)
      await edit('change-look', { id: look.id, set: { name: name.trim() } }, { quiet: changed });
    if (changed) {
      const answer = await edit('record-look', params);
      if (!('seq' in answer)) return;
    }
    onClose();
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
        onChange={(e) => setName(e.target.value)}
      />
      <ul className="mt-3 max-h-52 overflow-y-auto" aria-label="Parts">
        {lines(show, items).map((l) => (
          <li
            key={l.text}
            className="flex h-8 items-center border-t border-line text-soft first:border-t-0"
          >
            <span className="min-w-0 flex-1 truncate">{l.text}</span>
            {editable && (
              <IconButton
                label={`Take out ${l.text}`}
                className="!size-7"
                onClick={() => setItems(items.filter((i) => !l.items.includes(i)))}
              >
                <Trash2 size={13} />
              </IconButton>
            )}
          </li>
        ))}
        {items.length === 0 && <li className="text-muted">No parts.</li>}
      </ul>
      {editable && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          <Choice
            label="Put in"
            className="w-64"
            value={adding}
            onChange={(e) => {
              setAdding('');
              const [kind, id] = e.target.value.split('/');
              const everyone = groups.find((g) => g.id === useScreen.getState().selection[0])?.id;
              const selection = [...useScreen.getState().selection];
              const group =
                groups.find((g) => membersOf(show, g).join() === selection.join())?.id ?? everyone;
              const members = group ? [group] : selection;
              if (kind === 'look' && id) add({ kind: 'look', look: id });
              else if (members.length > 0 && id && kind === 'palette')
                add({ kind: 'palette', palette: id, members });
              else if (members.length > 0 && id && kind === 'effect')
                add({ kind: 'effect', effect: id, members });
            }}
            options={[
              { value: '', label: 'a look, or for the selection …' },
              ...[...show.looks.values()]
                .filter((l) => l.id !== look.id)
                .map((l) => ({ value: `look/${l.id}`, label: `look ${l.name}` })),
              ...[...show.palettes.values()].map((p) => ({
                value: `palette/${p.id}`,
                label: `palette ${p.name}`,
              })),
              ...[...show.effects.values()].map((f) => ({
                value: `effect/${f.id}`,
                label: `effect ${f.name}`,
              })),
            ]}
          />
          <Button
            onClick={() => setItems([...items, ...itemsFrom(show, heldValues())])}
            disabled={heldValues().length === 0}
          >
            Add what you hold
          </Button>
          <Button
            disabled={!look.items.some((i) => i.kind === 'look')}
            title="Its own parts instead of other looks"
            onClick={() => void edit('flatten-look', { id: look.id }).then(onClose)}
          >
            Free of other looks
          </Button>
        </div>
      )}
      {uses.length > 0 && (
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
      )}
      {changed && (
        <div className="mt-3 border-t border-line pt-3" role={problem ? 'alert' : undefined}>
          {problem ? <p className="text-warning">{problem}</p> : <Consequences found={found} />}
        </div>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          {changed ? 'Leave it as it was' : 'Close'}
        </Button>
        {editable && (
          <Button
            kind="strong"
            disabled={problem !== undefined || (!changed && name.trim() === look.name)}
            onClick={() => void save()}
          >
            Save
          </Button>
        )}
      </div>
    </Dialog>
  );
}

export function DeleteLook({ look, onClose }: { look: LookRow; onClose: () => void }) {
  const show = useShow();
  const uses = lookUses(show, look.id);
  const remove = (how: 'keep' | 'remove'): void =>
    void edit('delete-look', { id: look.id, uses: how }).then(onClose);
  return (
    <Dialog
      of={`looks/${look.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Delete look ${look.number} “${look.name}”?`}
      width="w-[430px]"
    >
      <p className="text-soft">
        {uses.length === 0
          ? 'Nothing uses it.'
          : `${plural(uses.length, 'use')}: ${uses
              .slice(0, 10)
              .map((u) => u.label)
              .join(', ')}${uses.length > 10 ? ' …' : ''}.`}
      </p>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        {uses.length > 0 && (
          <Button kind="danger" onClick={() => remove('remove')}>
            Delete, and take it out of them
          </Button>
        )}
        <Button kind="danger" onClick={() => remove('keep')}>
          {uses.length > 0 ? 'Delete, they keep what it says' : 'Delete'}
        </Button>
      </div>
    </Dialog>
  );
}
