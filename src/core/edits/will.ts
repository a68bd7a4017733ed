/** What an edit would do, in the words of what it did: for dialogs, before it is done. */
const WILL: Record<string, string> = {
  Added: 'Adds',
  Answered: 'Answers',
  Blocked: 'Blocks',
  Brought: 'Brings',
  Changed: 'Changes',
  Checked: 'Checks',
  Copied: 'Copies',
  Deleted: 'Deletes',
  Gave: 'Gives',
  Imported: 'Imports',
  Joined: 'Joins',
  Left: 'Leaves',
  Looked: 'Looks',
  Made: 'Makes',
  Merged: 'Merges',
  Moved: 'Moves',
  Patched: 'Patches',
  Put: 'Puts',
  Recorded: 'Records',
  Renamed: 'Renames',
  Renumbered: 'Renumbers',
  Reopened: 'Reopens',
  Set: 'Sets',
  Split: 'Splits',
  Swapped: 'Swaps',
  Took: 'Takes',
  Unblocked: 'Unblocks',
  Updated: 'Updates',
  Worked: 'Works',
};

/** `Swapped 101 …` as `Swaps 101 …`. @param summary of a plan that is not made yet */
export const willDo = (summary: string): string =>
  summary.replace(/^\p{L}+/u, (word) => WILL[word] ?? word);
