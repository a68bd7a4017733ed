/** Bytes as base64 and back (RFC 4648), where there is no Buffer. */

/** Arguments that one call takes with certainty. */
const AT_ONCE = 8192;

/** Bytes of a text in base 64 (RFC 4648). */
export const fromBase64 = (text: string): Uint8Array =>
  Uint8Array.from(atob(text), (c) => c.charCodeAt(0));

/** Bytes as a text in base 64 (RFC 4648). */
export function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += AT_ONCE)
    text += String.fromCharCode(...bytes.subarray(i, i + AT_ONCE));
  return btoa(text);
}
