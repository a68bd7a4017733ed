'use client';
import { useState } from 'react';
import { Group, Panel, useDefaultLayout } from 'react-resizable-panels';
import { Plan } from '../plan/Plan';
import { Divider } from '../stage/StagePlace';
import { FixturePanel } from './FixturePanel';
import { FixtureTable } from './FixtureTable';
import { PatchForm } from './PatchForm';
import { Routes } from './Routes';

const keep = typeof window === 'undefined' ? { getItem: () => null, setItem: () => undefined } : window.localStorage;

export function RigPlace() {
  const layout = useDefaultLayout({ id: 'wingman-rig', storage: keep });
  const [lower, setLower] = useState<'plan' | 'outputs'>('plan');
  return (
    <Group {...layout} orientation="horizontal" className="h-full">
      <Panel id="patch" defaultSize={264} minSize={232} collapsible>
        <PatchForm />
      </Panel>
      <Divider />
      <Panel id="table" minSize={420}>
        <div className="flex h-full flex-col">
          <div className="min-h-0 flex-[1.1]">
            <FixtureTable />
          </div>
          <div className="flex h-10 flex-none items-center gap-1 border-y border-line px-3">
            {(['plan', 'outputs'] as const).map((tab) => (
              <button key={tab} type="button" aria-pressed={lower === tab} onClick={() => setLower(tab)} className={`h-7 rounded-md px-2.5 text-[12.5px] font-medium ${lower === tab ? 'bg-lift text-text' : 'text-muted hover:text-soft'}`}>
                {tab === 'plan' ? 'Plan' : 'Outputs'}
              </button>
            ))}
            <span className="ml-auto text-[12px] text-muted">{lower === 'plan' ? 'Drag a fixture to where it hangs' : 'Where each universe goes'}</span>
          </div>
          <div className="min-h-0 flex-1">{lower === 'plan' ? <Plan arrange /> : <Routes />}</div>
        </div>
      </Panel>
      <Divider />
      <Panel id="fixture" defaultSize={216} minSize={180} collapsible>
        <FixturePanel />
      </Panel>
    </Group>
  );
}
