/** Photos of notes are made small in the browser: what a phone takes is a hundred times what a note needs. */
import { PHOTO_LIMIT } from '@/core/notes/rows';

/** Longest side in pixels, and how well it is kept; the next is tried while it is too large. */
const TRIES: [side: number, quality: number][] = [
  [1400, 0.8],
  [1100, 0.75],
  [900, 0.68],
  [700, 0.6],
  [480, 0.5],
];
/** More than any camera of a phone writes. */
const LARGEST_BYTES = 60 * 1024 * 1024;

const encode = (
  source: CanvasImageSource,
  width: number,
  height: number,
  quality: number,
): string => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  canvas.getContext('2d')?.drawImage(source, 0, 0, width, height);
  return canvas.toDataURL('image/jpeg', quality);
};

/**
 * A picture as a data URL that a note may have.
 * @throws Error with a sentence for what is no picture or cannot be made small enough
 */
export function small(source: CanvasImageSource, width: number, height: number): string {
  for (const [side, quality] of TRIES) {
    const scale = Math.min(1, side / Math.max(width, height));
    const data = encode(
      source,
      Math.max(1, Math.round(width * scale)),
      Math.max(1, Math.round(height * scale)),
      quality,
    );
    if (data.length <= PHOTO_LIMIT) return data;
  }
  throw new Error('This picture could not be made small enough. Take another, or cut it first.');
}

/** A photo made small enough to be kept; throws a sentence where it cannot be read. */
export async function photoOf(file: File): Promise<string> {
  if (file.size > LARGEST_BYTES)
    throw new Error(
      `“${file.name}” has ${Math.round(file.size / 1024 / 1024)} MB; a picture of up to 60 MB is taken in.`,
    );
  const picture = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(
    () => null,
  );
  if (!picture)
    throw new Error(
      `“${file.name}” is no picture that this browser can read. The note is kept as you wrote it.`,
    );
  try {
    return small(picture, picture.width, picture.height);
  } finally {
    picture.close();
  }
}
