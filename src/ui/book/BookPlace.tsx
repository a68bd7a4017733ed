'use client';
import { useState } from 'react';
import { useList, useScreen, useShow } from '../state/store';
import { CuePanel } from './CuePanel';
import { CueSheet } from './CueSheet';

/** The cue list as a sheet: what is set is a number, what tracks is a line from it. */
export function BookPlace() {
  const show = useShow();
  const list = useList();
  const loaded = useScreen((s) => s.loaded);
  const [chosen, setChosen] = useState<string | null>(null);
  const cues = list ? show.cuesOf(list.id) : [];
  const cue = (chosen ? show.cues.get(chosen) : undefined) ?? (list?.cueId ? show.cues.get(list.cueId) : undefined);
  if (loaded && cues.length === 0) {
    return (
      <div className="grid h-full place-items-center p-8 text-center text-muted">
        <div className="max-w-sm">
          <p className="text-[15px] font-semibold text-soft">An empty book</p>
          <p className="mt-1">Set some fixtures on Stage, then record: Ctrl R, or type record cue 1 &quot;Preset&quot;. Every cue stores only what it changes; the rest tracks through as a line.</p>
        </div>
      </div>
    );
  }
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1">
        <CueSheet chosen={cue?.id ?? null} onChoose={setChosen} />
      </div>
      {cue && <CuePanel key={cue.id} cue={cue} onGone={() => setChosen(null)} />}
    </div>
  );
}
