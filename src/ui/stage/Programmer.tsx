/** The programmer strip: what you hold, what of it is not recorded, and the ways out. */
'use client';
import { plural } from '@/core/edits/edit';
import { attributeInfo } from '@/core/rig/attributes';
import { FAMILIES, type Family } from '@/core/show/rows';
import { formatCueNumber } from '@/core/cues/number';
import { Button } from '../parts/controls';
import { askToRecord } from '../frame/ask';
import { live, record } from '../state/actions';
import { mayEdit, mayPlay, unrecordedCount, useList, useScreen, useShow } from '../state/store';

const WORDS: Record<Family, string> = { intensity: 'Intensity', position: 'Position', colour: 'Colour', beam: 'Beam', control: 'Control' };

export function Programmer() {
  const show = useShow();
  const { values, others, you } = useScreen();
  const list = useList();
  const held = [...values.values()];
  const fresh = unrecordedCount(values);
  const fixtures = new Set(held.map((v) => v.fixtureId)).size;
  const on = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const families = FAMILIES.map((family) => ({ family, of: held.filter((v) => attributeInfo(v.attribute).family === family) })).filter((f) => f.of.length > 0);
  return (
    <section aria-label="Your programmer" className="flex h-12 flex-none items-center gap-2.5 border-t border-line bg-panel pl-4 pr-3">
      <i className={`size-2 flex-none rounded-full ${fresh > 0 ? 'bg-unrecorded' : 'border border-edge'}`} />
      <b className="whitespace-nowrap text-[13.5px] font-semibold">Your programmer</b>
      <span data-testid="programmer-count" className="whitespace-nowrap text-muted">
        {held.length === 0 ? 'empty' : `${plural(held.length, 'value')}, ${plural(fixtures, 'fixture')}${fresh < held.length ? `, ${held.length - fresh} recorded` : ''}`}
      </span>
      <span className="ml-1.5 flex min-w-0 flex-1 items-center gap-1.5 overflow-hidden">
        {families.map(({ family, of }) => {
          const pending = of.some((v) => !v.recorded);
          const first = of[0];
          const one = family === 'intensity' && first && of.every((v) => v.level === first.level) ? `${Math.round(first.level * 100)} %` : String(of.length);
          return (
            <button
              key={family}
              type="button"
              disabled={!mayPlay(you.role)}
              title={`Let go of ${WORDS[family].toLowerCase()} alone`}
              onClick={() => void live({ command: 'letgo', fade_s: 0, slots: of.map((v) => ({ fixtureId: v.fixtureId, attribute: v.attribute })) })}
              className={`flex h-7 items-center gap-1.5 whitespace-nowrap rounded-full border px-2.5 text-[12px] ${pending ? 'border-dashed border-unrecorded' : 'border-edge'}`}
            >
              <span className="text-muted">{WORDS[family]}</span>
              <span className="num text-[11.5px]">{one}</span>
            </button>
          );
        })}
        {others.length > 0 && <span className="truncate text-[12px] text-muted">{others.map((o) => `${o.name} holds ${plural(o.values, 'value')}`).join(' · ')}</span>}
      </span>
      {mayPlay(you.role) && (
        <>
          <Button kind="quiet" disabled={held.length === 0} onClick={() => void live({ command: 'clear' })}>
            Clear
          </Button>
          <Button kind="quiet" disabled={held.length === 0} title="Fade back to playback in two seconds (Ctrl L)" onClick={() => void live({ command: 'letgo', fade_s: 2 })}>
            Let go
          </Button>
        </>
      )}
      {mayEdit(you.role) && (
        <>
          <Button kind="line" disabled={fresh === 0 || !on} title={on ? `Put what you hold into cue ${formatCueNumber(on.number)}` : 'No cue is on stage'} onClick={() => on && void record({ number: on.number, mode: 'track', existing: 'must' })}>
            Update{on ? ` ${formatCueNumber(on.number)}` : ''}
          </Button>
          <Button kind="strong" title="Record a cue (Ctrl R)" onClick={askToRecord}>
            Record
          </Button>
        </>
      )}
    </section>
  );
}
