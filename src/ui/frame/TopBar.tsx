'use client';
import { CircleHelp, Redo2, Undo2, X } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { Nowhere } from '@/core/live/messages';
import { showName } from '@/core/show/show';
import { numberRanges } from '@/core/words';
import { Button, Dialog, IconButton } from '../parts/controls';
import { ask, live } from '../state/commands';
import { reverse } from '../state/edits';
import { useKeyName } from './keys';
import { InboxButton } from './Inbox';
import { LeftStanding } from './LeftLights';
import { People } from './People';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { setFilter, useFilter } from '../state/filter';
import { useTakenCue } from '../state/taken';
import { useTryingIn } from '../state/trying';
import { useParts } from '../state/use-parts';
import { TimecodeMark } from './TimecodeMark';

const PLACES = [
  ['rig', 'Rig'],
  ['stage', 'Stage'],
  ['book', 'Book'],
  ['run', 'Run'],
  ['sheets', 'Sheets'],
  ['crew', 'Crew'],
] as const;

/** Wingman’s mark. */
export function Mark() {
  return (
    <svg
      width="24"
      height="20"
      viewBox="0 0 24 20"
      fill="none"
      className="flex-none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden="true"
    >
      <path d="M2 3c2.5 8.5 4.500 12.500 6.500 13.500C10 15 11 12 12 8c1 4 2 7 3.500 8.500C17.500 15.500 19.500 11.500 22 3" />
      <circle cx="12" cy="3.200" r="1.400" fill="currentColor" stroke="none" />
    </svg>
  );
}

/** What can surprise: lights held for somebody on a ladder, remote controls that may play. In sight in every place. */
function Standing({ showId }: { showId: string }) {
  const focus = useScreen((s) => s.over.focus.length);
  const guarded = useScreen((s) => s.over.guarded.length);
  const remotes = useScreen((s) => s.playback.remotes);
  if (focus + guarded === 0 && !remotes) return null;
  return (
    <Link
      href={`/shows/${showId}/run`}
      data-testid="standing"
      title="In Run they are let off, and switched off"
      className="flex h-7 items-center gap-2 rounded-md bg-warning px-2 text-[12px] whitespace-nowrap text-ink"
    >
      {[
        focus > 0 ? `${focus} held` : '',
        guarded > 0 ? `${guarded} guarded` : '',
        remotes ? 'remotes on' : '',
      ]
        .filter(Boolean)
        .join(', ')}
    </Link>
  );
}

/** An effect that is on stage and not kept, while its panel is out of sight. */
function Tried({ showId, place }: { showId: string; place: string }) {
  const trying = useTryingIn(showId);
  if (!trying || trying.off || place === 'stage') return null;
  return (
    <Link
      href={`/shows/${showId}/stage`}
      data-testid="tried"
      title="Keep it or leave it on Stage"
      className="flex h-7 max-w-48 items-center gap-2 truncate rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-unrecorded hover:bg-lift"
    >
      {trying.draft.name}: tried, not kept
    </Link>
  );
}

/** Only some of what is held counts: in sight in every place, and taken away with a press. */
function Filtered() {
  const filter = useFilter((s) => s.filter);
  if (!filter) return null;
  return (
    <button
      type="button"
      data-testid="filter"
      title={`Only ${filter.families.join(', ')} are recorded, taken and applied on this screen. Press: everything counts again`}
      onClick={() => setFilter(null)}
      className="flex h-7 max-w-40 items-center gap-1.5 truncate rounded-md bg-warning px-2 text-[12px] whitespace-nowrap text-ink"
    >
      {filter.name} <X size={12} aria-hidden="true" />
    </button>
  );
}

/** What is held was taken from a cue: where it goes back to. */
function TakenFrom({ openRecord }: { openRecord: () => void }) {
  const cue = useTakenCue();
  const may = useScreen((s) => mayEdit(s.you.role));
  if (!cue || !may) return null;
  const number = formatCueNumber(cue.number);
  return (
    <button
      type="button"
      data-testid="taken"
      title={`You hold values of LX ${number}: back into it, before it, after it`}
      onClick={openRecord}
      className="flex h-7 items-center rounded-md bg-raised px-2 text-[12px] whitespace-nowrap text-unrecorded hover:bg-lift"
    >
      Put LX {number} back …
    </button>
  );
}

type Output = ReturnType<typeof useScreen.getState>['air'];

/** `No cable in the card “lights”: nothing leaves.`, of all universes or of these. */
const sayNowhere = ({ universes, of, why }: Nowhere): string =>
  universes.length === of
    ? why
    : `${universes.length === 1 ? 'Universe' : 'Universes'} ${numberRanges(universes)}: ${why}`;

function outputWords(air: Output, here: boolean, isLive: boolean): { text: string; look: string } {
  if (!isLive) return { text: 'Output not known', look: 'bg-faint' };
  if (!here) return { text: 'In rehearsal · nothing is sent', look: 'border border-muted' };
  if (air.problem) return { text: `Output in trouble: ${air.problem}`, look: 'bg-danger' };
  if (air.nowhere) return { text: sayNowhere(air.nowhere), look: 'bg-danger' };
  if (air.onlyNode)
    return { text: 'On air to the simulated node only', look: 'border-2 border-lime' };
  return {
    text: `On air · ${air.universes} ${air.universes === 1 ? 'universe' : 'universes'} · 44 Hz`,
    look: 'bg-lime ring-3 ring-lime/15',
  };
}

/** Output in words and colour; never says more than is true. */
function AirState() {
  const { air, connection, showId, you } = useParts(
    useScreen,
    'air',
    'connection',
    'showId',
    'you',
  );
  const [asking, setAsking] = useState(false);
  const here = air.showId === showId;
  const { text, look } = outputWords(air, here, connection === 'live');
  return (
    <>
      <button
        type="button"
        data-testid="air"
        aria-label={`Output: ${text}`}
        title={
          here && air.onlyNode
            ? 'Only the simulated node is fed: nothing leaves this machine. Rig, Outputs says where universes go.'
            : undefined
        }
        disabled={!mayPlay(you.role) || connection !== 'live'}
        onClick={() => setAsking(true)}
        className="flex h-8 items-center gap-2 rounded-md px-2 text-[12px] whitespace-nowrap text-soft hover:bg-raised disabled:hover:bg-transparent"
      >
        <i className={`size-2 rounded-full ${look}`} />
        {text}
      </button>
      {asking && <AirDialog here={here} onClose={() => setAsking(false)} />}
    </>
  );
}

/** Asks before what is on air changes, and says what will happen on stage; or why it may not be done. */
function AirDialog({ here, onClose }: { here: boolean; onClose: () => void }) {
  const name = showName(useShow());
  const onlyNode = useScreen((s) => s.air.onlyNode);
  const [plan, setPlan] = useState<{ may: boolean; text: string } | null>(null);
  useEffect(() => {
    let stopped = false;
    void ask({ command: 'air', on: !here, preview: true }).then(
      (reply) => !stopped && setPlan({ may: reply.ok, text: reply.message ?? '' }),
    );
    return () => {
      stopped = true;
    };
  }, [here]);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={here ? `Take “${name}” off air?` : `Put “${name}” on air?`}
    >
      <p
        role="status"
        data-testid="air-plan"
        className={`min-h-10 ${plan?.may === false ? 'text-warning' : 'text-soft'}`}
      >
        {plan?.text ?? 'Looking at what is on stage …'}
      </p>
      {here && onlyNode && (
        <p className="mt-2 text-muted">
          Only the simulated node is fed: nothing leaves this machine until a universe is sent
          elsewhere, in Rig under Outputs.
        </p>
      )}
      <div className="mt-4 flex items-center justify-between">
        <Link href="/node" className="text-[12.5px] text-standby hover:underline">
          What the simulated node receives
        </Link>
        <span className="flex gap-2">
          <Button kind="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button
            kind="strong"
            disabled={!plan?.may}
            onClick={() => {
              onClose();
              void live({ command: 'air', on: !here });
            }}
          >
            {here ? 'Take off air' : 'Put on air'}
          </Button>
        </span>
      </div>
    </Dialog>
  );
}

/** The line over every place. */
export function TopBar({
  showId,
  place,
  openHelp,
  openRecord,
}: {
  showId: string;
  place: string;
  openHelp: () => void;
  openRecord: () => void;
}) {
  const show = useShow();
  const { you } = useParts(useScreen, 'you');
  const keyName = useKeyName();
  const venue = show.settings.get('show')?.venue ?? '';
  return (
    <header className="col-span-2 flex items-center border-b border-line pr-3">
      <Link
        href="/"
        className="flex w-[208px] items-center gap-2.5 pl-4 text-[14px] font-semibold text-soft focus-visible:outline-offset-[-2px]"
        title="All shows"
      >
        <Mark />
        Wingman
      </Link>
      <h1
        data-testid="show-name"
        className="max-w-[240px] min-w-20 shrink truncate pl-4 text-[17px] font-[650]"
        title={showName(show)}
      >
        {showName(show)}
      </h1>
      {venue && (
        <span className="ml-2.5 hidden max-w-[190px] min-w-0 truncate pt-0.5 text-[12px] text-muted xl:block">
          {venue}
        </span>
      )}
      <nav aria-label="Places" className="ml-3 flex flex-none self-stretch xl:ml-6">
        {PLACES.map(([id, label]) => (
          <Link
            key={id}
            href={`/shows/${showId}/${id}`}
            aria-current={place === id ? 'page' : undefined}
            className={`relative px-2 text-[13.5px] leading-[43px] font-medium focus-visible:outline-offset-[-5px] xl:px-[11px] ${place === id ? 'text-text after:absolute after:inset-x-2 after:bottom-[-1px] after:h-0.5 after:rounded after:bg-text xl:after:inset-x-[11px]' : 'text-muted hover:text-soft'}`}
          >
            {label}
          </Link>
        ))}
      </nav>
      <span className="ml-auto flex items-center gap-1">
        <LeftStanding />
        <TimecodeMark />
        <Filtered />
        <TakenFrom openRecord={openRecord} />
        <Tried showId={showId} place={place} />
        <Standing showId={showId} />
        <AirState />
      </span>
      <InboxButton />
      <People />
      <IconButton
        label={`Undo your last edit (${keyName('undo')})`}
        className="ml-2"
        disabled={!mayEdit(you.role)}
        onClick={() => void reverse('undo')}
      >
        <Undo2 size={16} />
      </IconButton>
      <IconButton
        label={`Redo (${keyName('redo')})`}
        disabled={!mayEdit(you.role)}
        onClick={() => void reverse('redo')}
      >
        <Redo2 size={16} />
      </IconButton>
      <IconButton label={`All keys and lines (${keyName('help')})`} onClick={openHelp}>
        <CircleHelp size={16} />
      </IconButton>
    </header>
  );
}
