/** The ten address switches of older units: binary, switch 1 worth 1, switch 10 worth 512. */
const SWITCHES = 10;

/**
 * Positions for an address, switch 1 first.
 * @param address 1…512
 * @param fromZero the unit counts addresses from 0: its switches say one less
 */
export function switchesFor(address: number, fromZero = false): boolean[] {
  const value = fromZero ? address - 1 : address;
  return Array.from({ length: SWITCHES }, (_, i) => ((value >> i) & 1) === 1);
}

/** The address that switches say. */
export function addressOf(switches: readonly boolean[], fromZero = false): number {
  return switches.reduce((sum, on, i) => sum + (on ? 1 << i : 0), 0) + (fromZero ? 1 : 0);
}
