import { t as tr } from '@lingui/core/macro';
import { Dialog, Tabs } from 'radix-ui';
import { useState } from 'react';
import { useLocation } from 'react-router';
import type { CaseContext } from '../casebook/context';
import { FindingList } from '../look/FindingList';
import { LookForm } from '../look/LookForm';
import { PhotoStrip } from '../pictures/Photos';
import { PlaceReadings } from '../gauge/PlaceReadings';
import { Addr } from '../ui/basics';
import { custodyText, methodWords, stands } from '../ui/words';
import { VerdictForm } from '../verdict/VerdictForm';
import { LabelKey } from '../index/Labels';
import { Stays } from '../index/Stays';
import { TagForm } from '../index/TagForm';
import { useMayWrite } from '../api/queries';
import { Later } from '../ui/Later';

const tabs = [
  ['index', tr`Tag`],
  ['look', tr`Look`],
  ['gauge', tr`Measure`],
  ['verdict', tr`Verdict`],
] as const;

/** One part, whole: what it is, where it is, what it shows, how big it is, what becomes of it. */
export function PartDrawer({ address, context }: { address: string; context: CaseContext }) {
  const { pathname } = useLocation();
  const mayWrite = useMayWrite();
  const cell = context.section.cells.find((c) => c.address === address);
  const stage = pathname.split('/').at(-1);
  const [tab, setTab] = useState<string>(
    tabs.find(([t]) => t === stage)?.[0] ?? (stage === 'trace' ? 'look' : 'index'),
  );
  const [sign, setSign] = useState<string | null>(null);
  const part = context.engineCase.parts.filter(stands).find((p) => p.place === address);
  if (!cell) return null;
  return (
    <Dialog.Root open modal={false} onOpenChange={(open) => !open && context.openPart(null)}>
      <Dialog.Portal>
        <Dialog.Content
          onInteractOutside={(e) => e.preventDefault()}
          className="fixed inset-x-0 bottom-0 z-30 flex max-h-[88dvh] flex-col rounded-t-2xl border border-line bg-paper shadow-[0_0_30px_rgb(0_0_0/0.25)] md:inset-y-0 md:right-0 md:left-auto md:max-h-none md:w-drawer md:rounded-none"
        >
          <div className="flex items-start gap-4 border-b border-line px-4 py-3">
            <Addr code={address} className="text-4xl" />
            <div className="min-w-0 flex-1">
              <Dialog.Title className="text-lg leading-tight font-bold">{cell.words}</Dialog.Title>
              <Dialog.Description className="text-sm text-soft">
                {part ? `${methodWords[part.method]}, ${custodyText(part)}` : tr`Not tagged yet`}
              </Dialog.Description>
            </div>
            <Dialog.Close className="key" aria-label={tr`Close`}>
              ✕
            </Dialog.Close>
          </div>
          <Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-1 flex-col">
            <Tabs.List className="flex border-b border-line" aria-label={tr`Part`}>
              {tabs.map(([id, name]) => (
                <Tabs.Trigger
                  key={id}
                  value={id}
                  className="min-h-11 flex-1 border-b-4 border-transparent text-soft data-[state=active]:border-dye data-[state=active]:font-bold data-[state=active]:text-dye"
                >
                  {name}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <div className="flex-1 overflow-y-auto px-4 py-4">
              <Later>
                <Tabs.Content value="index">
                  <LabelKey place={address} />
                  <fieldset disabled={!mayWrite}>
                    <TagForm address={address} context={context} />
                  </fieldset>
                  {part && <Stays caseId={context.engineCase.id} part={part} />}
                </Tabs.Content>
                <Tabs.Content value="look" className="space-y-5">
                  <FindingList address={address} context={context} />
                  <PhotoStrip address={address} context={context} />
                  {mayWrite && <LookForm address={address} context={context} sign={sign} setSign={setSign} />}
                </Tabs.Content>
                <Tabs.Content value="gauge">
                  <PlaceReadings address={address} context={context} />
                </Tabs.Content>
                <Tabs.Content value="verdict">
                  <VerdictForm address={address} context={context} />
                </Tabs.Content>
              </Later>
            </div>
          </Tabs.Root>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
