/** A cue of the spine, looked at: what it shows, beside what is on stage. Nothing plays by looking. */
'use client';
import { X } from 'lucide-react';
import { useMemo, type ReactNode } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { Button, IconButton } from '../parts/controls';
import { takeCue } from '../book/menu';
import { RowMenu } from '../parts/RowMenu';
import { lightsIn, SmallStage } from '../parts/small-stage';
import { said } from '../state/commands';
import { lookAt } from '../state/book';
import { useCueLook } from '../state/cue-look';
import { useRun } from '../state/run';
import { useScreen, useShow } from '../state/store';
import { Foot } from '../parts/Foot';

const close = (): void => useCueLook.setState({ cueId: null });

/** One click on a cue: in the Book its row, in Stage what it shows instead of the stage, in other places its card; again, no longer. */
export function lookAtCue(cueId: string): void {
  lookAt(cueId);
  if (useRun.getState().place === 'book') return;
  useCueLook.setState((now) => ({ cueId: now.cueId === cueId ? null : cueId }));
}

const play = (command: 'goto' | 'arm' | 'cut', cue: CueRow): void =>
  void said({ command, cue: formatCueNumber(cue.number), list: cue.listId });

/** Going to a cue is in its menu, so that it is meant. */
export function SpineMenu({
  cue,
  playing,
  openBook,
  children,
}: {
  cue: CueRow;
  playing: boolean;
  openBook: () => void;
  children: ReactNode;
}) {
  return (
    <RowMenu
      label={`Menu of cue ${formatCueNumber(cue.number)}`}
      items={() => [
        { label: 'Look at it', run: () => lookAtCue(cue.id) },
        { label: 'Open it in the Book', run: () => (lookAt(cue.id), openBook()) },
        {
          label: `Go to cue ${formatCueNumber(cue.number)} in its own time`,
          first: true,
          disabled: !playing,
          run: () => play('goto', cue),
        },
        { label: 'Cut to it', disabled: !playing, run: () => play('cut', cue) },
        { label: 'Make it the next one', disabled: !playing, run: () => play('arm', cue) },
        {
          label: 'Take it into my programmer',
          first: true,
          disabled: !playing,
          run: () => takeCue(cue, false),
        },
      ]}
    >
      {children}
    </RowMenu>
  );
}

/** Ctrl Enter on a cue that has the focus goes to it. */
export const goesByKey = (e: React.KeyboardEvent, cue: CueRow): void => {
  if (e.key !== 'Enter' || !(e.ctrlKey || e.metaKey)) return;
  e.preventDefault();
  play('goto', cue);
};

/** A cue that is looked at, beside what is on stage. */
export function CueCard({
  place,
  playing,
  openBook,
}: {
  place: string;
  playing: boolean;
  openBook: () => void;
}) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const { cueId } = useCueLook();
  const cue = cueId === null ? undefined : show.cues.get(cueId);
  const shown = cue !== undefined && place !== 'book' && place !== 'run' && place !== 'stage';
  const lights = useMemo(() => {
    void revision;
    return shown
      ? lightsIn(show, { listId: cue.listId, number: cue.number, differences: [] }, 'after')
      : [];
  }, [shown, cue, show, revision]);
  if (!shown) return null;
  return (
    <section
      aria-label={`Cue ${formatCueNumber(cue.number)}, looked at`}
      data-testid="cue-card"
      className="absolute top-2 left-2 z-20 w-[280px] rounded-[10px] bg-panel p-3 shadow-pop"
    >
      <div className="flex items-baseline gap-2">
        <span className="num text-[18px] font-semibold">{formatCueNumber(cue.number)}</span>
        <span className="min-w-0 flex-1 truncate text-[14px] font-semibold">
          {cue.name || 'Unnamed'}
        </span>
        <IconButton label="Close" onClick={close}>
          <X size={15} />
        </IconButton>
      </div>
      <div className="mt-2 overflow-hidden rounded bg-ink">
        <SmallStage wide lights={lights} label={`What cue ${formatCueNumber(cue.number)} shows`} />
      </div>
      <p className="mt-1.5 text-[12.5px] leading-[18px] text-muted">
        {lights.length === 0
          ? 'Dark.'
          : `${lights.length} ${lights.length === 1 ? 'light' : 'lights'} lit.`}{' '}
        Looked at, not on stage.
      </p>
      <Foot
        className="mt-2"
        leave="In the Book"
        onLeave={openBook}
        act="Go to it"
        disabled={!playing}
        onAct={() => (play('goto', cue), close())}
      />
    </section>
  );
}

/** Under the stage view while a cue is looked at: which, that it is not on stage, and the ways on. */
export function CueStrip({ playing, openBook }: { playing: boolean; openBook: () => void }) {
  const show = useShow();
  const { cueId } = useCueLook();
  const cue = cueId === null ? undefined : show.cues.get(cueId);
  if (!cue) return null;
  return (
    <section
      aria-label={`Cue ${formatCueNumber(cue.number)}, looked at`}
      data-testid="cue-card"
      className="flex h-9 flex-none items-center gap-2.5 border-t border-standby bg-standby-wash px-3 text-[12.5px]"
    >
      <span className="num text-[15px] font-semibold text-standby">
        {formatCueNumber(cue.number)}
      </span>
      <span className="min-w-0 truncate font-semibold">{cue.name || 'Unnamed'}</span>
      <span className="min-w-0 flex-1 truncate text-soft">Looked at, not on stage</span>
      <Button kind="quiet" className="!h-7" onClick={openBook}>
        In the Book
      </Button>
      <Button className="!h-7" disabled={!playing} onClick={() => (play('goto', cue), close())}>
        Go to it
      </Button>
      <IconButton label="Back to the stage" onClick={close}>
        <X size={15} />
      </IconButton>
    </section>
  );
}
