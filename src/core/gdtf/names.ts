/** Names of a file, as rows take them. */
import { LIMITS } from '../show/fields.ts';

/** One line, no control characters, no longer than a name may be; empty for what is none. */
export const nameFor = (written: string, most: number = LIMITS.nameLength): string =>
  written
    .replaceAll(/[\u0000-\u001f\u007f]+/gu, ' ')
    .trim()
    .slice(0, most)
    .trim();

/** Names of indirect mixing, said as the emitters that they stand for. */
const SAID_ELSE: Record<string, string> = {
  ColorRGB_Red: 'ColorAdd_R',
  ColorRGB_Green: 'ColorAdd_G',
  ColorRGB_Blue: 'ColorAdd_B',
  ColorRGB_Cyan: 'ColorSub_C',
  ColorRGB_Magenta: 'ColorSub_M',
  ColorRGB_Yellow: 'ColorSub_Y',
};

/** An attribute as channels are called: `@` marks cells and is taken out. */
export function attributeFor(written: string): string {
  const plain = nameFor(written, 50).replaceAll(/[@\s]+/g, '_');
  return SAID_ELSE[plain] ?? plain;
}

/** This name, or with a number where it is taken; it is taken then. */
export function freeName(wish: string, taken: Set<string>, between = ' '): string {
  let name = wish;
  for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${wish}${between}${n}`;
  taken.add(name.toLowerCase());
  return name;
}
