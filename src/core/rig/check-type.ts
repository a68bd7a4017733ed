/** What is wrong with a fixture type, in words and in its place: used while it is typed, and before it is written. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { same } from '../same.ts';
import { sayIssue } from '../said-wrong.ts';
import { TypeRow, type Channel, type ChannelFunction, type Mode } from '../types/rows.ts';
import { attributeInfo } from './attributes.ts';
import { topOf } from './channel.ts';

/** Why a type cannot be kept as it is. */
export interface TypeProblem {
  /** Where: `name`, `modes.0.name`, `modes.0.channels.3.offset` … */
  path: string;
  message: string;
}

/** All problems of a draft; none when it may be patched. Never throws for what a person can type. */
export function checkType(draft: unknown): TypeProblem[] {
  const parsed = TypeRow.safeParse(draft);
  const problems: TypeProblem[] = parsed.success
    ? []
    : parsed.error.issues.map((i) => ({ path: i.path.join('.'), message: sayIssue(i) }));
  const modes = (draft as { modes?: unknown } | null)?.modes;
  if (!Array.isArray(modes)) return problems;
  if (modes.length === 0) return problems;
  const names = new Map<string, number>();
  modes.forEach((raw: unknown, m) => {
    const mode = raw as Partial<Mode> | null;
    if (!mode || !Array.isArray(mode.channels)) return;
    const path = `modes.${m}`;
    const name = typeof mode.name === 'string' ? mode.name.trim().toLowerCase() : '';
    if (name !== '' && names.has(name))
      problems.push({
        path: `${path}.name`,
        message: `Two modes are called “${mode.name ?? ''}”.`,
      });
    names.set(name, m);
    problems.push(...checkChannels(mode as Mode, path, parsed.success ? parsed.data : undefined));
  });
  return problems;
}

function checkChannels(mode: Mode, path: string, type: TypeRow | undefined): TypeProblem[] {
  const problems: TypeProblem[] = [];
  const taken = new Map<string, Channel>();
  const attributes = new Map<string, number>();
  let last = 0;
  mode.channels.forEach((channel, c) => {
    if (!Array.isArray(channel.offset)) return;
    const at = `${path}.channels.${c}`;
    const label = attributeInfo(String(channel.attribute)).label;
    const twin = attributes.get(channel.attribute);
    if (twin !== undefined)
      problems.push({
        path: `${at}.attribute`,
        message: `${label} is there twice, as channels ${twin + 1} and ${c + 1} of the table.`,
      });
    attributes.set(channel.attribute, c);
    const limit = footprint(mode, channel.break ?? 1);
    for (const offset of channel.offset) {
      const key = `${channel.break ?? 1}/${offset}`;
      const other = taken.get(key);
      if (other)
        problems.push({
          path: `${at}.offset`,
          message: `${label} and ${attributeInfo(other.attribute).label} both use channel ${offset}${(channel.break ?? 1) > 1 ? ` of address ${channel.break}` : ''}.`,
        });
      taken.set(key, channel);
      if (offset > UNIVERSE_SLOTS)
        problems.push({
          path: `${at}.offset`,
          message: `${label} is on channel ${offset}; a universe has 512.`,
        });
      else if (offset > limit)
        problems.push({
          path: `${at}.offset`,
          message: `${label} is on channel ${offset}, but the mode has ${limit}.`,
        });
      last = Math.max(last, offset);
    }
    problems.push(...checkFunctions(channel, at, label, type));
    const lost = channel.functions?.find(
      (f) => f.when && !mode.channels.some((c) => c.attribute === f.when?.attribute),
    );
    if (lost?.when)
      problems.push({
        path: `${at}.functions`,
        message: `“${lost.name}” of ${label} counts only while ${attributeInfo(lost.when.attribute).label} stands somewhere, which this mode does not have.`,
      });
  });
  if (mode.channels.length === 0)
    problems.push({ path: `${path}.channels`, message: `Mode “${mode.name}” has no channels.` });
  if (mode.footprint > UNIVERSE_SLOTS || last > UNIVERSE_SLOTS)
    problems.push({
      path: `${path}.footprint`,
      message: `Mode “${mode.name}” has ${Math.max(mode.footprint, last)} channels; a universe has 512.`,
    });
  return problems;
}

const footprint = (mode: Mode, at: number): number =>
  at === 1 ? mode.footprint : (mode.breaks?.[at - 2] ?? 0);

/** Functions of different conditions may share a range: one of them counts at a time. */
const isOneCondition = (a: ChannelFunction, b: ChannelFunction): boolean => same(a.when, b.when);

function checkFunctions(
  channel: Channel,
  at: string,
  label: string,
  type: TypeRow | undefined,
): TypeProblem[] {
  const problems: TypeProblem[] = [];
  const top = topOf(channel);
  const functions = channel.functions ?? [];
  functions.forEach((f, i) => {
    const where = `${at}.functions.${i}`;
    if (f.from > f.to)
      problems.push({
        path: `${where}.from`,
        message: `“${f.name}” of ${label} begins at ${f.from}, after its end ${f.to}.`,
      });
    if (f.to > top)
      problems.push({
        path: `${where}.to`,
        message: `“${f.name}” of ${label} ends at ${f.to}; the channel ends at ${top}.`,
      });
    const clash = functions
      .slice(0, i)
      .find((g) => f.from <= g.to && f.to >= g.from && isOneCondition(f, g));
    if (clash)
      problems.push({
        path: `${where}.from`,
        message: `“${f.name}” and “${clash.name}” of ${label} overlap at ${Math.max(f.from, clash.from)}.`,
      });
    const wheel = f.wheel === undefined ? undefined : type?.wheels?.find((w) => w.name === f.wheel);
    if (f.wheel !== undefined && type && !wheel)
      problems.push({
        path: `${where}.wheel`,
        message: `“${f.name}” of ${label} names the wheel ${f.wheel}, which the type does not have.`,
      });
    f.sets?.forEach((s, j) => {
      if (s.from > s.to || s.from < f.from || s.to > f.to)
        problems.push({
          path: `${where}.sets.${j}`,
          message: `“${s.name}” (${s.from}–${s.to}) lies outside “${f.name}” (${f.from}–${f.to}) of ${label}.`,
        });
      const before = f.sets?.slice(0, j).find((o) => s.from <= o.to && s.to >= o.from);
      if (before)
        problems.push({
          path: `${where}.sets.${j}`,
          message: `“${s.name}” and “${before.name}” of ${label} overlap at ${Math.max(s.from, before.from)}.`,
        });
      if (wheel && s.slot !== undefined && s.slot > wheel.slots.length)
        problems.push({
          path: `${where}.sets.${j}`,
          message: `“${s.name}” of ${label} is slot ${s.slot}; the wheel has ${wheel.slots.length}.`,
        });
    });
  });
  return problems;
}
