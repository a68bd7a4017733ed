import { pictureSize } from './picture-size.ts';

const bytes = (...parts: (string | number[])[]): Uint8Array => {
  const all = parts.flatMap((p) =>
    typeof p === 'string' ? [...p].map((c) => c.charCodeAt(0)) : p,
  );
  return new Uint8Array([...all, ...new Array<number>(Math.max(0, 40 - all.length)).fill(0)]);
};
const png = (w: number[], h: number[]): Uint8Array =>
  bytes([0x89], 'PNG\r\n', [0x1a, 0x0a, 0, 0, 0, 13], 'IHDR', w, h);

test('a PNG, a JPEG and the three kinds of WebP tell their size in their first bytes', () => {
  expect(pictureSize(png([0, 0, 0x75, 0x30], [0, 0, 0x03, 0xe8]))).toEqual({
    width: 30_000,
    height: 1000,
  });
  // A comment, a table (C4) and a fill byte stand before the frame of 640 x 480.
  expect(
    pictureSize(
      bytes([
        0xff, 0xd8, 0xff, 0xfe, 0, 4, 1, 2, 0xff, 0xc4, 0, 3, 9, 0xff, 0xff, 0xc2, 0, 17, 8, 0x01,
        0xe0, 0x02, 0x80, 3,
      ]),
    ),
  ).toEqual({ width: 640, height: 480 });
  expect(
    pictureSize(
      bytes(
        'RIFF',
        [0, 0, 0, 0],
        'WEBPVP8X',
        [10, 0, 0, 0, 0, 0, 0, 0],
        [0x7f, 2, 0],
        [0xdf, 1, 0],
      ),
    ),
  ).toEqual({ width: 640, height: 480 });
  expect(
    pictureSize(
      bytes(
        'RIFF',
        [0, 0, 0, 0],
        'WEBPVP8 ',
        [0, 0, 0, 0, 0, 0, 0, 0x9d, 1, 0x2a],
        [0x80, 0x42],
        [0xe0, 0x81],
      ),
    ),
  ).toEqual({ width: 640, height: 480 });
  const bits = 639 + (479 << 14);
  expect(
    pictureSize(
      bytes(
        'RIFF',
        [0, 0, 0, 0],
        'WEBPVP8L',
        [0, 0, 0, 0, 0x2f],
        [bits & 255, (bits >> 8) & 255, (bits >> 16) & 255, bits >>> 24],
      ),
    ),
  ).toEqual({ width: 640, height: 480 });
});

test('what is no picture, is cut off or has no pixels has no size', () => {
  expect(pictureSize(new Uint8Array(0))).toBeUndefined();
  expect(
    pictureSize(new TextEncoder().encode('number,label\n1,Front light and so on and on')),
  ).toBeUndefined();
  expect(pictureSize(png([0, 0, 0, 0], [0, 0, 0, 9]))).toBeUndefined();
  expect(pictureSize(bytes([0xff, 0xd8, 0xff, 0xfe, 0xff, 0xff]))).toBeUndefined();
  const long = new Uint8Array(4_000_000).fill(0xff);
  long[1] = 0xd8;
  expect(pictureSize(long)).toBeUndefined();
});
