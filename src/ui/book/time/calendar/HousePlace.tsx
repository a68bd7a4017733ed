/** Where the house stands: without it there is no sun. */
'use client';
import { useWriting } from '../../../parts/use-writing';
import { edit } from '../../../state/edits';
import { mayEdit, useScreen, useShow } from '../../../state/store';

const HOUSE_AT = 'Place of the house';

/** Where the house is, for the sun. */
export function HousePlace() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const place = show.settings.get('show')?.place;
  const shown = place ? `${place.latitude}, ${place.longitude}` : '';
  const { field, problem: wrong } = useWriting(HOUSE_AT, shown, (text) => {
    const read = /^(-?\d{1,2}(?:\.\d+)?)(?:\s*[,;]\s*|\s+)(-?\d{1,3}(?:\.\d+)?)$/.exec(text.trim());
    return read
      ? edit('change-show', {
          set: { place: { latitude: Number(read[1]), longitude: Number(read[2]) } },
        })
      : 'Degrees north and east, like 54.32, -7.65. Nothing was changed.';
  });
  return (
    <label className="flex flex-wrap items-center gap-2 text-[12.5px] text-muted">
      The house stands at, north and east
      <input
        {...field}
        aria-label={HOUSE_AT}
        disabled={!may}
        placeholder="54.32, -7.65"
        className="num h-8 w-36 rounded-md bg-ink px-2 text-text inset-ring inset-ring-edge"
      />
      {!place && <span className="text-warning">without it there is no sunrise</span>}
      {wrong !== undefined && <span className="text-danger">{wrong}</span>}
    </label>
  );
}
