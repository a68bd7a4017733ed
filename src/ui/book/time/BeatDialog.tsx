/** The beat of a track: tapped or typed, bars, and changes of tempo. What moves with it is said before. */
'use client';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { ListRow } from '@/core/lists/rows';
import type { Show } from '@/core/show/show';
import { seconds } from '@/core/cues/clock';
import { movedByTempo } from '@/core/time/edits';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import type { Tempo } from '@/core/time/rows';
import { tapped } from '@/core/time/tempo';
import { listed, plural } from '@/core/words';
import { timedCues } from '@/core/time/timed';
import type { FoundBeat } from '@/core/sounds/beat';
import { FindBeat } from './FindBeat';
import { Button, Dialog, IconButton } from '../../parts/controls';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { Trash2 } from 'lucide-react';
import { Foot } from '../../parts/Foot';

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

/** Taps of one count: where the track was, or by the clock while it stood. */
interface Taps {
  onTrack: boolean;
  at_s: readonly number[];
}
const NO_TAPS: Taps = { onTrack: false, at_s: [] };
const TAPS_KEPT = 64;

/** A count goes on while the track goes on: one that begins to play, stops, or jumps back begins it anew. */
function tappedOn(now: Taps, track_s: number | null): Taps {
  const onTrack = track_s !== null;
  const at_s = track_s ?? performance.now() / 1000;
  const last = now.at_s.at(-1);
  const goesOn = last !== undefined && now.onTrack === onTrack && at_s > last;
  return { onTrack, at_s: goesOn ? [...now.at_s.slice(1 - TAPS_KEPT), at_s] : [at_s] };
}

const FIELD = 'num h-8 w-full rounded-md bg-ink px-2 text-[13px] inset-ring inset-ring-edge';
const COLUMNS = [
  ['at', 'From'],
  ['bpm', 'Beats a minute'],
  ['beats', 'Beats to a bar'],
] as const satisfies readonly (readonly [keyof Draft, string])[];

type SetRows = (next: (now: readonly Draft[]) => Draft[]) => void;

function TempoRows({ rows, set }: { rows: readonly Draft[]; set: SetRows }) {
  return (
    <div className="grid grid-cols-[1fr_1fr_1fr_32px] items-center gap-2 text-[12px] text-muted">
      {COLUMNS.map(([field, label]) => (
        <span key={field}>{label}</span>
      ))}
      <span />
      {rows.map((r, i) => (
        <div key={i} className="contents">
          {COLUMNS.map(([field, label]) => (
            <input
              key={field}
              aria-label={`${label}, of tempo ${i + 1}`}
              className={FIELD}
              value={r[field]}
              onChange={({ target: { value } }) =>
                set((now) => now.map((row, n) => (n === i ? { ...row, [field]: value } : row)))
              }
            />
          ))}
          <IconButton
            label={`Take tempo ${i + 1} off`}
            onClick={() => set((now) => now.filter((_, n) => n !== i))}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
    </div>
  );
}

/** The first tempo, found in the sound or tapped. @param nowOn as {@link BeatDialog} */
function FoundAndTapped({
  list,
  nowOn,
  set,
}: {
  list: ListRow;
  nowOn: () => number | null;
  set: SetRows;
}) {
  const [taps, setTaps] = useState(NO_TAPS);
  const found = tapped(taps.at_s);
  const { length } = taps.at_s;
  const take = (): void => {
    if (!found) return;
    set(([first, ...rest]) => [
      {
        // Taps beside a track that stands say how fast, and not from when on.
        at: taps.onTrack
          ? formatMoment(Math.max(0, toMillisecond(found.first_s)))
          : (first?.at ?? formatMoment(0)),
        bpm: found.bpm.toFixed(2),
        beats: first?.beats ?? '4',
      },
      ...rest,
    ]);
    setTaps(NO_TAPS);
  };
  const counted = length === 0 ? 'four taps or more' : plural(length, 'tap');
  return (
    <>
      <FindBeat
        list={list}
        onFound={(b) => set(([first, ...rest]) => [beatDraft(b, first), ...rest])}
      />
      <Button kind="line" onClick={() => setTaps((now) => tappedOn(now, nowOn()))}>
        Tap the beat
      </Button>
      <Button disabled={!found} onClick={take}>
        {found ? `Take ${found.bpm.toFixed(1)}` : counted}
      </Button>
    </>
  );
}

const SAID = 8;
/** Which cues move with these tempos, and how many stay. */
function sayMoves(show: Show, listId: string, tempo: readonly Tempo[] | undefined): string {
  const moved = tempo ? movedByTempo(show, listId, [...tempo]) : [];
  if (moved.length === 0) return 'No cue moves.';
  const stays = timedCues(show, listId).length - moved.length;
  const where = listed(
    moved.map(({ cue, at_s }) => `${formatCueNumber(cue.number)} to ${formatMoment(at_s)}`),
    SAID,
  );
  return `With it ${moved.length === 1 ? 'moves' : 'move'}: ${where}. ${stays} ${stays === 1 ? 'stays' : 'stay'}.`;
}

const draftsOf = (tempo: readonly Tempo[]): Draft[] =>
  tempo.length > 0 ? tempo.map(draftOf) : [{ at: '0:00.00', bpm: '120', beats: '4' }];

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
  const [rows, setRows] = useState<readonly Draft[]>(() => draftsOf(list.time?.tempo ?? []));
  const [wrong, setWrong] = useState<string>();
  const all = rows.map(tempoOf);
  const tempo = all.every((t) => t !== undefined) ? all : undefined;
  const set: SetRows = (next) => setRows((now) => next(now));
  const save = async (): Promise<void> => {
    if (!tempo) {
      setWrong('A moment is like 1:12.5, a tempo and its beats are numbers. Nothing was changed.');
      return;
    }
    const answer = await edit('set-tempo', { list: list.id, tempo });
    if ('changes' in answer) onClose();
    else setWrong(answer.message);
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Beat of “${list.name}”`}
      about="A bar begins at each moment here. Cues that keep to the beat move with it."
      width="w-[520px]"
    >
      <TempoRows rows={rows} set={set} />
      <div className="mt-2 flex items-center gap-2">
        <Button
          kind="line"
          onClick={() =>
            set((now) => [...now, { ...(now.at(-1) ?? { bpm: '120', beats: '4' }), at: '' }])
          }
        >
          Another tempo
        </Button>
        <span className="flex-1" />
        <FoundAndTapped list={list} nowOn={nowOn} set={set} />
      </div>
      <p className="mt-3 min-h-9 text-[12.5px] leading-[18px] text-muted" data-testid="beat-moves">
        {sayMoves(show, list.id, tempo)}
      </p>
      {wrong !== undefined && <p className="text-[12.5px] text-danger">{wrong}</p>}
      <Foot className="mt-2" onLeave={onClose} act="Set it" onAct={() => void save()} />
    </Dialog>
  );
}
