/** The call for light, where the operator's hand is: it blinks until it is answered, and is plain when GO is due. */
'use client';
import { useEffect, useRef } from 'react';
import { boardOver } from '@/core/live/boards';
import { said } from '../state/commands';
import { mayPlay, useScreen, usePlayback } from '../state/store';
import { sound } from './call-sound';
import { useSince } from './use-since';
import { useParts } from '../state/use-parts';

/** @param large to be pressed with a thumb */
export function CallLamp({
  listId,
  large = false,
}: {
  listId: string | undefined;
  large?: boolean;
}) {
  const call = useScreen((s) =>
    s.playback.calls.find((c) => c.listId !== null && c.listId === listId),
  );
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  const { boards } = usePlayback('boards');
  const since = useSince();
  const told = useRef<string>(undefined);
  const key = call ? `${call.id}/${call.state}` : '';
  useEffect(() => {
    if (told.current !== undefined && key !== told.current) {
      if (call?.state === 'standby') sound('standby');
      else if (call?.state === 'go') sound('go');
    }
    told.current = key;
  }, [key, call?.state]);
  if (!call) return null;
  const board = listId === undefined ? undefined : boardOver(boards, { list: listId });
  const mayAnswer =
    mayPlay(you.role) && connection === 'live' && (!board || board.userId === you.userId);
  const box = `mt-1.5 w-full rounded-md px-2 text-center font-semibold ${large ? 'min-h-14 text-[18px]' : 'min-h-9 text-[13px]'}`;
  if (call.state === 'go')
    return (
      <p
        role="status"
        data-testid="called"
        className={`${box} grid place-items-center bg-lime py-1 text-lime-ink`}
      >
        <span>
          {call.words} called by {call.by}{' '}
          <span className="num font-normal">{since(call.since_s).toFixed(0)} s</span>
        </span>
      </p>
    );
  if (call.state === 'ready')
    return (
      <p
        role="status"
        data-testid="called"
        className={`${box} grid place-items-center bg-standby-wash py-1 text-standby shadow-[inset_0_0_0_1.5px_var(--color-standby)]`}
      >
        {call.answeredBy} stands by for {call.words}
      </p>
    );
  return (
    <button
      type="button"
      data-testid="called"
      disabled={!mayAnswer}
      title={
        mayAnswer
          ? `${call.by} wants to know that you stand by`
          : `${board?.name ?? 'Whoever plays'} answers`
      }
      onClick={() => void said({ command: 'answer-call', call: call.id })}
      className={`${box} animate-pulse bg-standby text-ink`}
    >
      Stand by {call.words}
      {mayAnswer && (
        <span className="block text-[11.5px] font-normal">press to answer {call.by}</span>
      )}
    </button>
  );
}
