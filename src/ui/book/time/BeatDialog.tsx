/** The beat of a track: tapped or typed, bars, and changes of tempo. What moves with it is said before. */
'use client';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { ListRow } from '@/core/lists/rows';
import { seconds } from '@/core/cues/clock';
import { movedByTempo } from '@/core/time/edits';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import type { Tempo } from '@/core/time/rows';
import { tapped } from '@/core/time/tempo';
import { timedCues } from '@/core/time/timed';
import type { FoundBeat } from '@/core/sounds/beat';
import { FindBeat } from './FindBeat';
import { Button, Dialog, IconButton } from '../../parts/controls';
import { edit } from '../../state/actions';
import { useShow } from '../../state/store';
import { Trash2 } from 'lucide-react';

interface Draft {
  at: string;
  bpm: string;
  beats: string;
}
const draftOf = (t: Tempo): Draft => ({
  at: formatMoment(t.at_s),
  bpm: String(Math.round(t.bpm * 100) / 100),
  beats: String(t.beats),
});

/** The found tempo in the place of the first one, with its beats to a bar. */
const beatDraft = ({ bpm, first_s }: FoundBeat, first: Draft | undefined): Draft => ({
  at: formatMoment(toMillisecond(first_s)),
  bpm: bpm.toFixed(2),
  beats: first?.beats ?? '4',
});

/** Undefined where one of the fields is no number. */
function tempoOf({ at, bpm, beats }: Draft): Tempo | undefined {
  const at_s = seconds(at);
  const read = { at_s: at_s ?? NaN, bpm: Number(bpm.replace(',', '.')), beats: Number(beats) };
  return Object.values(read).every(Number.isFinite) ? read : undefined;
}

/** @param nowOn where the track is, for taps; null where it stands: then taps say the tempo alone */
export function BeatDialog({
  list,
  nowOn,
  onClose,
}: {
  list: ListRow;
  nowOn: () => number | null;
  onClose: () => void;
}) {
  const show = useShow();
  const [rows, setRows] = useState<Draft[]>(
    (list.time?.tempo ?? []).length > 0
      ? (list.time?.tempo ?? []).map(draftOf)
      : [{ at: '0:00.00', bpm: '120', beats: '4' }],
  );
  const [taps, setTaps] = useState<number[]>([]);
  const [wrong, setWrong] = useState<string>();
  const found = tapped(taps);
  const all = rows.map(tempoOf);
  const tempo = all.every((t) => t !== undefined) ? all : undefined;
  const moved = tempo ? movedByTempo(show, list.id, tempo) : [];
  const stays = timedCues(show, list.id).length - moved.length;
  const set = (i: number, field: keyof Draft, value: string): void =>
    setRows((now) => now.map((r, n) => (n === i ? { ...r, [field]: value } : r)));
  const tap = (): void => {
    const at_s = nowOn() ?? performance.now() / 1000;
    setTaps((now) => [...now.slice(-63), at_s]);
  };
  const take = (): void => {
    if (!found) return;
    const runs = nowOn() !== null;
    const first_s = runs
      ? Math.max(0, toMillisecond(found.first_s))
      : (seconds(rows[0]?.at ?? '') ?? 0);
    setRows((now) => [
      { at: formatMoment(first_s), bpm: found.bpm.toFixed(2), beats: now[0]?.beats ?? '4' },
      ...now.slice(1),
    ]);
    setTaps([]);
  };
  const save = async (): Promise<void> => {
    if (!tempo) {
      setWrong('A moment is like 1:12.5, a tempo and its beats are numbers. Nothing was changed.');
      return;
    }
    const answer = await edit('set-tempo', { list: list.id, tempo });
    if ('changes' in answer) onClose();
    else setWrong(answer.message);
  };
  const FIELD = 'num h-8 w-full rounded-md bg-ink px-2 text-[13px] inset-ring inset-ring-edge';
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Beat of “${list.name}”`}
      about="A bar begins at each moment here. Cues that keep to the beat move with it."
      width="w-[520px]"
    >
      <div className="grid grid-cols-[1fr_1fr_1fr_32px] items-center gap-2 text-[12px] text-muted">
        <span>From</span>
        <span>Beats a minute</span>
        <span>Beats to a bar</span>
        <span />
        {rows.map((r, i) => (
          <div key={i} className="contents">
            <input
              aria-label={`From, of tempo ${i + 1}`}
              className={FIELD}
              value={r.at}
              onChange={(e) => set(i, 'at', e.target.value)}
            />
            <input
              aria-label={`Beats a minute, of tempo ${i + 1}`}
              className={FIELD}
              value={r.bpm}
              onChange={(e) => set(i, 'bpm', e.target.value)}
            />
            <input
              aria-label={`Beats to a bar, of tempo ${i + 1}`}
              className={FIELD}
              value={r.beats}
              onChange={(e) => set(i, 'beats', e.target.value)}
            />
            <IconButton
              label={`Take tempo ${i + 1} off`}
              onClick={() => setRows((now) => now.filter((_, n) => n !== i))}
            >
              <Trash2 size={14} />
            </IconButton>
          </div>
        ))}
      </div>
      <div className="mt-2 flex items-center gap-2">
        <Button
          kind="line"
          onClick={() =>
            setRows((now) => [...now, { ...(now.at(-1) ?? { bpm: '120', beats: '4' }), at: '' }])
          }
        >
          Another tempo
        </Button>
        <span className="flex-1" />
        <FindBeat
          list={list}
          onFound={(b) => setRows((now) => [beatDraft(b, now[0]), ...now.slice(1)])}
        />
        <Button kind="line" onClick={tap}>
          Tap the beat
        </Button>
        <Button disabled={!found} onClick={take}>
          {found
            ? `Take ${found.bpm.toFixed(1)}`
            : taps.length === 0
              ? 'four taps or more'
              : `${taps.length} taps`}
        </Button>
      </div>
      <p className="mt-3 min-h-9 text-[12.5px] leading-[18px] text-muted" data-testid="beat-moves">
        {moved.length > 0
          ? `With it ${moved.length === 1 ? 'moves' : 'move'}: ${moved
              .slice(0, 8)
              .map(({ cue, at_s }) => `${formatCueNumber(cue.number)} to ${formatMoment(at_s)}`)
              .join(
                ', ',
              )}${moved.length > 8 ? ' …' : ''}. ${stays} ${stays === 1 ? 'stays' : 'stay'}.`
          : 'No cue moves.'}
      </p>
      {wrong !== undefined && <p className="text-[12.5px] text-danger">{wrong}</p>}
      <div className="mt-2 flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Not now
        </Button>
        <Button kind="strong" onClick={() => void save()}>
          Set it
        </Button>
      </div>
    </Dialog>
  );
}
