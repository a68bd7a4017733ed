/** An address in words. */
import { formatPoint, fromAbsolute, modeOf, type Occupied } from '@/core/fixtures/points';
import { attributeInfo } from '@/core/rig/attributes';
import type { Show } from '@/core/show/show';

/** `2.101 · 11 Rail 1 · Red fine`. @param address absolute @param range who stands there */
export function sayAddress(show: Show, address: number, range: Occupied | undefined): string {
  const at = formatPoint(fromAbsolute(address));
  if (!range) return `${at} · free`;
  const { fixture } = range;
  const offset = address - range.from + 1;
  const channel = modeOf(show, fixture)?.channels.find((c) => c.offset.includes(offset));
  const who = `${at} · ${fixture.number} ${fixture.label}`;
  if (!channel) return who;
  const fine = channel.offset.indexOf(offset) > 0 ? ' fine' : '';
  return `${who} · ${attributeInfo(channel.attribute).label}${fine}`;
}
