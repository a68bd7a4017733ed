/** Before the show: what is odd about the list with a way to each, and a rehearsal in fast motion. */
'use client';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { BookFinding } from '@/core/cues/findings';
import { plural } from '@/core/words';
import { standing } from '@/core/rig/findings';
import { packShow } from '@/core/formats/pack';
import { Button, Dialog, Tabs } from '../parts/controls';
import { AsideList, PutAside } from '../parts/Aside';
import { select } from '../state/commands';
import { api } from '../state/api';
import { lookAt, useBookList } from '../state/book';
import { useScreen } from '../state/store';
import { useBookDialog } from './menu';
import { useParts } from '../state/use-parts';

const ABOUT: Record<BookFinding['about'], string> = {
  addresses: 'Addresses',
  outputs: 'Outputs',
  power: 'Power',
  programming: 'Programming',
  movement: 'Movement',
  groups: 'Groups',
  units: 'What hangs',
  cues: 'Cues',
  actions: 'References',
  script: 'Script',
  times: 'Times',
};

/** What a rehearsal met. */
export interface Rehearsed {
  cues: number;
  played_s: number;
  took_ms: number;
  met: { cueId: string | null; text: string }[];
}

function Row({
  grave,
  about,
  text,
  cueId,
  fixtures,
  finding,
}: Pick<BookFinding, 'grave' | 'text' | 'fixtures'> & {
  about: string;
  cueId?: string | null;
  finding?: BookFinding;
}) {
  return (
    <li className="flex min-h-9 items-center gap-2 border-t border-line py-1 first:border-t-0">
      <TriangleAlert
        size={15}
        className={`flex-none ${grave ? 'text-danger' : 'text-warning'}`}
        aria-label={grave ? 'grave' : 'to look at'}
      />
      <span className="w-[84px] flex-none text-[12px] text-muted">{about}</span>
      <span className="min-w-0 flex-1 text-[12.5px] leading-[18px]">{text}</span>
      {(cueId ?? fixtures[0]) && (
        <button
          type="button"
          className="h-7 flex-none rounded-md px-2 text-[12px] text-standby hover:bg-raised"
          onClick={() => {
            if (cueId) lookAt(cueId);
            if (fixtures.length > 0) select(fixtures);
            if (cueId) useBookDialog.setState({ dialog: null });
          }}
        >
          {cueId ? 'Go there' : `Select ${fixtures.length}`}
        </button>
      )}
      {finding && <PutAside finding={finding} />}
    </li>
  );
}

/** What is odd about the list, looked for in a worker whenever the show changes; null until it is known. */
function useFindings(): BookFinding[] | null {
  const { listId } = useBookList();
  const { show, revision } = useParts(useScreen, 'show', 'revision');
  const [found, setFound] = useState<BookFinding[] | null>(null);
  useEffect(() => {
    void revision;
    const worker = new Worker(new URL('./findings.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<BookFinding[]>) => setFound(data);
    worker.postMessage({ packed: packShow(show), listId });
    return () => worker.terminate();
  }, [show, revision, listId]);
  return found;
}

/** What somebody should look at in the book, and playing it through. */
export function FindingsDialog() {
  const { list } = useBookList();
  const { show } = useParts(useScreen, 'show', 'revision');
  const [tab, setTab] = useState<'checks' | 'rehearsal'>('checks');
  const found = useFindings();
  const open = found && standing(show, found);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && useBookDialog.setState({ dialog: null })}
      title={`Before the show: ${list?.name}`}
      width="w-[760px]"
      tall
    >
      <Tabs
        label="Which"
        value={tab}
        options={[
          { value: 'checks', label: open ? `Checks ${open.length}` : 'Checks' },
          { value: 'rehearsal', label: 'Rehearsal in fast motion' },
        ]}
        onChange={setTab}
      />
      {/* What a rehearsal met stays while one looks at the checks. */}
      <div hidden={tab !== 'checks'}>
        <Checks found={found} open={open} />
      </div>
      <div hidden={tab !== 'rehearsal'}>
        <Rehearsal />
      </div>
    </Dialog>
  );
}

function Checks({ found, open }: { found: BookFinding[] | null; open: BookFinding[] | null }) {
  const { show } = useParts(useScreen, 'show', 'revision');
  return (
    <ul
      className="mt-2 max-h-[64vh] overflow-y-auto"
      aria-label="Findings"
      data-testid="book-findings"
    >
      {!found && <li className="py-3 text-muted">Looking …</li>}
      {open?.length === 0 && (
        <li className="flex items-center gap-2 py-3 text-soft">
          <CircleCheck size={16} /> Nothing odd was found.
        </li>
      )}
      {open?.map((f) => (
        <Row
          key={f.key}
          finding={f}
          grave={f.grave}
          text={f.text}
          fixtures={f.fixtures}
          cueId={f.cueId ?? null}
          about={ABOUT[f.about]}
        />
      ))}
      {found && (
        <li>
          <AsideList findings={found.filter((f) => show.settings.get('show')?.aside?.[f.key])} />
        </li>
      )}
    </ul>
  );
}

/** `12 cues, 4 min 10 s of show, in 0.8 s.` */
function sayPlayed({ cues, played_s, took_ms, met }: Rehearsed): string {
  const lasted = `${Math.floor(played_s / 60)} min ${Math.round(played_s % 60)} s`;
  const found =
    met.length === 0 ? 'Nothing was in the way.' : `${plural(met.length, 'thing')} to look at:`;
  return `Played ${plural(cues, 'cue')}, ${lasted} of show, in ${(took_ms / 1000).toFixed(1)} s. ${found}`;
}

function Rehearsal() {
  const { listId } = useBookList();
  const showId = useScreen((s) => s.showId);
  const [rehearsed, setRehearsed] = useState<Rehearsed | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const rehearse = async (): Promise<void> => {
    setBusy(true);
    setProblem('');
    try {
      setRehearsed(
        await api<Rehearsed>(`/api/shows/${showId}/rehearse?list=${encodeURIComponent(listId)}`, {
          method: 'POST',
        }),
      );
    } catch (error) {
      setProblem((error as Error).message);
    }
    setBusy(false);
  };
  return (
    <div className="mt-3">
      <p className="text-[12.5px] leading-[18px] text-soft">
        Plays the whole list through the real player, on a clock of its own, without output: every
        GO, follow, loop and action, and what they bring about. The show that plays is not touched.
      </p>
      <Button kind="strong" className="mt-3" disabled={busy} onClick={() => void rehearse()}>
        {busy ? 'Playing …' : 'Play it through'}
      </Button>
      {problem !== '' && <p className="mt-2 text-danger">{problem}</p>}
      {rehearsed && (
        <>
          <p className="mt-3 text-[12.5px]" data-testid="rehearsed">
            {sayPlayed(rehearsed)}
          </p>
          <ul className="mt-1 max-h-[48vh] overflow-y-auto">
            {rehearsed.met.map((m, i) => (
              <Row key={i} grave={false} about="Met" text={m.text} cueId={m.cueId} fixtures={[]} />
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
