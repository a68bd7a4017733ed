/** How a list goes along its track: where it ends and what then, what a GO in between does, how its timecode goes. */
'use client';
import { z } from 'zod';
import { seconds } from '@/core/cues/clock';
import type { ListRow } from '@/core/lists/rows';
import { formatMoment } from '@/core/time/moment';
import { LONGEST_S, NO_TIME, type ListTime } from '@/core/time/rows';
import { endOf } from '@/core/time/timed';
import { readTimecode, sayTimecode } from '@/core/timecode/rate';
import { RATES } from '@/core/timecode/rows';
import { Dialog } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { Foot } from '../../parts/Foot';

const ON_GO = [
  { value: 'wait', label: 'brings the next cue early; time goes on' },
  { value: 'leave', label: 'leaves time: by hand from there' },
];
const AT_END = [
  { value: 'stop', label: 'it stands' },
  { value: 'loop', label: 'it begins again' },
];
/** As the player runs on where the list does not say. */
const USUAL_RUN_ON = '2';

const Draft = z
  .object({
    end: z
      .string()
      .trim()
      .refine((t) => {
        const at_s = t === '' ? 0 : seconds(t);
        return at_s !== undefined && at_s <= LONGEST_S;
      }, 'Like 3:12.5, or nothing: with its last fade.'),
    atEnd: z.enum(['stop', 'loop']),
    onGo: z.enum(['wait', 'leave']),
    runOn: z
      .string()
      .trim()
      .refine((t) => {
        const s = t === '' ? 0 : seconds(t);
        return s !== undefined && s <= 3600;
      }, 'Seconds, up to an hour.'),
    rate: z.enum(RATES),
    gives: z.string().trim(),
  })
  .superRefine(({ gives, rate }, ctx) => {
    if (readTimecode(gives, rate) === undefined)
      ctx.addIssue({
        code: 'custom',
        path: ['gives'],
        message: `There is no such timecode at ${rate}; it looks like 01:00:00:00.`,
      });
  });
type TrackDraft = z.output<typeof Draft>;

const draftOf = ({ end_s, atEnd, onGo, timecode, gives }: ListTime): TrackDraft => ({
  end: end_s === undefined ? '' : formatMoment(end_s),
  atEnd: atEnd ?? 'stop',
  onGo: onGo ?? 'wait',
  runOn: timecode?.runOn_s === undefined ? '' : String(timecode.runOn_s),
  rate: gives?.rate ?? '25',
  gives: sayTimecode(gives?.offset_s ?? 0, gives?.rate ?? '25'),
});

/** The track as it is to be: what is as usual is not kept. */
function timeOf(time: ListTime, d: TrackDraft): ListTime {
  const { end_s, atEnd, onGo, timecode, gives, ...rest } = time;
  void [end_s, atEnd, onGo];
  const { runOn_s, ...follows } = timecode ?? {};
  void runOn_s;
  return {
    ...rest,
    ...(d.end === '' ? {} : { end_s: seconds(d.end) ?? 0 }),
    ...(d.atEnd === 'loop' ? { atEnd: d.atEnd } : {}),
    ...(d.onGo === 'leave' ? { onGo: d.onGo } : {}),
    ...(timecode
      ? {
          timecode: {
            ...(follows as typeof timecode),
            ...(d.runOn === '' ? {} : { runOn_s: seconds(d.runOn) ?? 0 }),
          },
        }
      : {}),
    ...(gives
      ? { gives: { ...gives, rate: d.rate, offset_s: readTimecode(d.gives, d.rate) ?? 0 } }
      : {}),
  };
}

/** How a list goes along its track: where it ends, and what a GO does. */
export function TrackDialog({ list, onClose }: { list: ListRow; onClose: () => void }) {
  const show = useShow();
  const time = list.time ?? NO_TIME;
  const form = useSchemaForm(Draft, draftOf(time));
  const save = form.handleSubmit(async (d) => {
    const answer = await edit('change-list', { id: list.id, set: { time: timeOf(time, d) } });
    if ('changes' in answer) onClose();
    else form.setError('end', { message: answer.message });
  });
  return (
    <Dialog
      of={`lists/${list.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Track of “${list.name}”`}
      width="w-[520px]"
    >
      <form onSubmit={(e) => void save(e)} noValidate className="space-y-3">
        <FormChoice form={form} name="onGo" label="A GO while it plays" options={ON_GO} />
        <div className="grid grid-cols-2 gap-3">
          <FormField
            form={form}
            name="end"
            label="It ends at"
            number
            placeholder={`${formatMoment(endOf(show, list.id))}, with its last fade`}
          />
          <FormChoice form={form} name="atEnd" label="At its end" options={AT_END} />
        </div>
        {time.timecode && (
          <FormField
            form={form}
            name="runOn"
            label="Without its timecode it runs on for, s"
            number
            placeholder={USUAL_RUN_ON}
          />
        )}
        {time.gives && (
          <div className="grid grid-cols-2 gap-3">
            <FormField
              form={form}
              name="gives"
              label="Timecode that it gives at its beginning"
              number
            />
            <FormChoice
              form={form}
              name="rate"
              label="Frames a second"
              options={RATES.map((r) => ({ value: r, label: r }))}
            />
          </div>
        )}
        <Foot onLeave={onClose} act="Set it" />
      </form>
    </Dialog>
  );
}
