/** Wingman as an app: every icon that it names is there, in the size that is said. */
import { existsSync, readFileSync } from 'node:fs';
import manifest from './manifest.ts';

/** Width and height as a PNG says them (ISO/IEC 15948, 11.2.2). */
const sizeOf = (file: string): string => {
  const png = readFileSync(file);
  return `${png.readUInt32BE(16)}x${png.readUInt32BE(20)}`;
};

test('its icons are there, one of them whole to its edges for systems that cut it round', () => {
  const icons = manifest().icons ?? [];
  for (const { src, sizes, type } of icons) {
    if (type === 'image/png') expect([src, sizeOf(`public${src}`)]).toEqual([src, sizes]);
    else expect(existsSync(`src/app${src}`)).toBe(true);
  }
  expect(icons.filter((i) => i.purpose === 'maskable')).toHaveLength(1);
  // Phones that read no manifest take this one (Next.js links it by its name).
  expect(sizeOf('src/app/apple-icon.png')).toBe('180x180');
});
