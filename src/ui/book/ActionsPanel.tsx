/** What a cue does besides light, each action an icon with words; and the making of one. */
'use client';
import { capital } from '@/core/words';
import {
  AudioLines,
  Hand,
  ListMusic,
  Power,
  Radio,
  SlidersVertical,
  Trash2,
  Wrench,
  Zap,
} from 'lucide-react';
import { useState } from 'react';
import type { CueAction, CueRow } from '@/core/cues/rows';
import { parseCueNumber } from '@/core/cues/number';
import { seconds, timeProblem } from '@/core/cues/clock';
import { LIST_ACTS } from '@/core/cues/rows';
import { Button, Choice, Field, IconButton } from '../parts/controls';
import { edit } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';
import { actionWords } from './words';

const ICONS = {
  list: ListMusic,
  fader: SlidersVertical,
  flash: Zap,
  'release-looks': SlidersVertical,
  'let-off': Hand,
  remotes: Power,
  osc: Radio,
  midi: Radio,
  macro: Wrench,
  sound: AudioLines,
} as const;
const KINDS: readonly { value: CueAction['do']; label: string }[] = [
  { value: 'list', label: 'Another list' },
  { value: 'fader', label: 'A fader' },
  { value: 'flash', label: 'A flash' },
  { value: 'release-looks', label: 'Release all looks' },
  { value: 'let-off', label: 'Let off holds' },
  { value: 'remotes', label: 'Remote controls' },
  { value: 'osc', label: 'OSC message' },
  { value: 'midi', label: 'MIDI message' },
  { value: 'macro', label: 'Control macro' },
  { value: 'sound', label: 'Sound' },
];
const ACT_WORDS = {
  start: 'Start',
  go: 'GO',
  pause: 'Pause',
  release: 'Release',
  goto: 'Go to cue',
} as const;

export function ActionIcon({ action, size = 14 }: { action: CueAction; size?: number }) {
  const Icon = ICONS[action.do];
  return <Icon size={size} className="flex-none text-muted" aria-hidden="true" />;
}

export function ActionsPanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const [adding, setAdding] = useState(false);
  const actions = cue.actions ?? [];
  const put = (next: CueAction[]): void =>
    void edit('change-cue', { id: cue.id, set: { actions: next } });
  return (
    <div className="space-y-1.5 overflow-y-auto px-3.5 pb-3 text-[12.5px]">
      {actions.length === 0 && !adding && (
        <p className="leading-[18px] text-muted">
          On its GO a cue can also start other lists, move faders, send OSC and MIDI, or start a
          sound. An action that fails is reported and never stops the cue.
        </p>
      )}
      <ul>
        {actions.map((a, i) => (
          <li key={i} className="flex h-8 items-center gap-2 border-t border-line first:border-t-0">
            <ActionIcon action={a} />
            <span className="min-w-0 flex-1 truncate">{actionWords(show, a)}</span>
            <IconButton
              label={`Take off: ${actionWords(show, a)}`}
              disabled={disabled}
              onClick={() => put(actions.filter((_, n) => n !== i))}
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {adding ? (
        <ActionForm
          onDone={(a) => {
            setAdding(false);
            if (a) put([...actions, a]);
          }}
        />
      ) : (
        <Button kind="line" disabled={disabled} onClick={() => setAdding(true)}>
          New action
        </Button>
      )}
    </div>
  );
}

/** Bytes of a file as a data URL of a type that sounds have. */
function readSound(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('This file cannot be read.'));
    reader.readAsDataURL(file);
  });
}

function ActionForm({ onDone }: { onDone: (action: CueAction | null) => void }) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  const faders = [...show.faders.values()].sort((a, b) => a.number - b.number);
  const sounds = [...show.sounds.values()];
  const macros = [
    ...new Set(
      selection.flatMap(
        (id) =>
          show.types.get(show.fixtures.get(id)?.typeId ?? '')?.macros?.map((m) => m.name) ?? [],
      ),
    ),
  ];
  const [kind, setKind] = useState<CueAction['do']>('list');
  const [list, setList] = useState(lists.at(-1)?.id ?? '');
  const [what, setWhat] = useState<(typeof LIST_ACTS)[number]>('start');
  const [cue, setCue] = useState('1');
  const [fader, setFader] = useState(faders[0]?.id ?? '');
  const [level, setLevel] = useState('100');
  const [time, setTime] = useState('0');
  const [on, setOn] = useState('on');
  const [address, setAddress] = useState('/');
  const [args, setArgs] = useState('');
  const [midi, setMidi] = useState<{
    kind: 'note-on' | 'note-off' | 'control' | 'program';
    channel: string;
    number: string;
    value: string;
  }>({ kind: 'note-on', channel: '1', number: '60', value: '127' });
  const [macro, setMacro] = useState(macros[0] ?? '');
  const [sound, setSound] = useState(sounds[0]?.id ?? '');
  const [problem, setProblem] = useState<string>();
  const whole = (t: string, low: number, high: number): number | undefined =>
    /^\d+$/.test(t.trim()) && Number(t) >= low && Number(t) <= high ? Number(t) : undefined;

  const made = (): CueAction | string => {
    switch (kind) {
      case 'list': {
        const number = parseCueNumber(cue);
        if (what === 'goto' && number === undefined) return 'Say which cue, like 2 or 2.5.';
        return {
          do: 'list',
          list,
          what,
          ...(what === 'goto' && number !== undefined ? { cue: number } : {}),
        };
      }
      case 'fader': {
        const percent = Number(level);
        const time_s = seconds(time);
        if (!Number.isFinite(percent) || percent < 0 || percent > 100)
          return 'A level goes from 0 to 100 %.';
        if (time_s === undefined) return timeProblem(time) ?? 'Not a time.';
        return fader === ''
          ? 'This show has no faders yet: make one in Run.'
          : { do: 'fader', fader, level: percent / 100, time_s };
      }
      case 'flash':
        return fader === ''
          ? 'This show has no faders yet: make one in Run.'
          : { do: 'flash', fader, on: on === 'on' };
      case 'release-looks':
      case 'let-off':
        return { do: kind };
      case 'remotes':
        return { do: 'remotes', on: on === 'on' };
      case 'osc':
        if (!/^\/[\x21-\x7e]*$/.test(address))
          return 'An OSC address begins with / and has no spaces.';
        return {
          do: 'osc',
          address,
          args:
            args.trim() === ''
              ? []
              : args
                  .trim()
                  .split(/\s+/)
                  .slice(0, 16)
                  .map((a) => (/^-?\d+(\.\d+)?$/.test(a) ? Number(a) : a)),
        };
      case 'midi': {
        const [channel, number, value] = [
          whole(midi.channel, 1, 16),
          whole(midi.number, 0, 127),
          whole(midi.value, 0, 127),
        ];
        if (channel === undefined) return 'A MIDI channel goes from 1 to 16.';
        if (number === undefined || value === undefined)
          return 'MIDI numbers and values go from 0 to 127.';
        return { do: 'midi', kind: midi.kind, channel, number, value };
      }
      case 'macro':
        return macro === ''
          ? 'Select fixtures with a control macro first.'
          : { do: 'macro', fixtures: [...selection], macro };
      case 'sound':
        return sound === '' ? 'Take in a sound first.' : { do: 'sound', sound };
    }
  };
  const add = (): void => {
    const action = made();
    if (typeof action === 'string') setProblem(action);
    else onDone(action);
  };
  const onOff = (
    <Choice
      label="to"
      value={on}
      onChange={(e) => setOn(e.target.value)}
      options={
        kind === 'flash'
          ? [
              { value: 'on', label: 'press' },
              { value: 'off', label: 'lift' },
            ]
          : [
              { value: 'on', label: 'on' },
              { value: 'off', label: 'off' },
            ]
      }
      className="w-24"
    />
  );
  const aFader = (
    <Choice
      label="Fader"
      value={fader}
      onChange={(e) => setFader(e.target.value)}
      options={faders.map((f) => ({ value: f.id, label: `${f.number} ${f.name}` }))}
      className="min-w-[110px] flex-1"
    />
  );
  return (
    <div className="rounded-lg bg-raised p-2.5">
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="On GO"
          value={kind}
          onChange={(e) => setKind(e.target.value as CueAction['do'])}
          options={KINDS}
          className="w-36"
        />
        {kind === 'list' && (
          <>
            <Choice
              label="does"
              value={what}
              onChange={(e) => setWhat(e.target.value as typeof what)}
              options={LIST_ACTS.map((a) => ({ value: a, label: ACT_WORDS[a] }))}
              className="w-28"
            />
            <Choice
              label="List"
              value={list}
              onChange={(e) => setList(e.target.value)}
              options={lists.map((l) => ({ value: l.id, label: l.name }))}
              className="min-w-[110px] flex-1"
            />
            {what === 'goto' && (
              <Field
                label="Cue"
                number
                value={cue}
                onChange={(e) => setCue(e.target.value)}
                className="w-16"
              />
            )}
          </>
        )}
        {kind === 'fader' && (
          <>
            {aFader}
            <Field
              label="Level, %"
              number
              value={level}
              onChange={(e) => setLevel(e.target.value)}
              className="w-16"
            />
            <Field
              label="in, s"
              number
              value={time}
              onChange={(e) => setTime(e.target.value)}
              className="w-16"
            />
          </>
        )}
        {kind === 'flash' && (
          <>
            {aFader}
            {onOff}
          </>
        )}
        {kind === 'remotes' && onOff}
        {kind === 'osc' && (
          <>
            <Field
              label="Address"
              number
              value={address}
              onChange={(e) => setAddress(e.target.value)}
              className="w-40"
            />
            <Field
              label="Arguments"
              number
              value={args}
              placeholder="1 0.5 word"
              onChange={(e) => setArgs(e.target.value)}
              className="min-w-[110px] flex-1"
            />
          </>
        )}
        {kind === 'midi' && (
          <>
            <Choice
              label="Message"
              value={midi.kind}
              onChange={(e) => setMidi({ ...midi, kind: e.target.value as typeof midi.kind })}
              options={[
                { value: 'note-on', label: 'Note on' },
                { value: 'note-off', label: 'Note off' },
                { value: 'control', label: 'Control' },
                { value: 'program', label: 'Program' },
              ]}
              className="w-24"
            />
            {(['channel', 'number', 'value'] as const).map((f) => (
              <Field
                key={f}
                label={capital(f)}
                number
                value={midi[f]}
                onChange={(e) => setMidi({ ...midi, [f]: e.target.value })}
                className="w-16"
              />
            ))}
          </>
        )}
        {kind === 'macro' && (
          <Choice
            label={`Of the ${selection.length} selected`}
            value={macro}
            onChange={(e) => setMacro(e.target.value)}
            options={macros.map((m) => ({ value: m, label: m }))}
            className="min-w-[110px] flex-1"
          />
        )}
        {kind === 'sound' && (
          <>
            <Choice
              label="Sound"
              value={sound}
              onChange={(e) => setSound(e.target.value)}
              options={sounds.map((s) => ({ value: s.id, label: s.name }))}
              className="min-w-[110px] flex-1"
            />
            <label className="flex h-8 cursor-pointer items-center rounded-md px-2.5 text-soft shadow-[inset_0_0_0_1px_var(--color-edge)] hover:bg-lift">
              Take in …
              <input
                type="file"
                accept="audio/wav,audio/mpeg,audio/ogg,audio/webm"
                className="sr-only"
                onChange={(e) => {
                  const [file] = e.target.files ?? [];
                  if (!file) return;
                  void (async () => {
                    if (file.size > 2_000_000) {
                      setProblem('A sound has at most 2 MB. Nothing was taken in.');
                      return;
                    }
                    const answer = await edit('add-sound', {
                      name: file.name.replace(/\.\w+$/, '').slice(0, 120) || 'Sound',
                      data: await readSound(file),
                    });
                    const row =
                      'changes' in answer
                        ? answer.changes.find((c) => c.table === 'sounds')
                        : undefined;
                    if (row) setSound(row.id);
                  })();
                }}
              />
            </label>
          </>
        )}
      </div>
      {problem && <p className="mt-1.5 text-danger">{problem}</p>}
      <div className="mt-2 flex justify-end gap-2">
        <Button kind="quiet" onClick={() => onDone(null)}>
          Not now
        </Button>
        <Button kind="strong" onClick={add}>
          Add it
        </Button>
      </div>
    </div>
  );
}
