/** Text that can be kept and shown: no zero bytes, and no half of a surrogate pair. */

const ODD = /\u0000|[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/;

/** Whether a text has no characters that steer a terminal or hide others. */
export const isPlainText = (text: string): boolean => !ODD.test(text);

/** Where in parsed JSON there is text that cannot be kept: its path, or undefined. Walks every value and every key once. */
export function oddTextIn(value: unknown): string | undefined {
  const waiting: { at: string; value: unknown }[] = [{ at: '', value }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { at, value: here } = next;
    if (typeof here === 'string' && !isPlainText(here)) return at || 'text';
    if (typeof here !== 'object' || here === null) continue;
    for (const [key, inner] of Object.entries(here)) {
      if (!isPlainText(key)) return at || 'a name';
      waiting.push({ at: at ? `${at}.${key}` : key, value: inner });
    }
  }
  return undefined;
}
/** Said of text that a database cannot hold. */
export const ODD_TEXT =
  'Text with zero bytes or broken characters cannot be kept. Nothing was changed.';
