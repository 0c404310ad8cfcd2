import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useMayWriteShop } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Field, moment, Trouble } from '../ui/basics';

const jobWords: Record<Schemas['LabelState'], string> = {
  waiting: tr`waiting`,
  paperOut: tr`paper out`,
  printed: tr`printed`,
  cancelled: tr`cancelled`,
};

/** Paper that is taken where nobody chose another. */
const usualPage = 'a4-24';

const pdfOf = (caseId: string, places: string, page: string) =>
  `/api/cases/${caseId}/labels?places=${encodeURIComponent(places)}&page=${page}`;

/** The shop's label printer, and labels asked of it. */
function useLabelPrinter(caseId: string) {
  const mayWrite = useMayWriteShop();
  const client = useQueryClient();
  const printer = useQuery({
    queryKey: keys.printer,
    queryFn: () => unwrap(api.GET('/api/printer')),
    enabled: mayWrite,
  });
  const settle = () => client.invalidateQueries({ queryKey: keys.printer });
  const order = useWrite(caseId, writes.labels, () => {
    void settle();
  });
  return { mayWrite, printer, order, settle };
}

/** The label of one part, at one touch: on the shop's printer where there is one, else as a PDF. */
export function LabelKey({ place }: { place: string }) {
  const { engineCase } = useCaseContext();
  const { mayWrite, printer, order } = useLabelPrinter(engineCase.id);
  return (
    <div className="mb-3">
      {mayWrite && printer.data?.address ? (
        <button className="key" disabled={order.isPending} onClick={() => order.mutate({ places: place })}>
          {order.isSuccess ? tr`✓ Asked of the label printer` : tr`Print its label`}
        </button>
      ) : (
        <a
          className="key inline-flex items-center"
          href={pdfOf(engineCase.id, place, usualPage)}
          target="_blank"
          rel="noreferrer"
        >
          {tr`Its label as PDF`}
        </a>
      )}
      <Trouble problem={order.error} />
    </div>
  );
}

/** Labels for the parts that are off: as a sheet to print, or on the shop's label printer. */
export function Labels() {
  const { engineCase, places: states } = useCaseContext();
  const { mayWrite, printer, order, settle } = useLabelPrinter(engineCase.id);
  const off = states.filter((p) => p.tagged && p.custody !== 'onEngine').map((p) => p.place);
  const [typed, setTyped] = useState<string | null>(null);
  const [page, setPage] = useState(usualPage);
  const places = typed ?? off.join(' ');
  const sheets = useQuery({
    queryKey: ['label-pages'],
    queryFn: () => unwrap(api.GET('/api/label-pages')),
    staleTime: Infinity,
  });
  const again = useMutation<unknown, ApiProblem, void>({
    mutationFn: () => unwrap(api.POST('/api/printer/again')),
    onSuccess: settle,
  });
  const cancel = useMutation<unknown, ApiProblem, string>({
    mutationFn: (job) => unwrap(api.POST('/api/label-jobs/{id}/cancel', { params: { path: { id: job } } })),
    onSuccess: settle,
  });
  const href = pdfOf(engineCase.id, places, page);
  const jobs = printer.data?.jobs.filter((j) => j.caseId === engineCase.id).slice(0, 4) ?? [];
  return (
    <section id="labels" className="card p-4">
      <h2 className="text-xl">{tr`Labels`}</h2>
      <Field
        label={tr`For which parts`}
        hint={tr`Addresses, a kind such as rod-cap, BAG3 or all bags; .B for all of an offered part.`}
      >
        <textarea
          className="entry fig uppercase"
          rows={2}
          value={places}
          onChange={(e) => setTyped(e.target.value)}
        />
      </Field>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <label className="least-52 flex-1">
          <span className="label">{tr`Paper`}</span>
          <select className="entry" value={page} onChange={(e) => setPage(e.target.value)}>
            {sheets.data?.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <a className="key flex items-center" href={href} target="_blank" rel="noreferrer">
          {tr`Open the PDF`}
        </a>
        {mayWrite && printer.data?.address && (
          <button className="key key-go" disabled={order.isPending} onClick={() => order.mutate({ places })}>
            {tr`Print single tags`}
          </button>
        )}
      </div>
      <Trouble problem={order.error ?? again.error ?? cancel.error} />
      {printer.data && (
        <div className="mt-3 border-t border-line pt-2">
          {printer.data.address ? (
            <>
              <p>
                {printer.data.name || tr`Label printer`}{' '}
                <Trans>
                  at <span className="fig">{printer.data.address}</span>
                </Trans>
                {printer.data.at && !printer.data.trouble && (
                  <>
                    <Trans>
                      : <b className="fig">{printer.data.left}</b> labels left
                    </Trans>
                  </>
                )}
              </p>
              {printer.data.trouble && (
                <p role="status" className="flex flex-wrap items-center gap-3 font-semibold text-lead">
                  {printer.data.trouble}
                  <button
                    className="key text-sm text-ink"
                    disabled={again.isPending}
                    onClick={() => again.mutate()}
                  >
                    {tr`Try again`}
                  </button>
                </p>
              )}
            </>
          ) : (
            <p className="text-soft">
              {tr`No label printer is set in this shop. Open the PDF and print that; a lead sets a printer’s address under Settings.`}
            </p>
          )}
          <ul>
            {jobs.map((j) => (
              <li key={j.id} className="flex items-center gap-2">
                <span className={j.state === 'paperOut' ? 'font-bold text-lead' : ''}>
                  <span className="fig">
                    {j.printed}/{j.places.length}
                  </span>{' '}
                  {jobWords[j.state]}
                </span>
                <span className="flex-1 text-sm text-soft">{moment(j.at)}</span>
                {(j.state === 'paperOut' || j.state === 'waiting') && (
                  <button className="min-h-9 underline" onClick={() => cancel.mutate(j.id)}>
                    {tr`Cancel`}
                  </button>
                )}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
