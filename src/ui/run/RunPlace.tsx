/** Run: what is on, what is next, the script, other lists and faders. Locked against editing until it is opened on purpose. */
'use client';
import { formatCueNumber } from '@/core/cues/number';
import { Page } from '../book/ScriptPage';
import { useCalls } from '../book/use-calls';
import { Plan } from '../plan/Plan';
import { live } from '../state/commands';
import { useWatch } from '../state/link';
import { useRun } from '../state/run';
import { useList } from '../state/store';
import { Faders } from './Faders';
import { Head } from './Head';
import { NowNext } from './NowNext';
import { OtherLists } from './OtherLists';
import { Reports } from './Reports';

function Follow() {
  const list = useList();
  const { script, calls } = useCalls(list?.id);
  if (!script)
    return (
      <div className="grid h-full place-items-center bg-page text-[13px] text-muted">
        No script yet: take one in in the Book.
      </div>
    );
  return (
    <Page
      big
      script={script}
      calls={calls}
      now={list?.cueId ?? null}
      next={list?.nextId ?? null}
      onCall={({ cue }) => void live({ command: 'arm', cue: formatCueNumber(cue.number) })}
      onLine={(at) => {
        const called = calls.filter((c) => c.call.from < at).at(-1);
        if (called) void live({ command: 'arm', cue: formatCueNumber(called.cue.number) });
      }}
    />
  );
}

/** Run: now and next, the script, lists and faders. */
export function RunPlace() {
  const sound = useRun((s) => s.sound);
  useWatch([], { sound });
  return (
    <div className="relative flex h-full flex-col">
      <Head />
      <Reports />
      {/* Sizes that no content decides: a second that is counted down lays out what it stands in, and not the script. */}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(330px,36%)] grid-rows-[minmax(0,1fr)]">
        <div className="flex min-h-0 flex-col">
          <NowNext />
          <div className="min-h-0 flex-1 border-t border-line contain-strict">
            <Follow />
          </div>
        </div>
        <div className="flex min-h-0 flex-col border-l border-line">
          <OtherLists />
          <Faders />
          <section
            aria-label="On stage now"
            className="h-[30%] min-h-[120px] flex-none border-t border-line max-[1100px]:hidden"
          >
            <div className="pointer-events-none relative h-full">
              <Plan arrange={false} />
            </div>
          </section>
        </div>
      </div>
    </div>
  );
}
