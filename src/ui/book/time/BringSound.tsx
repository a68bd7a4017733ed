/** A sound is chosen among those of the show, or brought as a file: how much of it is on its way, that it is measured, what was wrong. */
'use client';
import { useState } from 'react';
import { formatMoment } from '@/core/time/moment';
import { ApiError } from '../../state/api';
import { bringSound, type Brought } from '../../state/sounds';
import { useShow } from '../../state/store';

/** How much of a file has come, 0 to 1; then it is measured. */
const howFar = (share: number): string =>
  share < 1 ? `${Math.round(share * 100)} %` : 'measuring …';

/** Chooses a sound, or takes one in. */
export function BringSound({
  label,
  value,
  without,
  onChoose,
}: {
  label: string;
  value: string;
  /** Not offered. */
  without?: string | undefined;
  onChoose: (sound: string) => void;
}) {
  const sounds = [...useShow().sounds.values()].filter((s) => s.file && s.id !== without);
  const [share, setShare] = useState<number | null>(null);
  const [said, setSaid] = useState<string>();
  const done = ({ sound, problem }: Brought): void => {
    setSaid(problem);
    onChoose(sound);
  };
  const bring = async (file: File): Promise<void> => {
    setSaid(undefined);
    setShare(0);
    try {
      done(await bringSound(file, setShare));
    } catch (error) {
      setSaid(error instanceof ApiError ? error.message : 'This file cannot be read.');
    }
    setShare(null);
  };
  return (
    <div>
      <div className="flex items-end gap-2">
        <label className="flex-1 text-[12px] text-muted">
          {label}
          <select
            value={value}
            onChange={(e) => onChoose(e.target.value)}
            className="mt-1 block h-8 w-full rounded-md bg-ink px-2 text-[13px] text-text inset-ring inset-ring-edge"
          >
            <option value="">none</option>
            {sounds.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}, {formatMoment(s.file?.length_s ?? 0)}
              </option>
            ))}
          </select>
        </label>
        <label className="flex h-8 cursor-pointer items-center rounded-md px-2.5 text-[13px] text-soft inset-ring inset-ring-edge hover:bg-lift">
          {share === null ? 'Bring a file …' : howFar(share)}
          <input
            type="file"
            aria-label="Sound file"
            accept=".wav,.mp3,.ogg,.opus,.flac,.m4a,audio/*"
            className="sr-only"
            disabled={share !== null}
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              e.target.value = '';
              if (file) void bring(file);
            }}
          />
        </label>
      </div>
      {said !== undefined && (
        <p role="alert" className="mt-1 text-[12px] text-warning">
          {said}
        </p>
      )}
    </div>
  );
}
