/** What a fader holds, and how it behaves. */
'use client';
import { useState } from 'react';
import { seconds, timeProblem } from '@/core/cues/clock';
import {
  FADER_KEYS,
  FADER_MODES,
  HELD_TABLES,
  OTHERS_COME,
  type FaderRow,
} from '@/core/faders/rows';
import { Button, Check, Choice, Dialog, Field } from '../parts/controls';
import { edit, tryEdit } from '../state/actions';
import { ApiError } from '../state/api';
import { useShow } from '../state/store';

const KINDS = [
  { value: 'list', label: 'A list' },
  { value: 'look', label: 'A look' },
  { value: 'palette', label: 'A palette' },
  { value: 'group', label: 'A group' },
  { value: 'effect', label: 'An effect' },
] as const;
type Kind = (typeof KINDS)[number]['value'];
const MODE_WORDS = {
  proportional: 'Brings up',
  inhibiting: 'Takes away',
  rate: 'Paces',
  size: 'Sizes',
} as const;

const KEY_WORDS: Record<FaderRow['flash'], string> = {
  full: 'full while it is pressed',
  solo: 'alone, at full, while it is pressed',
  toggle: 'up, and down again',
  go: 'GO of the list',
};
type Come = (typeof OTHERS_COME)[number];
const COME_WORDS: Record<Come, string> = {
  raised: 'as it is raised',
  travel: 'over its travel',
  at: 'where it passes a level',
};

export function FaderDialog({ fader, onClose }: { fader: FaderRow | null; onClose: () => void }) {
  const show = useShow();
  const rows = (kind: Kind): { id: string; number: number; name: string }[] =>
    [...show[HELD_TABLES[kind]].values()].sort((a, b) => a.number - b.number);
  const [kind, setKind] = useState<Kind>(fader?.holds.kind ?? 'list');
  const [id, setId] = useState(fader?.holds.id ?? rows('list')[0]?.id ?? '');
  const [name, setName] = useState(fader?.name ?? '');
  const [number, setNumber] = useState(fader ? String(fader.number) : '');
  const [mode, setMode] = useState<FaderRow['mode']>(fader?.mode ?? 'proportional');
  const [flash, setFlash] = useState<FaderRow['flash']>(fader?.flash ?? 'full');
  const [starts, setStarts] = useState(fader?.startsWhenRaised ?? false);
  const [inTime, setInTime] = useState(fader?.inListTime ?? false);
  const [releases, setReleases] = useState(fader?.releasesAtZero ?? false);
  const [keeps, setKeeps] = useState(fader?.keepsThroughRelease ?? false);
  const [priority, setPriority] = useState(String(fader?.priority ?? 50));
  const [come, setCome] = useState<Come>(fader?.others?.come ?? 'raised');
  const [at, setAt] = useState(String(Math.round((fader?.others?.at ?? 0.5) * 100)));
  const [own, setOwn] = useState(String(fader?.others?.time_s ?? ''));
  const [asking, setAsking] = useState(false);
  const held = rows(kind).find((r) => r.id === id);
  const hasOthers = kind === 'look' || kind === 'palette';
  const wrongTime = own.trim() === '' ? undefined : timeProblem(own);
  const time_s = own.trim() === '' ? undefined : seconds(own);
  const others = {
    come,
    ...(come === 'at' ? { at: Number(at) / 100 } : {}),
    ...(come === 'travel' || time_s === undefined ? {} : { time_s }),
  };
  const plain = come === 'raised' && time_s === undefined;
  const keys = FADER_KEYS.filter((k) => k !== 'go' || kind === 'list');
  const set = {
    name: name.trim() || held?.name || '',
    holds: { kind, id },
    mode,
    flash: keys.includes(flash) ? flash : 'full',
    ...(hasOthers && mode === 'proportional' && !plain ? { others } : {}),
    ...(number.trim() === '' ? {} : { number: Number(number) }),
    ...(starts && kind === 'list' ? { startsWhenRaised: true } : {}),
    ...(inTime && starts && kind === 'list' ? { inListTime: true } : {}),
    ...(releases && kind === 'list' ? { releasesAtZero: true } : {}),
    ...(keeps ? { keepsThroughRelease: true } : {}),
    ...(priority.trim() === '50' ? {} : { priority: Number(priority) }),
  };
  const params = { ...(fader ? { id: fader.id } : {}), set };
  const plan = tryEdit('set-fader', params);
  const remove = fader ? tryEdit('delete-fader', { id: fader.id }) : undefined;
  const modes = FADER_MODES.filter((m) =>
    kind === 'effect'
      ? m === 'size' || m === 'rate'
      : kind === 'list'
        ? m !== 'size'
        : m === 'proportional' || m === 'inhibiting',
  );
  return (
    <Dialog
      of={fader ? `faders/${fader.id}` : undefined}
      open
      onOpenChange={(o) => !o && onClose()}
      title={fader ? `Fader ${fader.number} “${fader.name}”` : 'New fader'}
      width="w-[520px]"
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void edit('set-fader', params).then((answer) => {
            if (!(answer instanceof ApiError)) onClose();
          });
        }}
      >
        <div className="grid grid-cols-[120px_1fr] gap-3">
          <Choice
            label="Holds"
            value={kind}
            onChange={(e) => {
              const next = e.target.value as Kind;
              setKind(next);
              setId(rows(next)[0]?.id ?? '');
              setMode(next === 'effect' ? 'size' : 'proportional');
            }}
            options={KINDS}
          />
          <Choice
            label="Which"
            value={id}
            onChange={(e) => setId(e.target.value)}
            options={rows(kind).map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))}
          />
        </div>
        <div className="mt-3 grid grid-cols-[72px_1fr_72px] gap-3">
          <Field
            label="Number"
            number
            value={number}
            placeholder="next"
            onChange={(e) => setNumber(e.target.value)}
          />
          <Field
            label="Name"
            value={name}
            placeholder={held?.name ?? ''}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
          />
          <Field
            label="Priority"
            number
            value={priority}
            onChange={(e) => setPriority(e.target.value)}
          />
        </div>
        <div className="mt-3 grid grid-cols-2 gap-3">
          <Choice
            label="It"
            value={mode}
            onChange={(e) => setMode(e.target.value as FaderRow['mode'])}
            options={modes.map((m) => ({ value: m, label: MODE_WORDS[m] }))}
          />
          <Choice
            label="The key under it"
            value={keys.includes(flash) ? flash : 'full'}
            onChange={(e) => setFlash(e.target.value as FaderRow['flash'])}
            options={keys.map((k) => ({ value: k, label: KEY_WORDS[k] }))}
          />
        </div>
        {hasOthers && mode === 'proportional' && (
          <div className="mt-3 grid grid-cols-[1fr_72px_88px] items-end gap-3">
            <Choice
              label="Colour, position and beam come"
              value={come}
              onChange={(e) => setCome(e.target.value as Come)}
              options={OTHERS_COME.map((c) => ({ value: c, label: COME_WORDS[c] }))}
            />
            {come === 'at' && (
              <Field
                label="At, percent"
                number
                value={at}
                onChange={(e) => setAt(e.target.value)}
              />
            )}
            {come !== 'travel' && (
              <Field
                label="In, seconds"
                number
                value={own}
                placeholder="0"
                onChange={(e) => setOwn(e.target.value)}
                problem={wrongTime}
              />
            )}
          </div>
        )}
        <div className="mt-2 flex flex-wrap gap-x-5">
          {kind === 'list' && (
            <>
              <Check checked={starts} onChange={setStarts}>
                Starts when raised
              </Check>
              {starts && (
                <Check checked={inTime} onChange={setInTime}>
                  In the cue’s own time
                </Check>
              )}
              <Check checked={releases} onChange={setReleases}>
                Releases at zero
              </Check>
            </>
          )}
          <Check checked={keeps} onChange={setKeeps}>
            Keeps through release
          </Check>
        </div>
        <p
          className={`mt-2 min-h-5 text-[12.5px] ${'summary' in plan ? 'text-soft' : 'text-warning'}`}
        >
          {'summary' in plan ? '' : plan.message}
        </p>
        <div className="mt-2 flex gap-2">
          {fader && (
            <Button
              kind={asking ? 'danger' : 'quiet'}
              onClick={() => {
                if (!asking) setAsking(true);
                else void edit('delete-fader', { id: fader.id }).then(onClose);
              }}
            >
              {asking && remove && 'summary' in remove
                ? `${remove.summary.replace('Deleted', 'Delete')}?`
                : 'Delete …'}
            </Button>
          )}
          <span className="ml-auto flex gap-2">
            <Button kind="quiet" onClick={onClose}>
              Not now
            </Button>
            <Button
              kind="strong"
              type="submit"
              disabled={!('summary' in plan) || wrongTime !== undefined}
            >
              {fader ? 'Change it' : 'Make it'}
            </Button>
          </span>
        </div>
      </form>
    </Dialog>
  );
}
