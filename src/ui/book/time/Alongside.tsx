/** What cues start beside their light, at their moments: pressed it is opened, an action is led along the track. */
'use client';
import { useMemo, useState } from 'react';
import { actionWords } from '@/core/cues/action-words';
import { formatCueNumber } from '@/core/cues/number';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import type { TimedCue } from '@/core/time/timed';
import { ActionForm } from '../actions/ActionForm';
import { ActionsPanel } from '../ActionsPanel';
import { Dialog } from '../../parts/controls';
import { useDrag } from '../../parts/use-drag';
import { useLed } from '../../parts/use-led';
import { edit } from '../../state/edits';
import { lookAt } from '../../state/book';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import { snapped } from './snap';

/** Of what lies over each other in a row, the first is drawn: nearer, each has its place. */
const APART_PX = 34;
const ROW_PX = 24;
const DRAG_PX = 3;

interface Item {
  id: string;
  cue: TimedCue;
  text: string;
  row: number;
  /** Which of the cue's actions; undefined for an effect that begins. */
  index: number | undefined;
}

function apart(items: readonly Item[], x: (s: number) => number): Item[] {
  const last = new Map<number, number>();
  return items.filter((item) => {
    const at = x(item.cue.at_s);
    if (at - (last.get(item.row) ?? -Infinity) < APART_PX) return false;
    last.set(item.row, at);
    return true;
  });
}

/** Not with every step of the wheel: a list has hundreds of thousands of values. */
function useItems(cues: readonly TimedCue[]): Item[] {
  const show = useShow();
  const version = `${show.version('values')}/${show.version('effects')}/${show.version('cues')}`;
  return useMemo(() => {
    void version;
    return cues.flatMap((cue): Item[] => {
      const effects = new Set(
        [...show.valuesOf(cue.id).values()].flatMap((v) =>
          v.effect ? [show.effects.get(v.effect.id)?.name ?? ''] : [],
        ),
      );
      const words = [
        ...[...effects].filter(Boolean).map((e) => ({ text: `~ ${e}`, index: undefined })),
        ...(cue.actions ?? []).map((a, index) => ({ text: actionWords(show, a), index })),
      ];
      return words.map((w, row) => ({ id: `${cue.id}/${row}`, cue, row, ...w }));
    });
  }, [show, cues, version]);
}

function Chip({
  item,
  x,
  time,
  onOpen,
}: {
  item: Item;
  x: (s: number) => number;
  time: ListTime;
  onOpen: (cueId: string) => void;
}) {
  const may = mayEdit(useScreen((s) => s.you.role));
  const led = useLed<number | null>(null);
  const { cue, index } = item;
  const drag = useDrag<{ x: number; far: boolean }>({
    begin: (e) => ({ x: e.clientX, far: false }),
    move: (d, e) => {
      d.far ||= Math.abs(e.clientX - d.x) > DRAG_PX;
      if (!d.far || !may || index === undefined) return;
      const { scale, snap, cursor_s } = useTrackView.getState();
      const at_s = cue.at_s + (e.clientX - d.x) / scale;
      led.put(snapped(at_s, { snap, free: e.altKey, time, cursor_s, scale }));
    },
    end: (d, torn) => {
      const to = led.now();
      if (!d.far) onOpen(cue.id);
      if (to === null || torn || index === undefined) return led.put(null);
      void edit('move-action', { cue: cue.id, index, at_s: toMillisecond(to) }).finally(() =>
        led.put(null),
      );
    },
  });
  const at_s = led.shown ?? cue.at_s;
  return (
    <button
      type="button"
      data-alongside={item.id}
      title={`${item.text}, at ${formatMoment(at_s)}`}
      onKeyDown={(e) => e.key === 'Enter' && onOpen(cue.id)}
      {...drag}
      className={`absolute max-w-44 touch-none truncate rounded bg-raised px-2 text-left text-[11.5px] leading-5 inset-ring ${index === undefined ? 'text-muted' : 'cursor-ew-resize text-soft'} ${led.shown === null ? 'inset-ring-edge' : 'z-10 inset-ring-standby'}`}
      style={{ left: x(at_s), top: item.row * ROW_PX }}
    >
      {item.text}
    </button>
  );
}

/** What cues start beside their light, at their moments. */
export function Alongside({
  cues,
  x,
  width,
  time,
}: {
  cues: readonly TimedCue[];
  x: (s: number) => number;
  width: number;
  time: ListTime;
}) {
  const show = useShow();
  const [open, setOpen] = useState<string | null>(null);
  const cue = show.cues.get(open ?? '');
  const seen = useItems(cues).filter(
    (i) => i.row < 2 && x(i.cue.at_s) < width && x(i.cue.at_s) > -200,
  );
  return (
    <div role="group" className="relative h-12 overflow-hidden" aria-label="Alongside">
      {apart(seen, x).map((item) => (
        <Chip
          key={item.id}
          item={item}
          x={x}
          time={time}
          onOpen={(id) => {
            lookAt(id);
            setOpen(id);
          }}
        />
      ))}
      {cue && (
        <Dialog
          open
          onOpenChange={(o) => !o && setOpen(null)}
          title={`With LX ${formatCueNumber(cue.number)}, beside its light`}
          {...(cue.at_s === undefined
            ? {}
            : { about: `At ${formatMoment(cue.at_s)} of the track.` })}
          width="w-[440px]"
        >
          <ActionsPanel cue={cue} />
        </Dialog>
      )}
    </div>
  );
}

/** An action where time is while it runs, else at the cursor: with the cue that is there, or by itself. */
export function ActionHere({
  list,
  at_s,
  onClose,
}: {
  list: string;
  at_s: number;
  onClose: () => void;
}) {
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`At ${formatMoment(at_s)}`}
      about="What happens then beside light: another list, a fader, a sound, a message. It is led along the track beneath the cues."
      width="w-[480px]"
    >
      <ActionForm
        when="Then"
        act="Put it there"
        onDone={(action) => {
          onClose();
          if (action) void edit('put-action', { list, at_s, action });
        }}
      />
    </Dialog>
  );
}
