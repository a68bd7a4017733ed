/** Making an action of a cue. */
'use client';
import { capital, plural } from '@/core/words';
import type { UseFormReturn } from 'react-hook-form';
import { SHOW_CONTROL_WORDS } from '@/core/cues/action-words';
import { LIST_ACTS, SENT_SHOW_CONTROL, type CueAction } from '@/core/cues/rows';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { rowsByNumber } from '@/core/show/numbered';
import { optionsOf } from '../../parts/options';
import { edit } from '../../state/edits';
import { useScreen, useShow } from '../../state/store';
import {
  ACTION_KINDS,
  ActionDraft,
  actionOf,
  draftOf,
  firstDraft,
  macrosOf,
  MIDI_KINDS,
} from './action-draft';
import { Foot } from '../../parts/Foot';

const KIND_WORDS: Record<CueAction['do'], string> = {
  list: 'Another list',
  fader: 'A fader',
  flash: 'A flash',
  'release-looks': 'Release all looks',
  'let-off': 'Let off holds',
  remotes: 'Remote controls',
  osc: 'OSC message',
  midi: 'MIDI message',
  'show-control': 'MIDI show control',
  bytes: 'MIDI bytes',
  macro: 'Control macro',
  sound: 'Sound',
};
const ACT_WORDS: Record<(typeof LIST_ACTS)[number], string> = {
  start: 'Start',
  go: 'GO',
  pause: 'Pause',
  release: 'Release',
  goto: 'Go to cue',
};
const MIDI_WORDS: Record<(typeof MIDI_KINDS)[number], string> = {
  'note-on': 'Note on',
  'note-off': 'Note off',
  control: 'Control',
  program: 'Program',
};
const WIDE = 'min-w-[110px] flex-1';
const NUMBER = 'w-16';

type Form = UseFormReturn<ActionDraft, unknown, ActionDraft>;
interface Of {
  form: Form;
}
interface OfUnits extends Of {
  /** Units that a macro is for. */
  fixtures: readonly string[];
}

function ListFields({ form }: Of) {
  const lists = rowsByNumber(useShow().lists);
  return (
    <>
      <FormChoice
        form={form}
        name="what"
        label="does"
        options={optionsOf(LIST_ACTS, ACT_WORDS)}
        className="w-28"
      />
      <FormChoice
        form={form}
        name="list"
        label="List"
        options={lists.map((l) => ({ value: l.id, label: l.name }))}
        className={WIDE}
      />
      {form.watch('what') === 'goto' && (
        <FormField form={form} name="cue" label="Cue" number className={NUMBER} />
      )}
    </>
  );
}

function WhichFader({ form }: Of) {
  const faders = rowsByNumber(useShow().faders);
  return (
    <FormChoice
      form={form}
      name="fader"
      label="Fader"
      options={faders.map((f) => ({ value: f.id, label: `${f.number} ${f.name}` }))}
      className={WIDE}
    />
  );
}

const FaderFields = ({ form }: Of) => (
  <>
    <WhichFader form={form} />
    <FormField form={form} name="level" label="Level, %" number className={NUMBER} />
    <FormField form={form} name="time" label="in, s" number className={NUMBER} />
  </>
);

function Switch({ form, on, off }: Of & { on: string; off: string }) {
  const both = [
    { value: 'on', label: on },
    { value: 'off', label: off },
  ];
  return <FormChoice form={form} name="on" label="to" options={both} className="w-24" />;
}

const FlashFields = ({ form }: Of) => (
  <>
    <WhichFader form={form} />
    <Switch form={form} on="press" off="lift" />
  </>
);

const RemotesFields = ({ form }: Of) => <Switch form={form} on="on" off="off" />;

const OscFields = ({ form }: Of) => (
  <>
    <FormField form={form} name="address" label="Address" number className="w-40" />
    <FormField
      form={form}
      name="args"
      label="Arguments"
      number
      placeholder="1 0.5 word"
      className={WIDE}
    />
  </>
);

const MidiFields = ({ form }: Of) => (
  <>
    <FormChoice
      form={form}
      name="midiKind"
      label="Message"
      options={optionsOf(MIDI_KINDS, MIDI_WORDS)}
      className="w-24"
    />
    {(['channel', 'number', 'value'] as const).map((f) => (
      <FormField key={f} form={form} name={f} label={capital(f)} number className={NUMBER} />
    ))}
  </>
);

const ShowControlFields = ({ form }: Of) => (
  <>
    <FormChoice
      form={form}
      name="showControl"
      label="Says"
      options={optionsOf(SENT_SHOW_CONTROL, SHOW_CONTROL_WORDS)}
      className="w-24"
    />
    <FormField form={form} name="device" label="Device" number className={NUMBER} />
    <FormField form={form} name="outCue" label="Cue" number placeholder="none" className={NUMBER} />
    <FormField
      form={form}
      name="outList"
      label="List"
      number
      placeholder="none"
      className={NUMBER}
    />
  </>
);

const BytesFields = ({ form }: Of) => (
  <FormField form={form} name="bytes" label="Bytes, hexadecimal" number className={WIDE} />
);

function MacroFields({ form, fixtures }: OfUnits) {
  const macros = macrosOf(useShow(), fixtures);
  return (
    <FormChoice
      form={form}
      name="macro"
      label={`Of ${plural(fixtures.length, 'unit')}`}
      options={macros.map((m) => ({ value: m, label: m }))}
      className={WIDE}
    />
  );
}

const SOUND_LIMIT = 2_000_000;

/** Bytes of a file as a data URL of a type that sounds have. */
function readSound(file: File): Promise<string> {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('This file cannot be read.'));
    reader.readAsDataURL(file);
  });
}

/** @returns why it was not taken in */
async function takeIn(file: File, form: Form): Promise<string | undefined> {
  if (file.size > SOUND_LIMIT) return 'A sound has at most 2 MB. Nothing was taken in.';
  const answer = await edit('add-sound', {
    name: file.name.replace(/\.\w+$/, '').slice(0, 120) || 'Sound',
    data: await readSound(file),
  });
  const row = 'changes' in answer ? answer.changes.find((c) => c.table === 'sounds') : undefined;
  if (row) form.setValue('sound', row.id);
  return undefined;
}

function SoundFields({ form }: Of) {
  const sounds = [...useShow().sounds.values()];
  const take = async (file: File): Promise<void> => {
    const message = await takeIn(file, form);
    if (message === undefined) form.clearErrors('sound');
    else form.setError('sound', { message });
  };
  return (
    <>
      <FormChoice
        form={form}
        name="sound"
        label="Sound"
        options={sounds.map((s) => ({ value: s.id, label: s.name }))}
        className={WIDE}
      />
      <label className="mt-5 flex h-8 cursor-pointer items-center rounded-md px-2.5 text-soft shadow-[inset_0_0_0_1px_var(--color-edge)] hover:bg-lift">
        Take in …
        <input
          type="file"
          accept="audio/wav,audio/mpeg,audio/ogg,audio/webm"
          className="sr-only"
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            if (file) void take(file);
          }}
        />
      </label>
    </>
  );
}

const FIELDS: Partial<Record<CueAction['do'], React.ComponentType<OfUnits>>> = {
  list: ListFields,
  fader: FaderFields,
  flash: FlashFields,
  remotes: RemotesFields,
  osc: OscFields,
  midi: MidiFields,
  'show-control': ShowControlFields,
  bytes: BytesFields,
  macro: MacroFields,
  sound: SoundFields,
};
/** @param onDone with the action, or with nothing where none is wanted */
export function ActionForm({
  when = 'On GO',
  act = 'Add it',
  first,
  onDone,
}: {
  /** What stands over the choice of what it does, and on the button that makes it. */
  when?: string;
  act?: string;
  /** The one that is changed. */
  first?: CueAction;
  onDone: (action: CueAction | null) => void;
}) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const form = useSchemaForm(
    ActionDraft,
    first ? draftOf(show, selection, first) : firstDraft(show, selection),
  );
  const Own = FIELDS[form.watch('kind')];
  // A macro that is changed stays with its units; a new one is for those that are selected.
  const own = first?.do === 'macro' ? first.fixtures : undefined;
  const add = form.handleSubmit((draft) =>
    onDone(actionOf({ ...draft, fixtures: [...(own ?? selection)] })),
  );
  return (
    <form onSubmit={(e) => void add(e)} className="rounded-lg bg-raised p-2.5">
      <div className="flex flex-wrap items-start gap-2">
        <FormChoice
          form={form}
          name="kind"
          label={when}
          options={optionsOf(ACTION_KINDS, KIND_WORDS)}
          onInput={() => form.clearErrors()}
          className="w-36"
        />
        {Own && <Own form={form} fixtures={own ?? selection} />}
      </div>
      <Foot className="mt-2" onLeave={() => onDone(null)} act={act} />
    </form>
  );
}
