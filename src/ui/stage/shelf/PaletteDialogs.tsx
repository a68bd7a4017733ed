/** Recording a palette and for whom, updating one with its consequences in sight, renaming, deleting with what becomes of its uses. */
'use client';
import { useMemo, useState } from 'react';
import { consequences } from '@/core/cues/consequences';
import { plural } from '@/core/words';
import { DeleteUsed } from './DeleteUsed';
import { paletteUses } from '@/core/palettes/edits';
import { groupOf } from '@/core/looks/resolve';
import { familyOf } from '@/core/rig/attributes';
import { ofFamily } from '@/core/palettes/resolve';
import { PALETTE_FAMILIES, type PaletteFamily, type PaletteRow } from '@/core/palettes/rows';
import { Button, Check, Choice, Dialog, Field } from '../../parts/controls';
import { edit, tryEdit } from '../../state/edits';
import { heldValues } from '../../state/recording';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { Consequences } from './Consequences';
import { Foot } from '../../parts/Foot';

/** Families of palettes as people read them. */
export const FAMILY_WORDS: Record<PaletteFamily, string> = {
  intensity: 'Intensity',
  position: 'Position',
  colour: 'Colour',
  beam: 'Beam',
};
type Scope = 'fixtures' | 'types' | 'group' | 'any';

/** What a palette of this kind serves besides the units it is made from. */
const SERVES: Partial<Record<Scope, string>> = {
  fixtures: 'If all of them agree, it will serve any other unit too.',
  any: 'Solved for each unit by what it can do.',
};

/** A palette that is about to be recorded: its family, its name, whom it serves, and what it takes. */
function useDraft(first: PaletteFamily) {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const selection = useScreen((s) => s.selection);
  const held = PALETTE_FAMILIES.filter((f) =>
    [...values.values()].some((v) => familyOf(v.attribute) === f),
  );
  const [family, setFamily] = useState<PaletteFamily>(
    held.includes(first) ? first : (held[0] ?? first),
  );
  const [name, setName] = useState('');
  const [scope, setScope] = useState<Scope>('fixtures');
  const [all, setAll] = useState(false);
  const [groupId, setGroupId] = useState(
    groupOf(show, selection) ?? [...show.groups.keys()][0] ?? '',
  );
  const params = {
    family,
    values: heldValues(),
    scope,
    allFamilies: all,
    ...(scope === 'group' ? { group: groupId } : {}),
    ...(name.trim() === '' ? {} : { name: name.trim() }),
  };
  return {
    held,
    family,
    setFamily,
    name,
    setName,
    scope,
    setScope,
    all,
    setAll,
    groupId,
    setGroupId,
    params,
  };
}
type Draft = ReturnType<typeof useDraft>;

/** Records what is held as a palette. */
export function RecordPalette({
  family: first,
  onClose,
}: {
  family: PaletteFamily;
  onClose: () => void;
}) {
  const draft = useDraft(first);
  const plan = tryEdit('record-palette', draft.params);
  const problem = 'message' in plan ? plan.message : undefined;
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Record a palette"
      about="It takes its own family of what you hold, and nothing else unless you say so."
      width="w-[430px]"
    >
      {draft.held.length === 0 ? (
        <p className="text-soft">
          You hold nothing yet. Select fixtures, set them, then record what you see.
        </p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void edit('record-palette', draft.params).then((a) => 'seq' in a && onClose());
          }}
        >
          <DraftFields draft={draft} />
          <Taken draft={draft} problem={problem} />
          <div className="mt-4 flex justify-end">
            <Button kind="strong" type="submit" disabled={problem !== undefined}>
              Record palette
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

function DraftFields({ draft }: { draft: Draft }) {
  const show = useShow();
  const { held, family, scope, all } = draft;
  return (
    <>
      <div className="grid grid-cols-[130px_1fr] gap-3">
        <Choice
          label="Family"
          value={family}
          onChange={(e) => draft.setFamily(e.target.value as PaletteFamily)}
          options={held.map((f) => ({ value: f, label: FAMILY_WORDS[f] }))}
        />
        <Field
          label="Name"
          autoFocus
          value={draft.name}
          maxLength={120}
          onChange={(e) => draft.setName(e.target.value)}
        />
        <Choice
          label="For whom"
          className={scope === 'group' ? '' : 'col-span-2'}
          value={scope}
          onChange={(e) => draft.setScope(e.target.value as Scope)}
          options={[
            { value: 'fixtures', label: 'each of these units' },
            { value: 'types', label: 'all units of their types' },
            ...(show.groups.size > 0 ? [{ value: 'group', label: 'a group' }] : []),
            { value: 'any', label: 'every unit that can do it' },
          ]}
        />
        {scope === 'group' && (
          <Choice
            label="Group"
            value={draft.groupId}
            onChange={(e) => draft.setGroupId(e.target.value)}
            options={[...show.groups.values()]
              .sort((a, b) => a.number - b.number)
              .map((g) => ({ value: g.id, label: `${g.number} ${g.name}` }))}
          />
        )}
      </div>
      <div className="mt-2">
        <Check checked={all} onChange={draft.setAll}>
          Take the other families along as well
        </Check>
      </div>
    </>
  );
}

/** How much goes into it, or why it cannot be recorded so. */
function Taken({
  draft: { params, family, scope, all },
  problem,
}: {
  draft: Draft;
  problem: string | undefined;
}) {
  const taken = all ? params.values : ofFamily(params.values, family);
  const fixtures = new Set(taken.map((v) => v.fixtureId)).size;
  return (
    <p
      className={`mt-2 text-[12.5px] ${problem ? 'text-warning' : 'text-soft'}`}
      role={problem ? 'alert' : undefined}
    >
      {problem ??
        `${plural(taken.length, 'value')} of ${plural(fixtures, 'fixture')}. ${SERVES[scope] ?? ''}`}
    </p>
  );
}

/** Asks before a palette is written anew, naming the cues that will look different. */
export function UpdatePalette({ palette, onClose }: { palette: PaletteRow; onClose: () => void }) {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const revision = useScreen((s) => s.revision);
  const [how, setHow] = useState<'merge' | 'replace'>('merge');
  const { params, refused, found } = useMemo(() => {
    void [values, revision];
    // Said for any unit, it goes on being said for any unit, where what is held is one thing.
    const ask = (scope: 'any' | 'fixtures') => ({
      id: palette.id,
      family: palette.family,
      values: heldValues(),
      how,
      scope,
    });
    const general =
      palette.any && Object.keys(palette.fixtures).length === 0
        ? tryEdit('record-palette', ask('any'))
        : undefined;
    const asked = general && !('message' in general) ? ask('any') : ask('fixtures');
    const plan = general && !('message' in general) ? general : tryEdit('record-palette', asked);
    return {
      params: asked,
      refused: 'message' in plan ? plan.message : undefined,
      found: 'message' in plan ? [] : consequences(show, plan.changes),
    };
  }, [show, palette, values, how, revision]);
  return (
    <Dialog
      of={`palettes/${palette.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Update palette ${palette.number} “${palette.name}”?`}
      width="w-[470px]"
    >
      <Choice
        label="What you hold"
        className="mb-3"
        value={how}
        onChange={(e) => setHow(e.target.value as 'merge' | 'replace')}
        options={[
          { value: 'merge', label: 'is added to it; other units keep theirs' },
          { value: 'replace', label: 'replaces all that it says' },
        ]}
      />
      {refused ? <p className="text-warning">{refused}</p> : <Consequences found={found} />}
      <Foot
        className="mt-4"
        leave="Leave it"
        onLeave={onClose}
        act="Update"
        disabled={refused !== undefined}
        onAct={() => void edit('record-palette', params).then((a) => 'seq' in a && onClose())}
      />
    </Dialog>
  );
}

/** Deletes a palette, and says what becomes of its uses. */
export function DeletePalette({ palette, onClose }: { palette: PaletteRow; onClose: () => void }) {
  const uses = paletteUses(useShow(), palette.id);
  return (
    <DeleteUsed
      of={palette}
      kind="palette"
      title={`Delete palette ${palette.number} “${palette.name}”?`}
      uses={uses}
      none="Nothing follows it."
      keep="Delete, they keep its levels"
      onDelete={(how) => void edit('delete-palette', { id: palette.id, uses: how }).then(onClose)}
      onClose={onClose}
    />
  );
}

/** Where it is used, and in which cues it may be made their own. */
export function Uses({
  title,
  uses,
  palette,
  onClose,
}: {
  title: string;
  uses: readonly { cueId?: string; label: string; values?: number }[];
  /** Of which a cue may have one of its own. */
  palette: string;
  onClose: () => void;
}) {
  const editable = useScreen((s) => mayEdit(s.you.role));
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={title} width="w-[430px]">
      {uses.length === 0 ? (
        <p className="text-soft">Nothing uses it.</p>
      ) : (
        <ul className="max-h-72 overflow-y-auto">
          {uses.map((u) => (
            <li
              key={u.label}
              className="flex h-8 items-center justify-between border-t border-line text-soft first:border-t-0"
            >
              <span className="truncate">{u.label}</span>
              {u.values !== undefined && (
                <span className="num ml-auto text-[12px] text-muted">
                  {plural(u.values, 'value')}
                </span>
              )}
              {editable && u.cueId !== undefined && (
                <Button
                  kind="quiet"
                  className="!h-7"
                  title="This cue gets a copy of its own; the others go on together"
                  onClick={() => void edit('own-palette', { cueId: u.cueId, paletteId: palette })}
                >
                  Make its own
                </Button>
              )}
            </li>
          ))}
        </ul>
      )}
    </Dialog>
  );
}
