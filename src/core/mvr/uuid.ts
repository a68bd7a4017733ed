/** What a plan knows a thing by: the uuid that it came with, or one made of its id, the same each time. */

/** FNV-1a over 32 bits. */
function hash(text: string, seed: number): number {
  let h = seed;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return h;
}
const SEEDS = [0x811c9dc5, 0x9e3779b9, 0x85ebca6b, 0xc2b2ae35];

/** Version 8 (RFC 9562): made of what it names. */
export function uuidOf(text: string): string {
  const hex = SEEDS.map((s) => hash(text, s).toString(16).padStart(8, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

const WRITTEN = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** Whether a text is a UUID (RFC 9562). */
export const isUuid = (text: string): boolean => WRITTEN.test(text);

/** Of a type that no maker gave one: the same in its own file and in a plan. */
export const uuidOfType = (id: string): string => uuidOf(`type ${id}`);

/** The UUID of a piece of the plan: its file's, or one made of its id, the same each time. */
export const uuidOfPiece = (piece: { id: string; uuid?: string | undefined }): string =>
  piece.uuid ?? uuidOf(`piece ${piece.id}`);

/** The UUID of a unit: its file's, or one made of its id, the same each time. */
export const uuidOfFixture = (fixture: {
  id: string;
  plan?: { uuid: string } | undefined;
}): string => fixture.plan?.uuid ?? uuidOf(`fixture ${fixture.id}`);
