/** How a list plays, a new list, and the end of one. */
'use client';
import { useState } from 'react';
import { willDo } from '@/core/edits/will';
import { formatTime, seconds, timeProblem } from '@/core/cues/clock';
import { DIRECTIONS } from '@/core/lists/rows';
import type { ListRow } from '@/core/lists/rows';
import { Button, Check, Choice, Field } from '../../parts/controls';
import { edit, tryEdit } from '../../state/actions';
import { useBook, useBookList } from '../../state/book';
import { useShow } from '../../state/store';
import { close, Planned } from './Planned';

export function ListSettings({ fresh }: { fresh: boolean }) {
  const show = useShow();
  const { list } = useBookList();
  const base: Partial<ListRow> = fresh ? {} : (list ?? {});
  const [name, setName] = useState(fresh ? '' : (list?.name ?? ''));
  const [back, setBack] = useState(formatTime(base.back_s ?? 2));
  const [release, setRelease] = useState(formatTime(base.release_s ?? 2));
  const [tracking, setTracking] = useState(base.tracking !== false);
  const [intensity, setIntensity] = useState<'htp' | 'ltp'>(base.intensity ?? 'htp');
  const [priority, setPriority] = useState(String(base.priority ?? 50));
  const [keeps, setKeeps] = useState(base.keepsThroughRelease ?? false);
  const [pre, setPre] = useState(base.prePosition ?? false);
  const [atEnd, setAtEnd] = useState<NonNullable<ListRow['atEnd']>>(base.atEnd ?? 'stop');
  const [chaseOn, setChaseOn] = useState(base.chase?.on ?? false);
  const [bpm, setBpm] = useState(
    String(
      base.chase
        ? 'bpm' in base.chase.speed
          ? base.chase.speed.bpm
          : Math.round(60 / base.chase.speed.step_s)
        : 60,
    ),
  );
  const [share, setShare] = useState(String(Math.round((base.chase?.share ?? 0.5) * 100)));
  const [direction, setDirection] = useState(base.chase?.direction ?? 'forward');
  const [count, setCount] = useState(
    base.chase?.count === undefined ? '' : String(base.chase.count),
  );
  const times = [back, release].map((t) => seconds(t));
  const numbers = [
    Number(priority),
    Number(bpm),
    Number(share),
    count.trim() === '' ? 1 : Number(count),
  ];
  const valid = times.every((t) => t !== undefined) && numbers.every((n) => Number.isFinite(n));
  const chase = {
    on: chaseOn,
    speed: { bpm: Number(bpm) },
    share: Number(share) / 100,
    direction,
    ...(count.trim() === '' ? {} : { count: Number(count) }),
  };
  const set = {
    back_s: times[0],
    release_s: times[1],
    tracking,
    intensity,
    priority: Number(priority),
    keepsThroughRelease: keeps,
    prePosition: pre,
    atEnd,
    ...(chaseOn || base.chase ? { chase } : {}),
  };
  const deleting = fresh || !list ? undefined : tryEdit('delete-list', { id: list.id });
  const [sure, setSure] = useState(false);
  return (
    <Planned
      title={fresh ? 'New list' : `How “${list?.name}” plays`}
      name={fresh ? 'make-list' : 'change-list'}
      params={
        !valid || name.trim() === ''
          ? null
          : fresh
            ? { name: name.trim(), set }
            : { id: list?.id, set: { name: name.trim(), ...set } }
      }
      act={fresh ? 'Make it' : 'Change it'}
      width="w-[560px]"
      onDone={() =>
        fresh &&
        useBook.setState({
          listId: [...show.lists.values()].find((l) => l.name === name.trim())?.id ?? null,
          follow: true,
        })
      }
    >
      <div className="grid grid-cols-[1fr_88px_88px] gap-3">
        <Field
          label="Name"
          autoFocus
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
        />
        <Field
          label="Back, s"
          number
          value={back}
          onChange={(e) => setBack(e.target.value)}
          problem={timeProblem(back)}
        />
        <Field
          label="Release, s"
          number
          value={release}
          onChange={(e) => setRelease(e.target.value)}
          problem={timeProblem(release)}
        />
      </div>
      <div className="mt-3 grid grid-cols-[1fr_88px_1fr] gap-3">
        <Choice
          label="Intensity"
          value={intensity}
          onChange={(e) => setIntensity(e.target.value as 'htp' | 'ltp')}
          options={[
            { value: 'htp', label: 'The highest of all playbacks (HTP)' },
            { value: 'ltp', label: 'The latest to act (LTP)' },
          ]}
        />
        <Field
          label="Priority"
          number
          value={priority}
          onChange={(e) => setPriority(e.target.value)}
        />
        <Choice
          label="At its end"
          value={atEnd}
          onChange={(e) => setAtEnd(e.target.value as typeof atEnd)}
          options={[
            { value: 'stop', label: 'It stays' },
            { value: 'loop', label: 'It begins again' },
            { value: 'release', label: 'It is released' },
          ]}
        />
      </div>
      <div className="mt-2 grid grid-cols-2 gap-x-3">
        <Check checked={tracking} onChange={setTracking}>
          Cues track; else each is complete
        </Check>
        <Check checked={keeps} onChange={setKeeps}>
          Keeps through release
        </Check>
        <Check checked={pre} onChange={setPre}>
          Dark heads move in the cue before
        </Check>
        <Check checked={chaseOn} onChange={setChaseOn}>
          Runs as a chase
        </Check>
      </div>
      {chaseOn && (
        <div className="mt-2 grid grid-cols-4 gap-3">
          <Field
            label="Steps a minute"
            number
            value={bpm}
            onChange={(e) => setBpm(e.target.value)}
          />
          <Field
            label="Fade, % of step"
            number
            value={share}
            onChange={(e) => setShare(e.target.value)}
          />
          <Choice
            label="Direction"
            value={direction}
            onChange={(e) => setDirection(e.target.value as typeof direction)}
            options={DIRECTIONS.map((d) => ({
              value: d,
              label: {
                forward: 'Forward',
                back: 'Back',
                bounce: 'There and back',
                random: 'At random',
              }[d],
            }))}
          />
          <Field
            label="Rounds"
            number
            value={count}
            placeholder="on and on"
            onChange={(e) => setCount(e.target.value)}
          />
        </div>
      )}
      {deleting && (
        <div className="mt-3 border-t border-line pt-2.5">
          {sure && (
            <p className="pb-2 text-[12.5px] text-soft">
              {'summary' in deleting ? `${willDo(deleting.summary)}.` : deleting.message}
            </p>
          )}
          <Button
            kind={sure ? 'danger' : 'quiet'}
            disabled={sure && !('summary' in deleting)}
            onClick={() => {
              if (!sure) setSure(true);
              else if (list) {
                close();
                useBook.setState({ listId: null, cueId: null, chosen: [] });
                void edit('delete-list', { id: list.id });
              }
            }}
          >
            {sure ? 'Delete the list and its cues' : 'Delete this list …'}
          </Button>
        </div>
      )}
    </Planned>
  );
}
