/** What the keys and popovers of the controls have in common. */
export const PANEL = 'z-40 w-72 rounded-lg bg-panel p-3 shadow-pop';
/** How a small button of the deck looks. */
export const CHIP =
  'flex h-7 flex-none items-center gap-1 rounded-md bg-raised px-1.5 text-soft hover:bg-lift disabled:opacity-45';
