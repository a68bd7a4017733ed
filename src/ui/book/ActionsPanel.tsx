/** What a cue does besides light, each action an icon with words. */
'use client';
import {
  AudioLines,
  Hand,
  ListMusic,
  Power,
  Radio,
  SlidersVertical,
  Trash2,
  Wrench,
  Zap,
} from 'lucide-react';
import { useState } from 'react';
import type { CueAction, CueRow } from '@/core/cues/rows';
import { Button, IconButton } from '../parts/controls';
import { edit } from '../state/edits';
import { ActionForm } from './actions/ActionForm';
import { mayEdit, useScreen, useShow } from '../state/store';
import { actionWords } from '@/core/cues/action-words';
import { same } from '@/core/same';

const ICONS = {
  list: ListMusic,
  fader: SlidersVertical,
  flash: Zap,
  'release-looks': SlidersVertical,
  'let-off': Hand,
  remotes: Power,
  osc: Radio,
  midi: Radio,
  'show-control': Radio,
  bytes: Radio,
  macro: Wrench,
  sound: AudioLines,
} as const;
/** The picture of what a cue does. */
export function ActionIcon({ action, size = 14 }: { action: CueAction; size?: number }) {
  const Icon = ICONS[action.do];
  return <Icon size={size} className="flex-none text-muted" aria-hidden="true" />;
}

/** What a cue does beside its light, in order; written where it stands. */
export function ActionsPanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  /** The one that is changed, or a new one. */
  const [writing, setWriting] = useState<CueAction | 'new' | null>(null);
  const actions = cue.actions ?? [];
  const put = (next: CueAction[]): void =>
    void edit('change-cue', { id: cue.id, set: { actions: next } });
  const done = (next: CueAction | null): void => {
    setWriting(null);
    if (!next) return;
    // One that others have taken away meanwhile is there again as it is now.
    const at = actions.findIndex((a) => same(a, writing));
    put(at < 0 ? [...actions, next] : actions.with(at, next));
  };
  return (
    <div className="space-y-1.5 overflow-y-auto px-3.5 pb-3 text-[12.5px]">
      {actions.length === 0 && writing === null && (
        <p className="leading-[18px] text-muted">
          On its GO a cue can also start other lists, move faders, send OSC and MIDI, or start a
          sound. An action that fails is reported and never stops the cue.
        </p>
      )}
      <ul>
        {actions.map((a, i) => (
          <li key={i} className="flex h-8 items-center gap-2 border-t border-line first:border-t-0">
            <ActionIcon action={a} />
            <button
              type="button"
              disabled={disabled}
              title="Change it"
              onClick={() => setWriting(a)}
              className="min-w-0 flex-1 truncate text-left enabled:hover:text-text"
            >
              {actionWords(show, a)}
            </button>
            <IconButton
              label={`Take off: ${actionWords(show, a)}`}
              disabled={disabled}
              onClick={() => put(actions.filter((_, n) => n !== i))}
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {writing === 'new' && <ActionForm onDone={done} />}
      {writing !== null && writing !== 'new' && (
        <ActionForm key={JSON.stringify(writing)} first={writing} act="Change it" onDone={done} />
      )}
      {writing === null && (
        <Button kind="line" disabled={disabled} onClick={() => setWriting('new')}>
          New action
        </Button>
      )}
    </div>
  );
}
