/** Pictures of patterns: drawn from our own paths, or an image that somebody put in. In a square of 24. */
import { displayRGB, toXYZ } from '@/core/color/mix';
import { PATTERNS } from '@/core/rig/patterns';
import type { Emitter } from '@/core/types/rows';

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
