/** Who is here: where, on what, live or blind; going along with somebody; and what one does with one's own screen. */
'use client';
import { DropdownMenu, Popover } from 'radix-ui';
import { Lock, LogOut } from 'lucide-react';
import { useState } from 'react';
import { notice } from '../state/messages';
import { formatCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import type { Person } from '@/core/live/messages';
import { LookDialog } from './LookDialog';
import { endFollowing } from './following';
import { Button, Dialog, Field } from '../parts/controls';
import { initials } from '../parts/initials';
import { MENU, MENU_ITEM } from '../parts/menu';
import { api, signOut } from '../state/api';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

const PLACE_WORDS: Record<string, string> = {
  rig: 'in Rig',
  stage: 'in Stage',
  book: 'in the Book',
  run: 'in Run',
  crew: 'in Crew',
  focus: 'focusing',
  notes: 'on the notes page',
  page: 'on a control page',
  go: 'on the GO page',
  booth: 'at calls',
  caller: 'calling the show',
  monitor: 'at a DMX monitor',
  panel: 'in a window of a panel',
};

/** Where somebody is, in words. */
export function useWhereabouts(): (p: Person) => string {
  const show = useShow();
  const others = useScreen((s) => s.others);
  return (p) => {
    const cue = p.cue === null ? undefined : show.cues.get(p.cue);
    const other = others.find((o) => o.userId === p.userId);
    const holds = other && other.values > 0 ? `holds ${plural(other.values, 'value')}, live` : '';
    const parts = [
      `${PLACE_WORDS[p.place] ?? 'in the show'}${cue ? `, looking at cue ${formatCueNumber(cue.number)}` : ''}`,
      p.device === '' ? '' : `on ${p.device}${p.screens > 1 ? ` and ${p.screens - 1} more` : ''}`,
      ...p.hands
        .map((h) => h.doing)
        .filter(Boolean)
        .slice(0, 2)
        .map((doing) => `in ${/^[a-z]/.test(doing) ? doing : `“${doing}”`}`),
      other && other.selection.length > 0 ? `${other.selection.length} selected` : '',
      other?.blind ? 'blind' : holds,
    ];
    return parts.filter(Boolean).join(' · ');
  };
}

function PersonChip({ person }: { person: Person }) {
  const { you, following } = useParts(useScreen, 'you', 'following');
  const holder = useScreen((s) => s.playback.holder?.userId);
  const where = useWhereabouts();
  const mine = person.userId === you.userId;
  const followed = following === person.userId;
  const board = holder === person.userId;
  const own = mine ? 'shadow-[inset_0_0_0_1.5px_var(--color-soft)]' : '';
  return (
    <Popover.Root>
      <Popover.Trigger
        data-person={person.userId}
        title={`${person.name}, ${where(person)}`}
        className={`ml-1 size-7 rounded-full bg-lift text-center text-[11px] leading-7 font-semibold hover:brightness-125 ${followed ? 'shadow-[inset_0_0_0_2px_var(--color-standby)]' : own}`}
      >
        {initials(person.name)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-40 w-72 rounded-lg bg-panel p-3 shadow-pop"
        >
          <div className="text-[14px] font-semibold">
            {person.name} {mine && <span className="font-normal text-muted">(you)</span>}
          </div>
          <div className="text-soft">
            {person.role}
            {board ? ', on the board' : ''}
          </div>
          <div className="mt-1 text-[12.5px] text-muted">{where(person)}</div>
          {!mine && (
            <Button
              className="mt-3"
              onClick={() =>
                followed
                  ? endFollowing()
                  : useScreen.setState({ following: person.userId, viewOf: null })
              }
            >
              {followed ? 'Stop following' : 'Follow what they see'}
            </Button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Who is here; going along with somebody. */
export function People() {
  const people = useScreen((s) => s.people);
  const following = useScreen((s) => s.following);
  const followed = people.find((p) => p.userId === following);
  const by = useScreen((s) => s.followedBy);
  return (
    <>
      {followed && (
        <button
          type="button"
          data-testid="following"
          onClick={endFollowing}
          title="You see what they see, until you do something. Stop now"
          className="ml-2 h-7 rounded-md bg-standby-wash px-2 text-[12px] whitespace-nowrap text-standby"
        >
          With {followed.name.split(' ')[0]}
        </button>
      )}
      {by.length > 0 && (
        <span
          data-testid="followed-by"
          title={`${by.join(' and ')} ${by.length === 1 ? 'sees' : 'see'} what you look at`}
          className="ml-2 text-[12px] whitespace-nowrap text-muted"
        >
          {by.length === 1 ? `${by[0]?.split(' ')[0]} follows` : `${by.length} follow`}
        </span>
      )}
      <div role="group" className="ml-2 flex" aria-label="People here">
        {people.slice(0, 6).map((p) => (
          <PersonChip key={p.userId} person={p} />
        ))}
        {people.length > 6 && (
          <span className="ml-1 text-[12px] leading-7 text-muted">+{people.length - 6}</span>
        )}
      </div>
      <Own />
    </>
  );
}

/** What one does with one's own session. */
function Own() {
  const [dialog, setDialog] = useState<'pin' | 'out' | 'look' | null>(null);
  const [pin, setPin] = useState<boolean>();
  const refresh = (): void =>
    void api<{ pin: boolean }>('/api/me').then(
      (me) => setPin(me.pin),
      () => undefined,
    );
  const lock = (): void => {
    api('/api/me/lock', { method: 'POST', body: '{}' }).catch((error: unknown) => {
      notice.error((error as Error).message);
      setDialog('pin');
    });
  };
  return (
    <>
      <DropdownMenu.Root onOpenChange={(o) => o && refresh()}>
        <DropdownMenu.Trigger
          aria-label="Your screen"
          title="Your screen: how it looks, lock it, PIN, sign out"
          className="ml-1 grid size-8 place-items-center rounded-md text-soft hover:bg-raised"
        >
          <Lock size={15} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={6} className={MENU}>
            <DropdownMenu.Item
              onSelect={() => setTimeout(() => setDialog('look'))}
              className={MENU_ITEM}
            >
              How it looks …
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item onSelect={lock} className={MENU_ITEM}>
              Lock this screen
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setTimeout(() => setDialog('pin'))}
              className={MENU_ITEM}
            >
              {pin ? 'Change your PIN …' : 'Set a PIN …'}
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 h-px bg-line" />
            <DropdownMenu.Item onSelect={signOut} className={MENU_ITEM}>
              Sign out
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setTimeout(() => setDialog('out'))}
              className={MENU_ITEM}
            >
              Sign out everywhere …
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {dialog === 'look' && <LookDialog onClose={() => setDialog(null)} />}
      {dialog === 'pin' && <PinDialog has={pin ?? false} onClose={() => setDialog(null)} />}
      <Dialog
        open={dialog === 'out'}
        onOpenChange={(o) => !o && setDialog(null)}
        title="Sign out everywhere?"
        about="Every screen that you are signed in on is shown out at once, this one too. What you hold and have not recorded is kept, and is there when you come back."
      >
        <div className="flex justify-end gap-2">
          <Button kind="quiet" onClick={() => setDialog(null)}>
            Stay
          </Button>
          <Button
            kind="danger"
            onClick={() =>
              void api('/api/me/sign-out-everywhere', { method: 'POST', body: '{}' }).finally(() =>
                window.location.assign('/sign-in'),
              )
            }
          >
            <LogOut size={14} /> Sign out everywhere
          </Button>
        </div>
      </Dialog>
    </>
  );
}

function PinDialog({ has, onClose }: { has: boolean; onClose: () => void }) {
  const [old, setOld] = useState('');
  const [pin, setPin] = useState('');
  const [problem, setProblem] = useState<string>();
  const put = (next: string | null): void => {
    api('/api/me/pin', {
      method: 'PUT',
      body: JSON.stringify({ pin: next, ...(has ? { old } : {}) }),
    }).then(
      () => {
        notice.done(
          next === null
            ? 'You have no PIN any more.'
            : 'Your PIN is set. Lock this screen from the same menu.',
        );
        onClose();
      },
      (error: unknown) => setProblem((error as Error).message),
    );
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={has ? 'Your PIN' : 'Set a PIN'}
      about="With it you lock this screen when you step away. It shows what plays, and takes nothing until the PIN is given."
    >
      <form
        className="space-y-3"
        onSubmit={(e) => {
          e.preventDefault();
          put(pin);
        }}
      >
        {has && (
          <Field
            label="The PIN you have"
            type="password"
            inputMode="numeric"
            value={old}
            onChange={(e) => setOld(e.target.value)}
          />
        )}
        <Field
          label="New PIN, 4 to 8 digits"
          type="password"
          inputMode="numeric"
          value={pin}
          onChange={(e) => setPin(e.target.value)}
          problem={problem}
        />
        <div className="flex justify-end gap-2">
          {has && (
            <Button kind="quiet" onClick={() => put(null)}>
              Have none
            </Button>
          )}
          <Button kind="strong" type="submit" disabled={pin === ''}>
            Keep this PIN
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
