import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { phaseWords } from '../ui/words';
import { useQuery } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { Addr, Trouble, Waiting } from '../ui/basics';
import { limitWords, standWords, unitOf } from '../ui/limits';
import { uncertainty, figure, unitWords } from '../ui/figures';

/** How a figure came about: reading, formula, limit, and its uncertainty line by line. */
export function Budget({
  figure: f,
  onClose,
}: {
  figure: Schemas['SheetFigure'] | null;
  onClose: () => void;
}) {
  return (
    <Dialog.Root open={f !== null} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content className="card fixed inset-x-2 top-[4dvh] z-50 mx-auto max-h-[92dvh] max-w-2xl space-y-3 overflow-auto p-5">
          {f && <Inside f={f} />}
          <Dialog.Close className="key">{tr`Close`}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** An error that one instrument put into both sides of a difference; what is left is the rounding of the machine. */
const cancelled = (l: Schemas['BudgetRow']) => l.standard < 1e-12;

function Inside({ f }: { f: Schemas['SheetFigure'] }) {
  const { engineCase, knowledge } = useCaseContext();
  const { lengths: length } = useCaseContext();
  const unit = unitOf(knowledge, f.characteristic, f.quantity, length);
  const budget = useQuery({
    queryKey: [...keys.rooms(engineCase.id), 'budget', f.place, f.characteristic, f.phase],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/gauge/budget', {
          params: {
            path: { caseId: engineCase.id },
            query: {
              place: f.place,
              characteristic: f.characteristic,
              phase: f.phase.replace(/^./, (c) => c.toUpperCase()),
            } as never,
          },
        }),
      ),
  });
  const fine = (v: number) => figure(v, unit, Math.abs(v) < 0.1 ? 5 : 3);
  return (
    <>
      <Dialog.Title className="pr-10 text-xl font-bold">
        <Addr code={f.place} /> {f.name}
        {phaseWords[f.phase] && `, ${phaseWords[f.phase]}`}
      </Dialog.Title>
      <p className="fig text-3xl font-bold">
        {figure(f.value, unit)}{' '}
        <span className="text-xl font-normal">
          ± {uncertainty(f.expanded, unit)} {unitWords(unit)}
        </span>
      </p>
      <p>
        {f.limit && limitWords(f.limit, unit)}{' '}
        <b className={f.conformity === 'outside' ? 'text-lead' : ''}>{standWords(f)}</b>
      </p>
      {f.decides && <p className="rounded-lg border-2 border-brass bg-brass-tint px-3 py-2">{f.decides}</p>}
      <Dialog.Description>
        <b>{tr`From:`}</b> <span className="fig">{f.from}</span>
      </Dialog.Description>
      {budget.error && <Trouble problem={budget.error as unknown as ApiProblem} />}
      {budget.fetchStatus === 'paused' && !budget.data && (
        <p className="text-soft">
          {tr`The budget is worked out by the server and comes when the network is back.`}
        </p>
      )}
      {budget.isLoading && <Waiting what={tr`the budget`} />}
      {budget.data && (
        <>
          <p>
            <b>{tr`How:`}</b> {budget.data.how}
          </p>
          <table className="w-full text-left">
            <caption className="sr-only">{tr`Uncertainty budget`}</caption>
            <thead className="text-sm text-soft">
              <tr>
                <th className="py-1 font-semibold">{tr`Influence`}</th>
                <th className="font-semibold">
                  {tr`u,`} {unitWords(unit) || tr`base`}
                </th>
                <th className="font-semibold">{tr`Share`}</th>
                <th className="font-semibold" title={tr`degrees of freedom`}>
                  {tr`ν`}
                </th>
              </tr>
            </thead>
            <tbody>
              {budget.data.lines.map((l, i) => (
                <tr key={i} className="border-t border-line">
                  <td className="py-1.5 pr-2">{l.name}</td>
                  <td className="fig pr-2">{cancelled(l) ? '0' : fine(l.standard)}</td>
                  <td className="pr-2">
                    {cancelled(l) ? (
                      <span className="text-sm text-oil">{tr`cancels in the difference`}</span>
                    ) : (
                      <span className="flex items-center gap-2">
                        <span
                          className="h-3 rounded-sm bg-dye"
                          style={{ width: `${Math.max(1, l.share * 80)}px` }}
                        />
                        <span className="fig text-sm">{Math.round(l.share * 100)} %</span>
                      </span>
                    )}
                  </td>
                  <td className="fig">{l.freedom === null ? '∞' : Math.floor(l.freedom)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-sm text-soft">
            <Trans>
              Together u = <span className="fig">{fine(budget.data.standard)}</span> with{' '}
            </Trans>
            {budget.data.freedom === null ? '∞' : Math.floor(budget.data.freedom)}{' '}
            {tr`effective degrees of freedom; U =`} {figure(budget.data.factor, 'x')}{' '}
            <Trans>
              · u = <span className="fig">{fine(budget.data.expanded)}</span>, about 95 % (JCGM 100, the GUM).
              Errors of one instrument that is in a difference twice have cancelled already.
            </Trans>
          </p>
        </>
      )}
    </>
  );
}
