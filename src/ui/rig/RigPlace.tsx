/** Rig: types on the left, addresses and plan above, the patch and what belongs to it below, the fixture on the right. */
'use client';
import { DropdownMenu } from 'radix-ui';
import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import { Group, Panel, useDefaultLayout } from 'react-resizable-panels';
import type { TypeRow } from '@/core/types/rows';
import { Tabs } from '../parts/controls';
import { layouts } from '../state/preferences';
import { Plan } from '../plan/Plan';
import { Divider } from '../stage/StagePlace';
import { mayEdit, useScreen } from '../state/store';
import { AddressMap } from './AddressMap';
import { FindingsPane } from './FindingsPane';
import { FixturePanel } from './FixturePanel';
import { FixtureTable } from './FixtureTable';
import { ImportDialog } from '../import/ImportDialog';
import { Monitor, type Scale } from './Monitor';
import { PatchForm } from './PatchForm';
import { PowerPane } from './PowerPane';
import { FixtureDoing } from './FixtureMenu';
import { setUniverse, useRig, type Lower, type Upper } from './rig-state';
import { Routes } from './Routes';
import { TypeEditor } from './TypeEditor';
import { UniverseTabs } from './UniverseTabs';
import { useFindings } from './use-report';
import { useParts } from '../state/use-parts';

const PAPERS = [
  ['number', 'Patch sheet by number'],
  ['universe', 'Patch sheet by universe'],
  ['position', 'Patch sheet by position'],
  ['switches', 'Switch settings'],
] as const;
const ITEM =
  'flex h-8 cursor-default items-center rounded px-2.5 text-soft outline-none data-[highlighted]:bg-standby-wash data-[highlighted]:text-text';

function Papers({ onImport }: { onImport: () => void }) {
  const { showId, you } = useParts(useScreen, 'showId', 'you');
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex h-7 items-center gap-1 rounded-md bg-raised px-2.5 text-[12px] whitespace-nowrap text-soft hover:bg-lift">
        Files <ChevronDown size={12} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-40 w-56 rounded-lg bg-panel p-1.5 shadow-pop"
        >
          {PAPERS.map(([by, label]) => (
            <DropdownMenu.Item key={by} asChild className={ITEM}>
              <a
                href={`/api/shows/${showId}/export/patch.pdf?by=${by}`}
                target="_blank"
                rel="noreferrer"
              >
                {label} <span className="ml-auto text-[11.5px] text-muted">PDF</span>
              </a>
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item asChild className={ITEM}>
            <a href={`/api/shows/${showId}/export/patch.csv`} download>
              Patch as a table <span className="ml-auto text-[11.5px] text-muted">CSV</span>
            </a>
          </DropdownMenu.Item>
          {(
            [
              ['rig.mvr', 'Rig as a plan'],
              ['groups.csv', 'Groups as a table'],
              ['palettes.csv', 'Palettes as a table'],
              ['outputs.csv', 'Outputs as a table'],
            ] as const
          ).map(([file, words]) => (
            <DropdownMenu.Item key={file} asChild className={ITEM}>
              <a href={`/api/shows/${showId}/export/${file}`} download>
                {words}{' '}
                <span className="ml-auto text-[11.5px] text-muted">
                  {file.endsWith('.mvr') ? 'MVR' : 'CSV'}
                </span>
              </a>
            </DropdownMenu.Item>
          ))}
          {mayEdit(you.role) && (
            <DropdownMenu.Item className={ITEM} onSelect={onImport}>
              Take in files …{' '}
              <span className="ml-auto text-[11.5px] text-muted">GDTF, MVR, CSV</span>
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Rig: types, addresses, units and everything about them. */
export function RigPlace() {
  const layout = useDefaultLayout({ id: 'wingman-rig', storage: layouts });
  const split = useDefaultLayout({ id: 'wingman-rig-middle', storage: layouts });
  const [editing, setEditing] = useState<{ type: TypeRow | null } | null>(null);
  const [importing, setImporting] = useState(false);
  const bringIn = (): void => setImporting(true);
  return (
    <>
      <Group {...layout} orientation="horizontal" className="h-full">
        <Panel id="patch" defaultSize={264} minSize={232} collapsible>
          <PatchForm onEditType={(type) => setEditing({ type })} onImport={bringIn} />
        </Panel>
        <Divider />
        <Panel id="table" minSize={420}>
          <Group {...split} orientation="vertical" className="h-full">
            <Panel id="upper" defaultSize="47" minSize={150} collapsible>
              <Above />
            </Panel>
            <Divider flat />
            <Panel id="lower" minSize={160}>
              <Below onImport={bringIn} />
            </Panel>
          </Group>
        </Panel>
        <Divider />
        <Panel id="fixture" defaultSize={248} minSize={216} collapsible>
          <FixturePanel />
        </Panel>
      </Group>
      {editing && (
        <TypeEditor
          key={editing.type?.id ?? 'new'}
          type={editing.type}
          onClose={() => setEditing(null)}
        />
      )}
      <FixtureDoing />
      {importing && <ImportDialog onClose={() => setImporting(false)} />}
    </>
  );
}

function Above() {
  const upper = useRig((s) => s.upper);
  return (
    <div className="relative flex h-full flex-col">
      {upper === 'addresses' ? (
        <>
          <UniverseTabs />
          <div className="min-h-0 flex-1">
            <AddressMap />
          </div>
        </>
      ) : (
        <Plan arrange />
      )}
    </div>
  );
}

function FindingsLabel() {
  const findings = useFindings();
  const ink = findings.some((f) => f.grave) ? 'text-danger' : 'text-warning';
  return (
    <>
      Findings{' '}
      {findings.length > 0 && (
        <span className={`num ml-0.5 text-[11.5px] ${ink}`}>{findings.length}</span>
      )}
    </>
  );
}

const LOWERS: { value: Lower; label: React.ReactNode }[] = [
  { value: 'fixtures', label: 'Fixtures' },
  { value: 'outputs', label: 'Outputs' },
  { value: 'dmx', label: 'DMX' },
  { value: 'power', label: 'Power' },
  { value: 'findings', label: <FindingsLabel /> },
];
const UPPERS: { value: Upper; label: string }[] = [
  { value: 'addresses', label: 'Map' },
  { value: 'plan', label: 'Plan' },
];

function Below({ onImport }: { onImport: () => void }) {
  const { upper, lower, universe } = useParts(useRig, 'upper', 'lower', 'universe');
  // What is looked at in one way goes on being looked at so, whatever is looked at in between.
  const [scale, setScale] = useState<Scale>('byte');
  return (
    <div className="flex h-full flex-col">
      <div className="flex min-h-10 flex-none flex-wrap items-center gap-x-2 border-b border-line px-3 py-1">
        <Tabs<Lower>
          label="Below"
          value={lower}
          options={LOWERS}
          onChange={(value) => useRig.setState({ lower: value })}
        />
        <span className="ml-auto" />
        <Tabs<Upper>
          label="Above"
          className="flex-none"
          value={upper}
          options={UPPERS}
          onChange={(value) => useRig.setState({ upper: value })}
        />
        <Papers onImport={onImport} />
      </div>
      <div className="min-h-0 flex-1">
        {lower === 'fixtures' && <FixtureTable />}
        {lower === 'outputs' && <Routes />}
        {lower === 'dmx' && (
          <Monitor universe={universe} onUniverse={setUniverse} scale={scale} onScale={setScale} />
        )}
        {lower === 'power' && <PowerPane />}
        {lower === 'findings' && <FindingsPane />}
      </div>
    </div>
  );
}
