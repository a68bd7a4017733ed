'use client';
import { formatCueNumber } from '@/core/cues/number';
import { Dialog } from '../parts/controls';
import { useShow } from '../state/store';
import { LeaveNote } from './LeaveNote';
import { useNoteDialog } from './note-dialog';

/** A note about something, with its drawing and its photo. */
export function NoteDialog() {
  const about = useNoteDialog((s) => s.about);
  const show = useShow();
  if (!about) return null;
  const close = (): void => useNoteDialog.setState({ about: null });
  const [cue, unit] = [show.cues.get(about.cueId ?? ''), show.fixtures.get(about.fixtureId ?? '')];
  const quote = about.words
    ? show.scripts
        .get(about.words.scriptId)
        ?.text.slice(about.words.from, about.words.to)
        .replace(/\s+/g, ' ')
        .trim()
    : undefined;
  const words =
    [
      unit ? `unit ${unit.number}` : '',
      quote ? `“${quote.slice(0, 40)}”` : '',
      cue ? `cue ${formatCueNumber(cue.number)} ${cue.name}`.trim() : '',
    ]
      .filter(Boolean)
      .join(' in ') || 'the show';
  return (
    <Dialog open onOpenChange={(o) => !o && close()} title="Leave a note" width="w-[520px]">
      <div className="-mx-4">
        <LeaveNote about={about} words={words} onLeft={close} />
      </div>
    </Dialog>
  );
}
