/** Loads and findings of the rig, worked out once per change of the show for all parts that show them, when nothing presses. */
import { useEffect } from 'react';
import { create } from 'zustand';
import { rigFindings, standing, type Finding } from '@/core/rig/findings';
import { powerReport, type PowerReport } from '@/core/rig/power';
import { useScreen } from '../state/store';

const SETTLE_MS = 120;

interface Report {
  revision: number;
  power: PowerReport;
  findings: Finding[];
  /** Meant, and put aside with a word. */
  aside: Finding[];
}
const EMPTY: PowerReport = { loads: [], phases: [], full_W: 0, worst_W: 0, worstCue: null };
const useKept = create<Report>(() => ({ revision: -1, power: EMPTY, findings: [], aside: [] }));
let waiting: ReturnType<typeof setTimeout> | null = null;

function refresh(): void {
  waiting = null;
  const { show, revision } = useScreen.getState();
  const all = rigFindings(show);
  useKept.setState({
    revision,
    power: powerReport(show),
    findings: standing(show, all),
    aside: all.filter((f) => show.settings.get('show')?.aside?.[f.key]),
  });
}

function useFresh(): void {
  const revision = useScreen((s) => s.revision);
  useEffect(() => {
    if (useKept.getState().revision === revision || waiting) return;
    waiting = setTimeout(refresh, useKept.getState().revision < 0 ? 0 : SETTLE_MS);
  }, [revision]);
}

export function useReport(): PowerReport {
  useFresh();
  return useKept((s) => s.power);
}
export function useFindings(): Finding[] {
  useFresh();
  return useKept((s) => s.findings);
}
export function useAside(): Finding[] {
  useFresh();
  return useKept((s) => s.aside);
}
