/** Times of their own for the values in cells: one for all, or fanned from the first unit to the last. */
'use client';
import { useMemo, useState } from 'react';
import { seconds, timeProblem } from '@/core/cues/clock';
import type { Column } from '@/core/cues/sheet';
import { plural } from '@/core/words';
import { familyOf } from '@/core/rig/attributes';
import type { CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import { Button, Dialog, Field } from '../parts/controls';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { useShow } from '../state/store';

/** `0` or `0 thru 3`: the time of the unit at a place among so many. */
function fanned(text: string): ((at: number, of: number) => number) | undefined {
  const [from = '', to] = text.split(/\s*(?:thru|to|–)\s*/i);
  const [a, b] = [seconds(from), to === undefined ? seconds(from) : seconds(to)];
  if (a === undefined || b === undefined) return undefined;
  return (at, of) => Math.round((of > 1 ? a + ((b - a) * at) / (of - 1) : a) * 1000) / 1000;
}

/** Why a text is no time; nothing where it is one, or empty. */
const wrong = (text: string): string | undefined =>
  text.trim() === '' || fanned(text)
    ? undefined
    : (timeProblem(text) ?? 'A time, or from one to another: 0 thru 3');

interface Over {
  cues: readonly CueRow[];
  columns: readonly Column[];
  family: Family;
}

/** The values in the cells, and their times as they are written. */
function useOwnTimes({ cues, columns, family }: Over) {
  const show = useShow();
  const units = useMemo(() => [...new Set(columns.flatMap((c) => c.fixtures))], [columns]);
  const values = cues.flatMap((c) =>
    [...show.valuesOf(c.id).values()].filter(
      (v) => familyOf(v.attribute) === family && units.includes(v.fixtureId),
    ),
  );
  const own = values.filter((v) => v.fade_s !== undefined || v.delay_s !== undefined).length;
  /** @param timesOf what a unit at a place among so many gets; null takes a time of its own away */
  const write = (
    timesOf: (at: number, of: number) => { fade_s?: number | null; delay_s?: number | null },
  ): Promise<unknown> =>
    edit('set-values', {
      cells: values.map((v) => ({
        cueId: v.cueId,
        fixtureId: v.fixtureId,
        attribute: v.attribute,
        times: timesOf(units.indexOf(v.fixtureId), units.length),
      })),
    });
  return { units, values, own, write };
}

/** Times of their own for the cells that are chosen. */
export function CellTimes({ cues, columns, family, onClose }: Over & { onClose: () => void }) {
  const { units, values, own, write } = useOwnTimes({ cues, columns, family });
  const [fade, setFade] = useState('');
  const [delay, setDelay] = useState('');
  const [problem, setProblem] = useState<string>();
  const done = (answer: unknown): void => {
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };
  const set = (): void => {
    const [f, d] = [fanned(fade), fanned(delay)];
    void write((at, of) => ({
      ...(f ? { fade_s: f(at, of) } : {}),
      ...(d ? { delay_s: d(at, of) } : {}),
    })).then(done);
  };
  const asTheCue = (): void => void write(() => ({ fade_s: null, delay_s: null })).then(done);
  const isEmpty = fade.trim() === '' && delay.trim() === '';
  const isWrong = wrong(fade) !== undefined || wrong(delay) !== undefined;
  const have = own > 0 ? `; ${own} ${own === 1 ? 'has' : 'have'} times already` : '';
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Times of their own"
      about={`${plural(values.length, 'value')} of ${plural(units.length, 'unit')} in ${plural(cues.length, 'cue')}${have}. They win over the cue’s.`}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          set();
        }}
      >
        <div className="grid grid-cols-2 gap-3">
          <Field
            label="Fade"
            number
            value={fade}
            placeholder="as it is"
            onChange={(e) => setFade(e.target.value)}
            problem={wrong(fade)}
          />
          <Field
            label="Delay"
            number
            value={delay}
            placeholder="0 thru 3"
            onChange={(e) => setDelay(e.target.value)}
            problem={wrong(delay)}
          />
        </div>
        <p className="mt-2 text-[12.5px] text-muted">
          From one time to another, such as 0 thru 3, is shared out over the units in their order.
        </p>
        {problem && <p className="mt-1 text-danger">{problem}</p>}
        <div className="mt-3 flex justify-end gap-2">
          {own > 0 && (
            <Button kind="quiet" onClick={asTheCue}>
              As the cue
            </Button>
          )}
          <Button kind="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button kind="strong" type="submit" disabled={values.length === 0 || isEmpty || isWrong}>
            Set them
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
