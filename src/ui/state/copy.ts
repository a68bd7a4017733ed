/** Words put on the clipboard; where the browser does not let a page do that, it is said. */
import { notice } from './messages';

/** A page that came without encryption has no clipboard. */
const clipboard = (): Clipboard | undefined => navigator.clipboard;

/** Puts words on the clipboard, and says so. */
export async function copyWords(words: string): Promise<void> {
  const isCopied = await clipboard()
    ?.writeText(words)
    .then(
      () => true,
      () => false,
    );
  if (isCopied) notice.done('Copied.');
  else
    notice.error(
      'This browser does not let Wingman copy; select the words and copy them by hand.',
      { id: 'copy' },
    );
}
