/** The Book's list along its time: what of it there is, where it is, and what whoever is here may do with it. */
'use client';
import { useMemo } from 'react';
import type { CueRow } from '@/core/cues/rows';
import { goingBy, type Goes } from '@/core/lists/going';
import type { ListRow } from '@/core/lists/rows';
import type { ListStatus } from '@/core/live/messages';
import { toMillisecond } from '@/core/time/moment';
import { NO_TIME, type ListTime } from '@/core/time/rows';
import { endOf, isBehindEnd, numberAtMoment, timedCues, type TimedCue } from '@/core/time/timed';
import { said } from '../../state/commands';
import { edit } from '../../state/edits';
import { useBookList } from '../../state/book';
import { mayEdit, mayPlay, useScreen, useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import { snapped } from './snap';
import { usePosition, type Position } from './use-position';

type Track = Parameters<typeof said>[0] & { command: 'track' };
type TrackSays = Omit<Track, 'command' | 'list'>;

/** A list’s track as this screen has it. */
export interface TrackHere {
  list: ListRow | undefined;
  listId: string;
  status: ListStatus | undefined;
  /** Looked at in the Book. */
  cue: CueRow | undefined;
  cues: readonly TimedCue[];
  /** Not on the track. */
  others: readonly CueRow[];
  /** On it, behind its end: they never come. */
  behind: readonly TimedCue[];
  time: ListTime;
  end_s: number;
  position: Position;
  mayEdit: boolean;
  mayPlay: boolean;
  say: (track: TrackSays) => void;
  put: (set: Partial<ListTime>) => void;
  /** What moves it on from now on. */
  goes: (by: Goes) => void;
  /** Where time is while it runs, else at the cursor. */
  placeHere: (cueId: string) => void;
  /** A new cue there: empty, it shows what tracks into it. */
  makeHere: () => void;
}

/** That of the Book’s list. */
export function useTrackHere(): TrackHere {
  const show = useShow();
  const { list, listId, status, cue } = useBookList();
  const role = useScreen((s) => s.you.role);
  const position = usePosition(status);
  const version = show.version('cues');
  const cues = useMemo(() => {
    void version;
    return timedCues(show, listId);
  }, [show, listId, version]);
  const time = list?.time ?? NO_TIME;
  const here = (): number => {
    const view = useTrackView.getState();
    const at_s = snapped(position.now() ?? view.cursor_s, { ...view, time, free: position.runs });
    return toMillisecond(at_s);
  };
  return {
    list,
    listId,
    status,
    cue,
    cues,
    others: show.cuesOf(listId).filter((c) => c.at_s === undefined),
    behind: cues.filter((c) => isBehindEnd(time, c.at_s)),
    time,
    end_s: endOf(show, listId),
    position,
    mayEdit: mayEdit(role),
    mayPlay: mayPlay(role) && (cues.length > 0 || time.sound !== undefined),
    say: (track) => void said({ command: 'track', list: listId, ...track }),
    put: (set) => void edit('change-list', { id: listId, set: { time: { ...time, ...set } } }),
    goes: (by) => void edit('change-list', { id: listId, set: goingBy(list ?? {}, by) }),
    placeHere: (id) => void edit('place-cues', { list: listId, at: { [id]: here() } }),
    makeHere: () => {
      const at_s = here();
      const number = numberAtMoment(show, listId, at_s);
      void edit('make-cues', { listId, cues: [{ number, at_s }] });
    },
  };
}
