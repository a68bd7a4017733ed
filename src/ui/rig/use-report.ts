/** Loads and findings of the rig, worked out once per change of the show for all parts that show them, when nothing presses. */
import { useEffect } from 'react';
import { create } from 'zustand';
import { rigFindings, standing, type Finding } from '@/core/rig/findings';
import { powerReport, type PowerReport } from '@/core/rig/power';
import type { RdmState } from '@/core/live/messages';
import { deviceFindings } from '@/core/rdm/devices';
import { useScreen } from '../state/store';

const SETTLE_MS = 120;

interface Report {
  revision: number;
  /** What was known then of what hangs there. */
  rdm: RdmState | null;
  power: PowerReport;
  findings: Finding[];
  /** Meant, and put aside with a word. */
  aside: Finding[];
}
const EMPTY: PowerReport = { loads: [], phases: [], full_W: 0, worst_W: 0, worstCue: null };
const useKept = create<Report>(() => ({
  revision: -1,
  rdm: null,
  power: EMPTY,
  findings: [],
  aside: [],
}));
let waiting: ReturnType<typeof setTimeout> | null = null;

function refresh(): void {
  waiting = null;
  const { show, revision, rdm } = useScreen.getState();
  const all = [...rigFindings(show), ...deviceFindings(show, rdm?.devices ?? [])];
  useKept.setState({
    revision,
    rdm,
    power: powerReport(show),
    findings: standing(show, all),
    aside: all.filter((f) => show.settings.get('show')?.aside?.[f.key]),
  });
}

function useFresh(): void {
  const revision = useScreen((s) => s.revision);
  const rdm = useScreen((s) => s.rdm);
  useEffect(() => {
    const kept = useKept.getState();
    if ((kept.revision === revision && kept.rdm === rdm) || waiting) return;
    waiting = setTimeout(refresh, useKept.getState().revision < 0 ? 0 : SETTLE_MS);
  }, [revision, rdm]);
}

/** Power of the rig, worked out once per change. */
export function useReport(): PowerReport {
  useFresh();
  return useKept((s) => s.power);
}
/** What somebody should look at, worked out once per change. */
export function useFindings(): Finding[] {
  useFresh();
  return useKept((s) => s.findings);
}
/** What was set aside of it. */
export function useAside(): Finding[] {
  useFresh();
  return useKept((s) => s.aside);
}
