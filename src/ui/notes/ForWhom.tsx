/** Whom a note is for: one of those in the show, or anybody. */
'use client';
import type { Member } from '@/core/live/answers';
import { useLoad } from '../crew/use-load';
import { useScreen } from '../state/store';
import { useParts } from '../state/use-parts';

/** Those whom a note may be for; empty until they are known. */
export function useMembers(): readonly Member[] {
  const { showId, people } = useParts(useScreen, 'showId', 'people');
  const { data } = useLoad<{ members: Member[] }>(
    showId === '' ? null : `/api/shows/${showId}/members`,
    people.length,
  );
  return (data?.members ?? []).filter((m) => m.role !== 'volunteer');
}

/** @param value their id; empty for anybody */
export function ForWhom({
  members,
  value,
  onChange,
  className,
}: {
  members: readonly Member[];
  value: string;
  onChange: (userId: string) => void;
  className: string;
}) {
  return (
    <select
      aria-label="For whom"
      value={value}
      onChange={(e) => onChange(e.target.value)}
      className={`min-w-0 ${className}`}
    >
      <option value="">for anybody</option>
      {members.map((m) => (
        <option key={m.userId} value={m.userId}>
          for {m.name}
        </option>
      ))}
    </select>
  );
}
