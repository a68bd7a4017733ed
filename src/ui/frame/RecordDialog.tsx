/** Record: where to, under which name and times, which values, how, and what else will look different. */
'use client';
import { parseCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import { AfterChoice, Others, PaletteChoice, Pictures } from '../book/record';
import { Check, Choice, Dialog, Field, Tabs } from '../parts/controls';
import type { RecordFilter } from '../state/recording';
import { unrecordedCount, useScreen, useShow } from '../state/store';
import { afterOf, NEW_LIST, useRecord, wrongTime, type Recording } from './record/use-record';
import { useWhich, Which } from './record/Which';
import { Foot } from '../parts/Foot';

const HOW = [
  { value: 'merge', label: 'Add to it' },
  { value: 'over', label: 'In its place' },
  { value: 'remove', label: 'Take out of it' },
] as const;
const HOW_WORDS = {
  merge: 'its other values stay',
  over: 'what it sets besides goes',
  remove: 'these are taken out of it',
} as const;

interface Of {
  record: Recording;
}

/** Records what is held into a cue, and says before what that does. */
export function RecordDialog({ onClose }: { onClose: () => void }) {
  const which = useWhich();
  const record = useRecord(which.filter, onClose);
  const held = unrecordedCount(useScreen((s) => s.values));
  const { draft, put, existing } = record;
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      width="w-[560px]"
      title="Record a cue"
      about={about(which.filter, record.count, held)}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void record.save();
        }}
      >
        <Where record={record} />
        {!record.isNew && <Places record={record} />}
        <Times record={record} />
        <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line pt-2.5">
          <Which which={which} />
          {existing && (
            <Tabs label="How" value={draft.how} options={HOW} onChange={(how) => put({ how })} />
          )}
        </div>
        <Outcome record={record} />
        <Foot className="mt-3" onLeave={onClose} act={actWords(record)} disabled={!record.may} />
      </form>
    </Dialog>
  );
}

/** What would be taken. */
function about(filter: RecordFilter, count: number, held: number): string {
  if (filter.from === 'stage') return `${plural(count, 'value')}: all that is lit now.`;
  if (held === 0)
    return 'You hold nothing that is not recorded: this makes an empty cue that shows what tracks into it.';
  const of = count < held ? ` of ${held}` : '';
  return `${plural(count, 'value')} from your programmer${of}. A cue stores only what changes.`;
}

function actWords({ isNew, draft, existing }: Recording): string {
  if (isNew) return draft.fader ? 'Record it, under a fader' : 'Record the list';
  if (!existing) return `Record cue ${draft.number}`;
  return draft.after === 'source' ? 'Update at the source' : `Record into cue ${draft.number}`;
}

function Where({ record }: Of) {
  const show = useShow();
  const { draft, put, isNew, existing, plan } = record;
  return (
    <div className="grid grid-cols-[88px_1fr_150px] gap-3">
      <Field
        label="Cue"
        number
        autoFocus
        value={isNew ? '1' : draft.number}
        disabled={isNew}
        onChange={(e) => put({ number: e.target.value })}
        onFocus={(e) => e.target.select()}
        problem={parseCueNumber(draft.number) === undefined ? 'Like 2, 2.5 or 10.125' : undefined}
      />
      <Field
        label={isNew ? 'Name of the list' : 'Name'}
        value={draft.name}
        maxLength={120}
        placeholder={existing?.name ?? ''}
        onChange={(e) => put({ name: e.target.value })}
        problem={plan?.fields?.name}
      />
      <Choice
        label="List"
        value={draft.listId}
        onChange={(e) => put({ listId: e.target.value })}
        options={[
          ...[...show.lists.values()].map((l) => ({ value: l.id, label: l.name })),
          { value: NEW_LIST, label: 'a new list …' },
        ]}
      />
    </div>
  );
}

function Places({ record: { draft, put, places } }: Of) {
  return (
    <div className="mt-1.5 flex flex-wrap gap-1.5">
      {places.map(({ says, number }) => (
        <button
          key={says}
          type="button"
          disabled={number === undefined}
          aria-pressed={number === draft.number}
          onClick={() => number && put({ number })}
          className={`h-6 rounded px-2 text-[12px] disabled:text-faint ${number === draft.number ? 'bg-standby-wash text-standby' : 'bg-raised text-soft hover:bg-lift'}`}
        >
          {says}
        </button>
      ))}
    </div>
  );
}

/** Seconds where nothing says otherwise. */
const USUAL_S = 3;

function Times({ record: { draft, put, existing, isNew } }: Of) {
  return (
    <div className="mt-3 grid grid-cols-[88px_88px_1fr] gap-3">
      <Field
        label="Up, seconds"
        number
        value={draft.up}
        placeholder={String(existing?.up_s ?? USUAL_S)}
        onChange={(e) => put({ up: e.target.value })}
        problem={wrongTime(draft.up)}
      />
      <Field
        label="Down, seconds"
        number
        value={draft.down}
        placeholder={draft.up || String(existing?.down_s ?? USUAL_S)}
        onChange={(e) => put({ down: e.target.value })}
        problem={wrongTime(draft.down)}
      />
      {isNew ? (
        <span className="self-end pb-1.5">
          <Check checked={draft.fader} onChange={(fader) => put({ fader })}>
            Under the first free fader
          </Check>
        </span>
      ) : (
        <AfterChoice
          value={afterOf(draft, existing !== undefined)}
          onChange={(after) => put({ after })}
          disabled={!existing}
        />
      )}
    </div>
  );
}

/** What will be, before it is: in words, and in pictures of what looks different elsewhere. */
function Outcome({ record }: Of) {
  const { draft, put, existing, isNew, plan, problem } = record;
  return (
    <div className="mt-3 min-h-12" data-testid="consequences">
      {existing && !plan?.problem && (
        <p className="text-[12.5px] text-soft">{`Cue ${draft.number} exists${existing.name ? ` (${existing.name})` : ''}: ${HOW_WORDS[draft.how]}.`}</p>
      )}
      {isNew && <p className="text-[12.5px] leading-[18px] text-soft">{newListWords(record)}</p>}
      {plan && !isNew && <Others plan={plan} into={`cue ${draft.number}`} />}
      {plan && plan.others.length > 0 && (
        <div className="mt-1.5">
          <Pictures others={plan.others} />
        </div>
      )}
      {plan && draft.after === 'source' && existing && (
        <PaletteChoice
          plan={plan}
          value={draft.palettes}
          onChange={(palettes) => put({ palettes })}
        />
      )}
      {problem && <span className="block text-danger">{problem}</span>}
    </div>
  );
}

function newListWords({ newList }: Recording): string {
  if (!newList) return 'Say what the list is called.';
  return 'summary' in newList.plan ? newList.plan.summary : newList.plan.message;
}
