/** Coming together: what would come in, what both sides changed, decided one by one or by rule, and how cues would look. */
'use client';
import { useEffect, useMemo, useState } from 'react';
import { notice } from '../state/messages';
import { consequences, type Consequence } from '@/core/cues/consequences';
import { formatCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import type { Item } from '@/core/show/compare';
import { sectionsOfCues } from '@/core/script/sections';
import type { Conflict, Rule } from '@/core/show/merge';
import type { Side } from '@/core/show/merge-fates';
import type { RowChange } from '@/core/show/show';
import { Button, Choice } from '../parts/controls';
import { lightsIn, SmallStage } from '../parts/small-stage';
import { api, ApiError } from '../state/api';
import { useScreen, useShow } from '../state/store';
import { PaneHead } from './PaneHead';
import type { OtherShow } from './types';
import { Compared } from './Compared';
import { useSend } from './use-load';
import { useParts } from '../state/use-parts';

interface Preview {
  said: string;
  items: Item[];
  itemCount: number;
  conflicts: Conflict[];
  conflictCount: number;
  open: number;
  notes: string[];
  changes: RowChange[];
  seq: number;
}
const SHOWN = 100;
const MORE = 200;

/** The scopes that a rule can have in this show. */
function useScopes(): { value: string; label: string; rule: Omit<Rule, 'side'> }[] {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  return useMemo(() => {
    void revision;
    const acts = [...new Set([...sectionsOfCues(show).values()].map((s) => s.act).filter(Boolean))];
    return [
      { value: 'all', label: 'everything', rule: {} },
      ...acts.map((act) => ({ value: `act/${act}`, label: act, rule: { act } })),
      ...(show.lists.size > 1
        ? [...show.lists.values()].map((l) => ({
            value: `list/${l.id}`,
            label: `list ${l.name}`,
            rule: { listId: l.id },
          }))
        : []),
      {
        value: 'patch',
        label: 'the patch',
        rule: {
          tables: [
            'fixtures' as const,
            'types' as const,
            'routes' as const,
            'circuits' as const,
            'universes' as const,
          ],
        },
      },
      {
        value: 'palettes',
        label: 'palettes and looks',
        rule: {
          tables: ['palettes' as const, 'looks' as const, 'groups' as const, 'effects' as const],
        },
      },
      {
        value: 'script',
        label: 'the script',
        rule: { tables: ['scripts' as const, 'calls' as const] },
      },
    ];
  }, [show, revision]);
}

/** What a merge with these decisions would do, asked anew whenever one of them or the show changes. */
function usePreview(
  other: OtherShow,
  rules: readonly Rule[],
  choices: Readonly<Record<string, Side>>,
): { preview: Preview | undefined; problem: ApiError | undefined } {
  const { showId, seq } = useParts(useScreen, 'showId', 'seq');
  const [preview, setPreview] = useState<Preview>();
  const [problem, setProblem] = useState<ApiError>();
  useEffect(() => {
    let current = true;
    api<Preview>(`/api/shows/${showId}/merge`, {
      method: 'POST',
      body: JSON.stringify({ from: other.from, rules, choices, preview: true }),
    }).then(
      (p) => current && (setPreview(p), setProblem(undefined)),
      (error: unknown) =>
        current &&
        setProblem(error instanceof ApiError ? error : new ApiError(0, 'unknown', String(error))),
    );
    return () => {
      current = false;
    };
  }, [showId, other, rules, choices, seq]);
  return { preview, problem };
}

/** Merges another show, conflict by conflict. */
export function MergeView({
  other,
  onDone,
  onParts,
}: {
  other: OtherShow;
  onDone: () => void;
  onParts: () => void;
}) {
  const showId = useScreen((s) => s.showId);
  const send = useSend();
  const [rules, setRules] = useState<readonly Rule[]>([]);
  const [choices, setChoices] = useState<Readonly<Record<string, Side>>>({});
  const { preview, problem } = usePreview(other, rules, choices);
  const [busy, setBusy] = useState(false);

  const merge = async (): Promise<void> => {
    setBusy(true);
    const done = await send<{ summary: string }>(`/api/shows/${showId}/merge`, 'POST', {
      from: other.from,
      rules,
      choices,
    });
    setBusy(false);
    if (!done) return;
    notice.done(`${done.summary}. One undo takes it all back.`);
    onDone();
  };
  return (
    <div className="flex h-full flex-col">
      <PaneHead title={`Merge “${other.name}” into this show`} onBack={onDone}>
        {preview && <span className="text-[12.5px] text-muted">{preview.said}</span>}
        <span className="ml-auto text-[12.5px]" data-testid="merge-open">
          {preview && <Undecided open={preview.open} />}
        </span>
        <Button
          kind="strong"
          disabled={busy || !preview || preview.open > 0 || preview.itemCount === 0}
          onClick={() => void merge()}
        >
          Merge, all of it
        </Button>
      </PaneHead>
      {problem && (
        <div className="p-5">
          <p className="max-w-lg text-warning">{problem.message}</p>
          {problem.code === 'unrelated' && (
            <Button className="mt-3" onClick={onParts}>
              Bring in parts …
            </Button>
          )}
        </div>
      )}
      {!preview && !problem && <p className="p-5 text-muted">Comparing both sides …</p>}
      {preview && !problem && (
        <div className="grid min-h-0 flex-1 grid-cols-2">
          <section
            aria-label="Conflicts"
            className="flex min-h-0 flex-col border-r border-line px-4 py-3"
          >
            <h3 className="text-[13.5px] font-semibold">
              Changed on both sides{' '}
              <span className="font-normal text-muted">{preview.conflictCount}</span>
            </h3>
            {preview.conflictCount > 0 && <ByRule rules={rules} setRules={setRules} />}
            <Conflicts
              conflicts={preview.conflicts}
              onChoose={(key, side) => setChoices({ ...choices, [key]: side })}
            />
          </section>
          <WhatComesIn preview={preview} />
        </div>
      )}
    </div>
  );
}

const Undecided = ({ open }: { open: number }) =>
  open > 0 ? (
    <span className="text-warning">{plural(open, 'conflict')} to decide</span>
  ) : (
    <span className="text-soft">nothing is undecided</span>
  );

/** Many conflicts at once: of which part of the show which side counts. */
function ByRule({
  rules,
  setRules,
}: {
  rules: readonly Rule[];
  setRules: (rules: readonly Rule[]) => void;
}) {
  const show = useShow();
  const scopes = useScopes();
  const [scope, setScope] = useState('all');
  const add = (side: Side): void => {
    const chosen = scopes.find((s) => s.value === scope);
    if (chosen) setRules([...rules, { ...chosen.rule, side }]);
  };
  const listName = (id: string): string | undefined => show.lists.get(id)?.name;
  const scopeOf = (r: Rule): string =>
    r.act ??
    r.scene ??
    (r.listId === undefined ? undefined : listName(r.listId)) ??
    (r.tables ? 'some kinds' : 'everything');
  return (
    <>
      <div className="mt-2 flex items-end gap-2">
        <Choice
          label="By rule: for"
          className="w-52"
          value={scope}
          onChange={(e) => setScope(e.target.value)}
          options={scopes}
        />
        <Button onClick={() => add('ours')}>this show’s</Button>
        <Button onClick={() => add('theirs')}>the copy’s</Button>
        {rules.length > 0 && (
          <Button kind="quiet" onClick={() => setRules(rules.slice(0, -1))}>
            Take the last rule back
          </Button>
        )}
      </div>
      {rules.length > 0 && (
        <p className="mt-1 text-[12px] text-muted">
          {rules
            .map((r) => `${r.side === 'ours' ? 'this show’s' : 'the copy’s'} for ${scopeOf(r)}`)
            .join(', then ')}
        </p>
      )}
    </>
  );
}

function Conflicts({
  conflicts,
  onChoose,
}: {
  conflicts: readonly Conflict[];
  onChoose: (key: string, side: Side) => void;
}) {
  const [shown, setShown] = useState(SHOWN);
  return (
    <ul className="mt-2 min-h-0 flex-1 overflow-y-auto">
      {conflicts.length === 0 && (
        <li className="text-muted">Nothing: both sides worked on different things.</li>
      )}
      {conflicts.slice(0, shown).map((c) => (
        <ConflictItem key={c.key} conflict={c} onChoose={(side) => onChoose(c.key, side)} />
      ))}
      {conflicts.length > shown && (
        <li>
          <Button kind="quiet" onClick={() => setShown(shown + MORE)}>
            {conflicts.length - shown} more
          </Button>
        </li>
      )}
    </ul>
  );
}

/** What was, and what each side made of it. */
function ConflictItem({
  conflict: c,
  onChoose,
}: {
  conflict: Conflict;
  onChoose: (side: Side) => void;
}) {
  return (
    <li data-conflict={c.key} className="border-b border-raised py-1.5">
      <div className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 truncate font-medium" title={c.title}>
          {c.title}
        </span>
        {(c.path.length > 0 || c.table === 'values') && (
          <span className="text-[12px] whitespace-nowrap text-muted">was {c.base}</span>
        )}
      </div>
      <div className="mt-1 grid grid-cols-2 gap-2">
        {(['ours', 'theirs'] as const).map((side) => (
          <button
            key={side}
            type="button"
            aria-pressed={c.chosen === side}
            onClick={() => onChoose(side)}
            className={`min-h-9 rounded-md px-2 py-1 text-left text-[12.5px] ${c.chosen === side ? 'bg-standby-wash shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}
          >
            <span className="block text-[11px] text-muted">
              {side === 'ours' ? 'This show' : 'The copy'}
            </span>
            <span className="[overflow-wrap:anywhere]">{c[side]}</span>
          </button>
        ))}
      </div>
    </li>
  );
}

function WhatComesIn({ preview }: { preview: Preview }) {
  const show = useShow();
  const looks = useMemo(
    () => (preview.changes.length > 0 ? consequences(show, preview.changes) : []),
    [preview, show],
  );
  return (
    <section aria-label="What comes in" className="min-h-0 overflow-y-auto px-4 py-3">
      <h3 className="text-[13.5px] font-semibold">
        What comes in <span className="font-normal text-muted">{preview.itemCount}</span>
      </h3>
      {looks.length > 0 && (
        <div className="mt-2">
          <StagePreview looks={looks} />
        </div>
      )}
      {preview.notes.map((n) => (
        <p key={n} className="mt-2 text-[12.5px] text-warning">
          {n}
        </p>
      ))}
      <div className="mt-3">
        <Compared items={preview.items} before="now" after="after the merge" />
      </div>
    </section>
  );
}

/** The stage in a cue that will look different, as it is and as it would be. */
function StagePreview({ looks }: { looks: readonly Consequence[] }) {
  const show = useShow();
  const [picked, setPicked] = useState('');
  const look = looks.find((l) => l.cueId === picked) ?? looks[0];
  const pictures = useMemo(
    () =>
      look
        ? (['before', 'after'] as const).map((side) => ({
            side,
            lights: lightsIn(show, look, side),
          }))
        : [],
    [show, look],
  );
  if (!look) return null;
  return (
    <div className="flex items-end gap-3">
      <Choice
        label={`${plural(looks.length, 'cue')} ${looks.length === 1 ? 'looks' : 'look'} different`}
        className="w-44"
        value={look.cueId}
        onChange={(e) => setPicked(e.target.value)}
        options={looks
          .slice(0, 500)
          .map((l) => ({ value: l.cueId, label: `${formatCueNumber(l.number)} ${l.name}` }))}
      />
      {pictures.map(({ side, lights }) => (
        <figure key={side} className="min-w-0 flex-1">
          <SmallStage
            wide
            lights={lights}
            label={`Cue ${formatCueNumber(look.number)} ${side === 'before' ? 'as it is' : 'after the merge'}`}
          />
          <figcaption className="mt-0.5 text-[11.5px] text-muted">
            {side === 'before' ? 'as it is' : 'after the merge'}
          </figcaption>
        </figure>
      ))}
    </div>
  );
}
