/** How menus look. */
export const MENU =
  'z-50 min-w-56 rounded-lg bg-panel p-1 text-[13px] shadow-[0_0_0_1px_var(--color-edge),0_16px_40px_#000a]';
/** How a line of a menu looks. */
export const MENU_ITEM =
  'flex h-8 cursor-default items-center gap-2 rounded px-2.5 outline-none data-[disabled]:text-faint data-[highlighted]:bg-lift';
