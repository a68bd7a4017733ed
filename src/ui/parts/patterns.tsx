/** Pictures of patterns: drawn from our own paths, or an image that somebody put in. In a square of 24. */
import { displayRGB, toXYZ } from '@/core/color/mix';
import type { Emitter } from '@/core/types/rows';

export const PATTERNS: Readonly<Record<string, string>> = {
  open: 'M12 3a9 9 0 1 0 0 18a9 9 0 1 0 0-18',
  portholes:
    'M7 6a2.500 2.500 0 1 0 .01 0M17 6a2.500 2.500 0 1 0 .01 0M7 13a2.500 2.500 0 1 0 .01 0M17 13a2.500 2.500 0 1 0 .01 0',
  rigging: 'M4 21L12 3L20 21M7.500 13.500H16.500M5.800 17.500H18.200M9.500 9H14.500M12 3V21',
  leaves:
    'M6 6c4 0 5 2 5 5c-4 0-5-2-5-5M18 7c0 4-2 5-5 5c0-4 2-5 5-5M7 19c0-4 2-5 5-5c0 4-2 5-5 5M19 17c-4 1-5-1-6-3c4-1 6 1 6 3',
  window: 'M5 4h6v7H5zM13 4h6v7h-6zM5 13h6v7H5zM13 13h6v7h-6z',
  waves: 'M3 8c3-3 6 3 9 0s6 3 9 0M3 13c3-3 6 3 9 0s6 3 9 0M3 18c3-3 6 3 9 0s6 3 9 0',
  dots: 'M6 6h.01M12 6h.01M18 6h.01M6 12h.01M12 12h.01M18 12h.01M6 18h.01M12 18h.01M18 18h.01',
  shards: 'M4 5l6 2l-4 5zM13 4l7 3l-6 4zM5 15l7-2l-3 7zM15 13l5 3l-5 4z',
  stars: 'M7 5v5M4.500 7.500h5M17 4v4M15 6h4M12 12v6M9 15h6M18 15v4M16 17h4',
  bars: 'M5 4v16M9 4v16M13 4v16M17 4v16M21 4v16',
};

/** A filter's colour for a screen. */
export const cssOf = (color: Emitter): string => `rgb(${displayRGB(toXYZ(color)).join(',')})`;

const patternName = (picture: string): string => picture.replace('pattern:', '');

/** A slot's picture, small enough for a list. */
export function PatternPicture({
  picture,
  size = 22,
  label,
}: {
  picture: string;
  size?: number;
  label: string;
}) {
  if (picture.startsWith('data:'))
    return (
      <img
        src={picture}
        alt={label}
        width={size}
        height={size}
        className="rounded-full object-cover"
      />
    );
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      {...(label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label })}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.8"
      strokeLinecap="round"
    >
      <circle cx="12" cy="12" r="11.200" strokeWidth="0.800" opacity="0.5" />
      <path d={PATTERNS[patternName(picture)] ?? PATTERNS.open} />
    </svg>
  );
}

const paths = new Map<string, Path2D>();
const images = new Map<string, HTMLImageElement>();

/** Draws a picture over a beam's end. */
export function drawPattern(
  g: CanvasRenderingContext2D,
  picture: string,
  x: number,
  y: number,
  size: number,
): void {
  if (picture.startsWith('data:')) {
    let image = images.get(picture);
    if (!image) {
      image = new Image();
      image.src = picture;
      images.set(picture, image);
    }
    if (image.complete && image.naturalWidth > 0)
      g.drawImage(image, x - size / 2, y - size / 2, size, size);
    return;
  }
  const name = patternName(picture);
  const known = paths.get(name) ?? new Path2D(PATTERNS[name] ?? PATTERNS.open);
  paths.set(name, known);
  g.save();
  g.translate(x - size / 2, y - size / 2);
  g.scale(size / 24, size / 24);
  g.strokeStyle = 'rgba(255,255,255,0.85)';
  g.lineWidth = 1.6;
  g.lineCap = 'round';
  g.stroke(known);
  g.restore();
}
