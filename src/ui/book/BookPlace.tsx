/** Book: the script beside the cue sheet, the cue's times beneath, and what recording would do. */
'use client';
import type { CueRow } from '@/core/cues/rows';
import { useRef, useState } from 'react';
import { Group, Panel, useDefaultLayout } from 'react-resizable-panels';
import { formatCueNumber } from '@/core/cues/number';
import { OPEN_RECORD } from '../frame/ask';
import { layouts } from '../state/preferences';
import { Tabs } from '../parts/controls';
import { Divider } from '../stage/StagePlace';
import { lookAt, useBookList } from '../state/book';
import { useScreen, useShow } from '../state/store';
import { ActionsPanel } from './ActionsPanel';
import { BookBar } from './BookBar';
import { BookDialogs } from './BookDialogs';
import { CuePanel } from './CuePanel';
import { CueSheet } from './CueSheet';
import { NoteList } from './NoteList';
import { PartsPanel } from './PartsPanel';
import { RecordPanel } from './record';
import { ScriptPane } from './ScriptPane';
import { TimingNow, TimingPanel } from './TimingPanel';
import { TimePanel } from './time/TimePanel';
import { useTrackView } from '../state/track';

type View = 'times' | 'cue' | 'actions' | 'parts' | 'notes';

function Foot() {
  const show = useShow();
  const { cue: followed } = useBookList();
  // What is being written stays with its cue while the show goes on.
  const [writing, setWriting] = useState<string | null>(null);
  // A field that goes with its cue is left by nobody.
  if (writing !== null && !show.cues.has(writing)) setWriting(null);
  const panel = useRef<HTMLDivElement>(null);
  const cue = (writing === null ? undefined : show.cues.get(writing)) ?? followed;
  const [view, setView] = useState<View>('times');
  const open = [...show.notes.values()].filter((n) => !n.done).length;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-9 flex-none items-center gap-2 overflow-hidden px-2">
        <Tabs
          label="About the cue"
          value={view}
          options={[
            { value: 'times', label: 'Times' },
            { value: 'cue', label: 'Cue' },
            { value: 'actions', label: `Actions${cue?.actions ? ` ${cue.actions.length}` : ''}` },
            { value: 'parts', label: `Parts${cue?.parts ? ` ${cue.parts.length}` : ''}` },
            {
              value: 'notes',
              label: (
                <span
                  className={open > 0 ? 'text-warning' : ''}
                >{`Notes${open > 0 ? ` ${open}` : ''}`}</span>
              ),
            },
          ]}
          onChange={setView}
        />
        {cue && (
          <span className="ml-auto flex flex-none items-baseline gap-2 pr-2 whitespace-nowrap">
            {view === 'times' ? (
              <TimingNow />
            ) : (
              <span data-testid="foot-cue" className="num text-[12px] text-standby">
                LX {formatCueNumber(cue.number)}
                {writing !== null && followed && followed.id !== cue.id && (
                  <span className="font-ui text-warning">
                    {' '}
                    being written; the Book is at {formatCueNumber(followed.number)}
                  </span>
                )}
              </span>
            )}
          </span>
        )}
      </div>
      <div
        ref={panel}
        onInput={(e) =>
          (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) &&
          cue &&
          view !== 'times' &&
          setWriting(cue.id)
        }
        onBlur={() =>
          setTimeout(() =>
            setWriting((now) => (panel.current?.contains(document.activeElement) ? now : null)),
          )
        }
        className="min-h-0 flex-1 overflow-hidden"
      >
        <PanelOf view={view} cue={cue} onCue={lookAt} />
      </div>
    </div>
  );
}

/** What the foot shows: of the whole list, or of the chosen cue. */
function PanelOf({
  view,
  cue,
  onCue,
}: {
  view: View;
  cue: CueRow | undefined;
  onCue: (id: string) => void;
}) {
  if (view === 'notes')
    return (
      <div className="h-full overflow-y-auto px-3 py-2">
        <NoteList onCue={onCue} />
      </div>
    );
  if (view === 'times') return <TimingPanel />;
  if (!cue) return <p className="p-4 text-[12.5px] text-muted">Choose a cue first.</p>;
  const Panel = { cue: CuePanel, actions: ActionsPanel, parts: PartsPanel }[view];
  return (
    <div key={cue.id} className="flex h-full flex-col">
      <Panel cue={cue} />
    </div>
  );
}

/** The Book: cues, their values, their script, and the cue that is looked at. */
export function BookPlace() {
  const { cues, list } = useBookList();
  const loaded = useScreen((s) => s.loaded);
  const across = useDefaultLayout({ id: 'wingman-book', storage: layouts });
  const down = useDefaultLayout({ id: 'wingman-book-down', storage: layouts });
  const foot = useDefaultLayout({ id: 'wingman-book-foot', storage: layouts });
  const isTime = useTrackView((s) => s.isOpen);
  // The track has the whole width: along time there is no room for the script beside it.
  if (isTime)
    return (
      <>
        <div className="flex h-full flex-col">
          <BookBar />
          <div className="min-h-0 flex-1">
            <TimePanel />
          </div>
        </div>
        <BookDialogs />
      </>
    );
  return (
    <>
      <Group {...across} orientation="horizontal" className="h-full">
        <Panel id="script" defaultSize={336} minSize={200} collapsible>
          <ScriptPane />
        </Panel>
        <Divider />
        <Panel id="sheet" minSize={420}>
          <Group {...down} orientation="vertical" className="h-full">
            <Panel id="cues" minSize={160}>
              <div className="flex h-full flex-col">
                <BookBar />
                <div className="min-h-0 flex-1">
                  {loaded && cues.length === 0 ? (
                    <div className="grid h-full place-items-center p-8 text-center text-muted">
                      <div className="max-w-sm">
                        <p className="text-[15px] font-semibold text-soft">
                          {list?.number === 1
                            ? 'An empty book'
                            : `${list?.name ?? 'This list'} has no cues yet`}
                        </p>
                        <p className="mt-1">
                          Set some fixtures on Stage, then record: Ctrl R, or type record cue 1
                          &quot;Preset&quot;. Or make many empty cues at once, from the menu Cues.
                          Every cue stores only what it changes; the rest tracks through as a line.
                        </p>
                      </div>
                    </div>
                  ) : (
                    <CueSheet />
                  )}
                </div>
              </div>
            </Panel>
            <Divider flat />
            <Panel id="foot" defaultSize={196} minSize={60} collapsible>
              <Group {...foot} orientation="horizontal" className="h-full">
                <Panel id="about" defaultSize={410} minSize={200}>
                  <Foot />
                </Panel>
                <Divider />
                <Panel id="record" minSize={200}>
                  <RecordPanel openDialog={() => window.dispatchEvent(new Event(OPEN_RECORD))} />
                </Panel>
              </Group>
            </Panel>
          </Group>
        </Panel>
      </Group>
      <BookDialogs />
    </>
  );
}
