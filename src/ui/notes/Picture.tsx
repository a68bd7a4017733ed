/** Pictures of notes, with what was drawn on them. */
type Lines = readonly (readonly number[])[];

/** Lines of a drawing, from 0 to 1 each way, in a box of that size. */
export function Strokes({ lines }: { lines: Lines }) {
  return lines.map((l, i) => (
    <polyline
      key={i}
      points={Array.from({ length: l.length / 2 }, (_, k) => `${l[k * 2]},${l[k * 2 + 1]}`).join(
        ' ',
      )}
      fill="none"
      stroke="var(--color-warning)"
      strokeWidth={3}
      strokeLinecap="round"
      strokeLinejoin="round"
      vectorEffect="non-scaling-stroke"
    />
  ));
}

/** A photo with what was drawn on it. */
export function Picture({
  src,
  label,
  lines,
  className,
}: {
  src: string | undefined;
  label: string;
  lines?: Lines | undefined;
  className: string;
}) {
  return (
    <span className="relative inline-block bg-panel">
      {src ? (
        <img src={src} alt={label} className={`block object-contain ${className}`} />
      ) : (
        <span className={`block aspect-[16/9] ${className}`} />
      )}
      {lines && (
        <svg
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          aria-hidden="true"
          className="pointer-events-none absolute inset-0 size-full"
        >
          <Strokes lines={lines} />
        </svg>
      )}
    </span>
  );
}
