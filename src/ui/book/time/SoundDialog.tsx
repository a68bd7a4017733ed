/** The sound that a list lies along: which, which part of it, how loud, and where it is heard. */
'use client';
import { useState } from 'react';
import { z } from 'zod';
import { seconds, formatTime } from '@/core/cues/clock';
import type { ListRow } from '@/core/lists/rows';
import { TrackSound } from '@/core/sounds/rows';
import { NO_TIME } from '@/core/time/rows';
import { Dialog } from '../../parts/controls';
import { FormField, typedTime, useSchemaForm } from '../../parts/form';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { BringSound } from './BringSound';
import { SoundList } from './SoundList';
import { HeardAt } from './HeardAt';
import { Foot } from '../../parts/Foot';

const Draft = z.object({
  at: typedTime(false),
  from: typedTime(true),
  to: typedTime(true),
  level: z
    .string()
    .trim()
    .refine((t) => t === '' || Number.isFinite(Number(t.replace(',', '.'))), 'Decibels, as -6.'),
  fadeIn: typedTime(true),
  fadeOut: typedTime(true),
  loop: z.boolean(),
});
type Draft = z.infer<typeof Draft>;

const shown = (s: number | undefined): string => (s === undefined ? '' : formatTime(s));
const draftOf = (s: TrackSound | undefined): Draft => ({
  at: formatTime(s?.at_s ?? 0),
  from: shown(s?.from_s),
  to: shown(s?.to_s),
  level: s?.level_db === undefined ? '' : String(s.level_db),
  fadeIn: shown(s?.fadeIn_s),
  fadeOut: shown(s?.fadeOut_s),
  loop: s?.loop === true,
});

const some = <K extends string>(key: K, text: string): Partial<Record<K, number>> => {
  const read = text === '' ? undefined : seconds(text);
  return read === undefined ? {} : ({ [key]: read } as Record<K, number>);
};

/** @returns what is wrong, in a sentence, where it is nothing that can be */
function soundOf(sound: string, d: Draft): TrackSound | string {
  const read = TrackSound.safeParse({
    sound,
    at_s: seconds(d.at) ?? 0,
    ...some('from_s', d.from),
    ...some('to_s', d.to),
    ...some('fadeIn_s', d.fadeIn),
    ...some('fadeOut_s', d.fadeOut),
    ...(d.level === '' ? {} : { level_db: Number(d.level.replace(',', '.')) }),
    ...(d.loop ? { loop: true } : {}),
  });
  return read.success ? read.data : (read.error.issues[0]?.message ?? 'This cannot be.');
}

const FIELDS = [
  ['at', 'Begins at'],
  ['from', 'From'],
  ['to', 'To'],
  ['level', 'Level, dB'],
  ['fadeIn', 'Fade in, s'],
  ['fadeOut', 'Fade out, s'],
] as const;

/** The sound that a list lies along: which part of it, and how loud. */
export function SoundDialog({ list, onClose }: { list: ListRow; onClose: () => void }) {
  const time = list.time ?? NO_TIME;
  const [sound, setSound] = useState(time.sound?.sound ?? '');
  const [wrong, setWrong] = useState<string>();
  const form = useSchemaForm(Draft, draftOf(time.sound));
  const length_s = useShow().sounds.get(sound)?.file?.length_s;
  const save = form.handleSubmit(async (draft) => {
    const { sound: old, ...rest } = time;
    void old;
    const next = sound === '' ? undefined : soundOf(sound, draft);
    if (typeof next === 'string') return setWrong(next);
    const set = { time: next ? { ...rest, sound: next } : rest };
    const answer = await edit('change-list', { id: list.id, set });
    if ('changes' in answer) onClose();
    else setWrong(answer.message);
  });
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Sound of “${list.name}”`}
      about="A WAV, MP3, Ogg, FLAC or M4A, up to 500 MB. It goes along with the show, its files and its back-ups."
      width="w-[560px]"
    >
      <form onSubmit={(e) => void save(e)} noValidate>
        <BringSound label="Sound" value={sound} onChoose={setSound} />
        <SoundList />
        {sound !== '' && (
          <div className="mt-3 grid grid-cols-3 gap-2">
            {FIELDS.map(([name, label]) => (
              <FormField
                key={name}
                form={form}
                name={name}
                label={label}
                {...(name === 'to' && length_s !== undefined
                  ? { placeholder: formatTime(length_s) }
                  : {})}
              />
            ))}
            <label className="col-span-3 flex items-center gap-2 text-[13px]">
              <input type="checkbox" {...form.register('loop')} /> over and over, as long as the
              track is
            </label>
          </div>
        )}
        <HeardAt />
        {wrong !== undefined && (
          <p role="alert" className="mt-2 text-[12.5px] text-danger">
            {wrong}
          </p>
        )}
        <Foot className="mt-4" onLeave={onClose} act="Set it" />
      </form>
    </Dialog>
  );
}
