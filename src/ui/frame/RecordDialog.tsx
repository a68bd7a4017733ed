/** Record: where to, under which name and times, which values, how, and what else will look different. */
'use client';
import { useMemo, useState } from 'react';
import { seconds, timeProblem } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import type { CueRow } from '@/core/cues/rows';
import { AfterChoice, doRecord, Others, PaletteChoice, Pictures } from '../book/record';
import { Button, Check, Choice, Dialog, Field, Tabs } from '../parts/controls';
import { useTakenCue } from '../state/taken';
import { ApiError } from '../state/api';
import { edit, listShown, recordValues, tryEdit } from '../state/actions';
import { useBook } from '../state/book';
import { planRecord, type After } from '../state/planned';
import { unrecordedCount, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { endOf, placesIn } from './record/places';
import { useWhich, Which } from './record/Which';

/** In place of a list's id. */
const NEW_LIST = 'new';

const HOW = [
  { value: 'merge', label: 'Add to it' },
  { value: 'over', label: 'In its place' },
  { value: 'remove', label: 'Take out of it' },
] as const;

export function RecordDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const { values, playback } = useParts(useScreen, 'values', 'playback');
  const taken = useTakenCue();
  const [listId, setListId] = useState(() => taken?.listId ?? listShown() ?? '');
  const cues = show.cuesOf(listId);
  const looked = useBook((s) => s.cueId);
  const onStage = show.cues.get(playback.lists.find((l) => l.id === listId)?.cueId ?? '');
  const lookedAt = show.cues.get(looked ?? '');
  const end = endOf(cues);
  const [number, setNumber] = useState(taken ? formatCueNumber(taken.number) : end);
  const [name, setName] = useState('');
  const [up, setUp] = useState('');
  const [down, setDown] = useState('');
  const [after, setAfter] = useState<After>('track');
  const [how, setHow] = useState<(typeof HOW)[number]['value']>('merge');
  const which = useWhich();
  const { filter } = which;
  const [palettes, setPalettes] = useState<'palette' | 'cue'>('palette');
  const [fader, setFader] = useState(true);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();

  const parsed = parseCueNumber(number);
  const existing = cues.find((c) => c.number === parsed);
  const wrongTime = (text: string): string | undefined =>
    text.trim() === '' ? undefined : timeProblem(text);
  const held = unrecordedCount(values);
  const plan = useMemo(() => {
    if (parsed === undefined || wrongTime(up) || wrongTime(down)) return undefined;
    const [upTime, downTime] = [seconds(up), seconds(down)];
    const times = {
      ...(upTime === undefined ? {} : { up_s: upTime, down_s: downTime ?? upTime }),
      ...(upTime === undefined && downTime !== undefined ? { down_s: downTime } : {}),
    };
    return planRecord(
      {
        listId,
        number: parsed,
        ...(name.trim() ? { name: name.trim() } : {}),
        ...times,
        how,
        mode: 'track',
        existing: 'may',
      },
      filter,
      existing ? after : after === 'source' ? 'track' : after,
      palettes,
    );
  }, [parsed, up, down, listId, name, how, filter, after, palettes, existing]);
  const isNew = listId === NEW_LIST;
  const fresh = useMemo(() => {
    if (!isNew || name.trim() === '' || wrongTime(up) || wrongTime(down)) return undefined;
    const [up_s, down_s] = [seconds(up), seconds(down)];
    const params = {
      name: name.trim(),
      ...(up_s === undefined ? {} : { up_s }),
      ...(down_s === undefined ? {} : { down_s }),
      values: recordValues(filter),
      fader,
    };
    return { params, plan: tryEdit('record-list', params) };
  }, [isNew, name, up, down, filter, fader]);
  const count = useMemo(() => recordValues(filter).length, [filter]);

  const saveList = async (): Promise<void> => {
    if (!fresh) return;
    setBusy(true);
    const answer = await edit('record-list', fresh.params);
    setBusy(false);
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };
  const save = async (): Promise<void> => {
    if (!plan) return;
    setBusy(true);
    const wrong = await doRecord(plan);
    setBusy(false);
    if (wrong) setProblem(wrong);
    else onClose();
  };
  const inList = (c: CueRow | undefined): CueRow | undefined =>
    c?.listId === listId ? c : undefined;
  const places = placesIn(cues, {
    taken: inList(taken),
    onStage,
    looked: inList(lookedAt),
  });

  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      width="w-[560px]"
      title="Record a cue"
      about={
        filter.from === 'stage'
          ? `${plural(count, 'value')}: all that is lit now.`
          : held === 0
            ? 'You hold nothing that is not recorded: this makes an empty cue that shows what tracks into it.'
            : `${plural(count, 'value')} from your programmer${count < held ? ` of ${held}` : ''}. A cue stores only what changes.`
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void (isNew ? saveList() : save());
        }}
      >
        <div className="grid grid-cols-[88px_1fr_150px] gap-3">
          <Field
            label="Cue"
            number
            autoFocus
            value={isNew ? '1' : number}
            disabled={isNew}
            onChange={(e) => setNumber(e.target.value)}
            onFocus={(e) => e.target.select()}
            problem={parsed === undefined ? 'Like 2, 2.5 or 10.125' : undefined}
          />
          <Field
            label={isNew ? 'Name of the list' : 'Name'}
            value={name}
            maxLength={120}
            placeholder={existing?.name ?? ''}
            onChange={(e) => setName(e.target.value)}
            problem={plan?.fields?.name}
          />
          <Choice
            label="List"
            value={listId}
            onChange={(e) => setListId(e.target.value)}
            options={[
              ...[...show.lists.values()].map((l) => ({ value: l.id, label: l.name })),
              { value: NEW_LIST, label: 'a new list …' },
            ]}
          />
        </div>
        <div className={`mt-1.5 flex flex-wrap gap-1.5 ${isNew ? 'hidden' : ''}`}>
          {places.map((p) => (
            <button
              key={p.says}
              type="button"
              disabled={p.number === undefined}
              aria-pressed={p.number === number}
              onClick={() => p.number && setNumber(p.number)}
              className={`h-6 rounded px-2 text-[12px] disabled:text-faint ${p.number === number ? 'bg-standby-wash text-standby' : 'bg-raised text-soft hover:bg-lift'}`}
            >
              {p.says}
            </button>
          ))}
        </div>
        <div className="mt-3 grid grid-cols-[88px_88px_1fr] gap-3">
          <Field
            label="Up, seconds"
            number
            value={up}
            placeholder={String(existing?.up_s ?? 3)}
            onChange={(e) => setUp(e.target.value)}
            problem={wrongTime(up)}
          />
          <Field
            label="Down, seconds"
            number
            value={down}
            placeholder={up || String(existing?.down_s ?? 3)}
            onChange={(e) => setDown(e.target.value)}
            problem={wrongTime(down)}
          />
          {isNew ? (
            <span className="self-end pb-1.5">
              <Check checked={fader} onChange={setFader}>
                Under the first free fader
              </Check>
            </span>
          ) : (
            <AfterChoice
              value={existing ? after : after === 'source' ? 'track' : after}
              onChange={setAfter}
              disabled={!existing}
            />
          )}
        </div>
        <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line pt-2.5">
          <Which which={which} />
          {existing && <Tabs label="How" value={how} options={HOW} onChange={setHow} />}
        </div>
        <div className="mt-3 min-h-12" data-testid="consequences">
          {existing && !plan?.problem && (
            <p className="text-[12.5px] text-soft">{`Cue ${number} exists${existing.name ? ` (${existing.name})` : ''}: ${how === 'over' ? 'what it sets besides goes' : how === 'remove' ? 'these are taken out of it' : 'its other values stay'}.`}</p>
          )}
          {isNew && (
            <p className="text-[12.5px] leading-[18px] text-soft">
              {fresh
                ? 'summary' in fresh.plan
                  ? fresh.plan.summary
                  : fresh.plan.message
                : 'Say what the list is called.'}
            </p>
          )}
          {plan && !isNew && <Others plan={plan} into={`cue ${number}`} />}
          {plan && plan.others.length > 0 && (
            <div className="mt-1.5">
              <Pictures others={plan.others} />
            </div>
          )}
          {plan && after === 'source' && existing && (
            <PaletteChoice plan={plan} value={palettes} onChange={setPalettes} />
          )}
          {problem && <span className="block text-danger">{problem}</span>}
        </div>
        <div className="mt-3 flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button
            kind="strong"
            type="submit"
            disabled={
              busy ||
              (isNew ? !fresh || !('summary' in fresh.plan) : !plan || plan.problem !== undefined)
            }
          >
            {isNew
              ? fader
                ? 'Record it, under a fader'
                : 'Record the list'
              : existing
                ? after === 'source'
                  ? 'Update at the source'
                  : `Record into cue ${number}`
                : `Record cue ${number}`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
