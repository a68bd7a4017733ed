/** A new recording of the same music: how it lies against the old one, and where every cue goes, before anything moves. */
'use client';
import { useState } from 'react';
import { formatTime, seconds } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import type { ListRow } from '@/core/lists/rows';
import type { Pair } from '@/core/sounds/align';
import { formatMoment } from '@/core/time/moment';
import { laidOn } from '@/core/time/recording';
import { Dialog } from '../../parts/controls';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { BringSound } from './BringSound';
import {
  beatPairs,
  BY_WORDS,
  markPairs,
  onTrack,
  sayLength,
  WAYS,
  type Way,
} from './recording-ways';
import { useAligned } from './use-aligned';
import { Foot } from '../../parts/Foot';

function Moves({ list, pairs }: { list: ListRow; pairs: readonly Pair[] }) {
  const { cues } = laidOn(useShow(), list.id, pairs);
  return (
    <div className="mt-3 max-h-52 overflow-auto rounded-md inset-ring inset-ring-line">
      <table className="w-full text-[12.5px]" data-testid="recording-moves">
        <thead className="sticky top-0 bg-raised text-left text-muted">
          <tr>
            {['Cue', 'Was at', 'Comes at', 'Keeps to'].map((h) => (
              <th key={h} className="px-2 py-1 font-medium">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cues.map(({ cue, to_s }) => (
            <tr key={cue.id} className={to_s === cue.at_s ? 'text-muted' : ''}>
              <td className="px-2 py-0.5">
                <span className="num">{formatCueNumber(cue.number)}</span> {cue.name}
              </td>
              <td className="num px-2">{formatMoment(cue.at_s)}</td>
              <td className="num px-2">{to_s === cue.at_s ? 'stays' : formatMoment(to_s)}</td>
              <td className="px-2">{cue.keeps === 'beat' ? 'the beat' : 'the clock'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function MarkFields({
  list,
  moved,
  onMove,
}: {
  list: ListRow;
  moved: Readonly<Record<string, string>>;
  onMove: (name: string, text: string) => void;
}) {
  const marks = list.time?.marks ?? [];
  if (marks.length === 0)
    return <p className="mt-2 text-[12.5px] text-muted">This track has no marks yet.</p>;
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      {marks.map((m) => (
        <label key={`${m.at_s}/${m.name}`} className="flex items-center gap-2 text-[12.5px]">
          <span className="flex-1 truncate">
            {m.name} <span className="num text-muted">{formatMoment(m.at_s)}</span>
          </span>
          <input
            aria-label={`${m.name} in the new recording`}
            value={moved[m.name] ?? formatTime(m.at_s)}
            onChange={(e) => onMove(m.name, e.target.value)}
            className="num h-7 w-20 rounded-md bg-ink px-2 inset-ring inset-ring-edge"
          />
        </label>
      ))}
    </div>
  );
}

/** What lies against what, by the way that is chosen; a sentence where there is none. */
function usePairs(list: ListRow, sound: string, way: Way, marks: Readonly<Record<string, string>>) {
  const show = useShow();
  const old = show.sounds.get(list.time?.sound?.sound ?? '')?.file;
  const file = show.sounds.get(sound)?.file;
  const found = useAligned(old, file);
  const lies = list.time?.sound ?? { at_s: 0 };
  const read = (): Pair[] | string => {
    if (way === 'marks') return markPairs(list.time?.marks ?? [], (m) => seconds(marks[m] ?? ''));
    if (found === 'working') return 'The two are being compared …';
    if (found === 'failed' || found === 'none')
      return old
        ? 'The two could not be compared.'
        : 'This track had no sound to compare with: lay it by its marks.';
    if (way === 'beats')
      return found.beat
        ? beatPairs(list.time?.tempo ?? [], found.beat, file?.length_s ?? 0, found.begins_s, lies)
        : 'No beat was found in the new recording.';
    return found.aligned
      ? onTrack(found.aligned.pairs, lies)
      : 'One of the two is too short to be compared.';
  };
  const alike = typeof found === 'object' ? found.aligned?.alike : undefined;
  return { old, file, pairs: sound === '' ? 'Choose the new recording first.' : read(), alike };
}

/** Lays another recording under a track, and moves its cues with the music. */
export function RecordingDialog({ list, onClose }: { list: ListRow; onClose: () => void }) {
  const [sound, setSound] = useState('');
  const [way, setWay] = useState<Way>('sound');
  const [marks, setMarks] = useState<Record<string, string>>({});
  const [wrong, setWrong] = useState<string>();
  const { old, file, pairs, alike } = usePairs(list, sound, way, marks);
  const lay = async (): Promise<void> => {
    if (typeof pairs === 'string') return;
    const { from_s, to_s, ...kept } = list.time?.sound ?? { at_s: 0 };
    void from_s;
    void to_s;
    const next = { ...kept, sound };
    const answer = await edit('lay-recording', { list: list.id, sound: next, pairs: [...pairs] });
    if ('changes' in answer) onClose();
    else setWrong(answer.message);
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`A new recording of “${list.name}”`}
      about="Cues that keep to the beat move with the music, those that keep to the clock stay. It is one change; one undo takes it back."
      width="w-[640px]"
    >
      <BringSound
        label="The new recording"
        value={sound}
        without={list.time?.sound?.sound}
        onChoose={setSound}
      />
      <label className="mt-3 block text-[12px] text-muted">
        Laid against the old one
        <select
          value={way}
          onChange={(e) => setWay(WAYS.find((w) => w === e.target.value) ?? 'sound')}
          className="mt-1 block h-8 w-full rounded-md bg-ink px-2 text-[13px] text-text inset-ring inset-ring-edge"
        >
          {WAYS.map((w) => (
            <option key={w} value={w}>
              {BY_WORDS[w]}
            </option>
          ))}
        </select>
      </label>
      {way === 'marks' && (
        <MarkFields
          list={list}
          moved={marks}
          onMove={(name, text) => setMarks((now) => ({ ...now, [name]: text }))}
        />
      )}
      <p className="mt-2 text-[12.5px] text-soft" data-testid="recording-says">
        {typeof pairs === 'string' ? pairs : sayLength(pairs, old, file)}
        {typeof pairs !== 'string' && way === 'sound' && alike !== undefined && (
          <span className={alike < 0.5 ? 'text-warning' : 'text-muted'}>
            {' '}
            {alike < 0.5
              ? 'The two are hardly alike: look closely, or lay it by its marks.'
              : `${Math.round(alike * 100)} % alike.`}
          </span>
        )}
      </p>
      {typeof pairs !== 'string' && <Moves list={list} pairs={pairs} />}
      {wrong !== undefined && (
        <p role="alert" className="mt-2 text-[12.5px] text-danger">
          {wrong}
        </p>
      )}
      <Foot
        className="mt-3"
        onLeave={onClose}
        act="Lay the cues on it"
        disabled={typeof pairs === 'string'}
        onAct={() => void lay()}
      />
    </Dialog>
  );
}
