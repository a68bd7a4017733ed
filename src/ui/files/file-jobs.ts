/** What is read from a person's file, without a screen: the part that runs in the worker. Each takes the bytes and answers or refuses in a sentence. */
import { toBase64 } from '@/core/formats/base64';
import { cleanSvg, svgData } from '@/core/formats/svg';
import { PICTURE_PIXELS, pictureSize } from '@/core/formats/picture-size';
import { isRefusal, refuse, type Refusal, type Result } from '@/core/refusal';
import { decodeText, guessFormat } from '@/core/script/anchors';
import { SCRIPT_LIMIT } from '@/core/script/rows';
import { BACKGROUND_LIMIT } from '@/core/plan/rows';
import { PICTURE_LIMIT } from '@/core/types/rows';

const NO_PICTURE = refuse(
  'invalid',
  'This file is no picture that can be read. Use PNG, JPEG, WebP or a drawing (SVG). Nothing was changed.',
);

async function decoded(bytes: Uint8Array): Promise<Result<ImageBitmap>> {
  const size = pictureSize(bytes);
  if (!size) return NO_PICTURE;
  if (size.width * size.height > PICTURE_PIXELS)
    return refuse(
      'too-large',
      `This picture has ${size.width} × ${size.height} pixels; at most ${PICTURE_PIXELS / 1e6} million are read. Make it smaller first. Nothing was changed.`,
    );
  try {
    return await createImageBitmap(new Blob([new Uint8Array(bytes)]));
  } catch {
    return NO_PICTURE;
  }
}

/** A canvas as a data URL, of the first quality that fits. */
async function packed(
  canvas: OffscreenCanvas,
  type: string,
  qualities: readonly number[],
  limit: number,
): Promise<Result<string>> {
  for (const quality of qualities) {
    const blob = await canvas.convertToBlob({ type, quality });
    const data = `data:${type};base64,${toBase64(new Uint8Array(await blob.arrayBuffer()))}`;
    if (data.length <= limit) return data;
  }
  return refuse(
    'too-large',
    'This picture stays too large, also with little detail: use a smaller one. Nothing was changed.',
  );
}

/** A drawing stays one: it is sharp at any size. */
function ofDrawing(drawing: Uint8Array): Result<string> {
  const data = svgData(drawing);
  return data.length <= BACKGROUND_LIMIT
    ? data
    : refuse(
        'too-large',
        'This drawing has more than 1.2 MB: make it simpler, or a picture of it. Nothing was changed.',
      );
}

/** A picture under a layout is made small enough here, so that a photo of a drawing can be used as it is. */
async function background(bytes: Uint8Array): Promise<Result<string>> {
  const drawing = pictureSize(bytes) ? undefined : cleanSvg(bytes);
  if (drawing && !isRefusal(drawing)) return ofDrawing(drawing);
  const bitmap = await decoded(bytes);
  if (isRefusal(bitmap)) return bitmap;
  const scale = Math.min(1, 1800 / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(bitmap.width * scale)),
    Math.max(1, Math.round(bitmap.height * scale)),
  );
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  return packed(canvas, 'image/webp', [0.85, 0.7, 0.5], BACKGROUND_LIMIT);
}

/** An image cut to a small square, so that a photograph of a pattern fits into a row. */
async function pattern(bytes: Uint8Array): Promise<Result<string>> {
  const bitmap = await decoded(bytes);
  if (isRefusal(bitmap)) return bitmap;
  const canvas = new OffscreenCanvas(96, 96);
  const side = Math.min(bitmap.width, bitmap.height);
  canvas
    .getContext('2d')
    ?.drawImage(
      bitmap,
      (bitmap.width - side) / 2,
      (bitmap.height - side) / 2,
      side,
      side,
      0,
      0,
      96,
      96,
    );
  return packed(canvas, 'image/jpeg', [0.8, 0.5], PICTURE_LIMIT);
}

function script(
  bytes: Uint8Array,
  name: string,
): { text: string; encoding: string; format: ReturnType<typeof guessFormat> } | Refusal {
  const read = decodeText(bytes);
  if (!read)
    return refuse(
      'invalid',
      `“${name}” is not a text file. Save the script as plain text, Markdown or Fountain and try again.`,
    );
  if (read.text.length > SCRIPT_LIMIT)
    return refuse(
      'too-large',
      `“${name}” has more than ${SCRIPT_LIMIT / 1e6} million characters, which is the most that a script has. Nothing was taken in.`,
    );
  return { ...read, format: guessFormat(name, read.text) };
}

/** What is read of files in a worker. */
export const FILE_JOBS = {
  script,
  background,
  pattern,
} as const;

/** Most bytes of a file for each job: looked at before it is read. */
export const FILE_BYTES: Record<keyof typeof FILE_JOBS, number> = {
  script: SCRIPT_LIMIT * 4,
  background: 40_000_000,
  pattern: 40_000_000,
};
