/** Times as people write them: `5`, `2.5`, `15s`, `2 min`, `1m30s`, `1:30`, `1:02:05`. */

/** @returns seconds; undefined for what is not a time: `-3`, `1:75`, words */
export function seconds(text: string): number | undefined {
  const t = text.trim().replace(',', '.');
  if (/^\d+(\.\d+)?$|^\.\d+$/.test(t)) return Number(t);
  const worded =
    /^(?:(\d{1,4}(?:\.\d{1,6})?)\s*m(?:in)?)?\s*(?:(\d{1,6}(?:\.\d{1,6})?|\.\d{1,6})\s*s(?:ec)?)?$/i.exec(
      t,
    );
  if (worded && (worded[1] !== undefined || worded[2] !== undefined))
    return Number(worded[1] ?? 0) * 60 + Number(worded[2] ?? 0);
  const parts = /^(?:(\d{1,3}):)?(\d{1,3}):(\d{2}(?:\.\d+)?)$/.exec(t);
  if (!parts) return undefined;
  const [, h, m, s] = parts;
  // Within an hour there are 60 minutes, within a minute 60 seconds.
  if (Number(s) >= 60 || (h !== undefined && Number(m) >= 60)) return undefined;
  return Number(h ?? 0) * 3600 + Number(m) * 60 + Number(s);
}

/** Why a time is none, in words that help. */
export function timeProblem(text: string): string | undefined {
  const t = text.trim();
  if (t === '') return 'Here a time is missing: seconds, or 1:30.';
  if (seconds(t) !== undefined) return undefined;
  if (/^[-−]/.test(t)) return 'A time is not negative.';
  if (/^\d+:\d+(:\d+)?$/.test(t)) return `“${t}” is no time: seconds and minutes go to 59.`;
  return `“${t}” is no time: seconds such as 2.5, or minutes such as 1:30.`;
}

/** 95 -> `1:35`, 7.5 -> `7.5`. Seconds up to a minute, then minutes and hours. */
export function formatTime(time_s: number): string {
  if (time_s < 60) return String(Math.round(time_s * 1000) / 1000);
  const whole = Math.round(time_s);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  return h > 0
    ? `${h}:${String(m).padStart(2, '0')}:${String(s).padStart(2, '0')}`
    : `${m}:${String(s).padStart(2, '0')}`;
}

/** A running clock: `00:31:08`. */
export const formatClock = (time_s: number): string =>
  [Math.floor(time_s / 3600), Math.floor(time_s / 60) % 60, Math.floor(time_s) % 60]
    .map((n) => String(n).padStart(2, '0'))
    .join(':');
