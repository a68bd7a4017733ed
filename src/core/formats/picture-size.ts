/** How large a picture is, from its first bytes alone: whoever decodes one knows before how much memory it takes. */

export interface PictureSize {
  /** Pixels. */
  width: number;
  height: number;
}

/** Most pixels that are decoded: a photograph of a drawing has at most a quarter of that. */
export const PICTURE_PIXELS = 80_000_000;

const ascii = (bytes: Uint8Array, from: number, to: number): string =>
  String.fromCharCode(...bytes.subarray(from, to));

function ofJpeg(view: DataView): PictureSize | undefined {
  let at = 2;
  while (at + 9 < view.byteLength) {
    if (view.getUint8(at) !== 0xff) return undefined;
    const marker = view.getUint8(at + 1);
    // Fill bytes may stand before a marker (ISO/IEC 10918-1, B.1.1.2).
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    // Start of frame 0 to 15; C4, C8 and CC are tables and an extension (B.1.1.3).
    if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
      return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    at += 2 + Math.max(2, view.getUint16(at + 2));
  }
  return undefined;
}

function ofWebp(bytes: Uint8Array, view: DataView): PictureSize | undefined {
  const three = (at: number): number => view.getUint16(at, true) + (view.getUint8(at + 2) << 16);
  const kind = ascii(bytes, 12, 16);
  if (kind === 'VP8X') return { width: three(24) + 1, height: three(27) + 1 };
  if (kind === 'VP8 ')
    return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
  if (kind !== 'VP8L') return undefined;
  const bits = view.getUint32(21, true);
  return { width: (bits & 0x3fff) + 1, height: ((bits >>> 14) & 0x3fff) + 1 };
}

function sizeIn(bytes: Uint8Array, view: DataView): PictureSize | undefined {
  if (view.getUint32(0) === 0x89504e47 && ascii(bytes, 12, 16) === 'IHDR')
    return { width: view.getUint32(16), height: view.getUint32(20) };
  if (view.getUint16(0) === 0xffd8) return ofJpeg(view);
  const isWebp = ascii(bytes, 0, 4) === 'RIFF' && ascii(bytes, 8, 12) === 'WEBP';
  return isWebp ? ofWebp(bytes, view) : undefined;
}

/**
 * The size of a PNG (ISO/IEC 15948, IHDR), a JPEG (ISO/IEC 10918-1, frame header) or a WebP (RFC 9649).
 * Undefined for everything else; takes time in line with the bytes at most.
 */
export function pictureSize(bytes: Uint8Array): PictureSize | undefined {
  if (bytes.length < 30) return undefined;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const size = sizeIn(bytes, view);
  return size && size.width > 0 && size.height > 0 ? size : undefined;
}
