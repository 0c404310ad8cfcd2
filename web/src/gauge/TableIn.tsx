import { plural, t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';

/** Takes a table in: what is wrong is told by row and column, and the good rows are kept only when asked. */
export function TableIn({ what }: { what: 'limits' | 'readings' }) {
  const { engineCase } = useCaseContext();
  const [file, setFile] = useState<File | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const take = useWrite(engineCase.id, writes.table);
  const done = take.data;
  const asked = done?.problems.some((p) => p.column === 'confirmed');
  return (
    <>
      <button className="key" onClick={() => input.current?.click()}>
        <Trans>Read {what} from CSV</Trans>
      </button>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv,text/plain"
        className="sr-only"
        tabIndex={-1}
        aria-label={tr`CSV with ${what}`}
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = '';
          if (!chosen) return;
          setFile(chosen);
          take.mutate({ what, file: chosen, keepGood: false, confirmed: false });
        }}
      />
      <Dialog.Root open={file !== null} onOpenChange={(open) => !open && setFile(null)}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
          <Dialog.Content className="card fixed inset-x-2 top-[6dvh] z-50 mx-auto max-h-[88dvh] max-w-2xl space-y-3 overflow-auto p-5">
            <Dialog.Title className="text-xl font-bold">{file?.name}</Dialog.Title>
            <Dialog.Description>
              {take.isPending
                ? tr`Reading …`
                : done
                  ? done.bad === 0
                    ? tr`${done.added} ${what} entered.${done.already ? tr` ${done.already} stand here already: the table was sent before.` : ''}`
                    : done.added > 0
                      ? tr`${done.added} entered; ${done.bad} rows were left out.`
                      : tr`Nothing entered: ${done.bad} ${plural(done.bad, { one: 'row is', other: 'rows are' })} wrong.`
                  : ''}
            </Dialog.Description>
            <Trouble problem={take.error} />
            {done && done.problems.length > 0 && (
              <ul className="divide-y divide-line">
                {done.problems.map((p) => (
                  <li key={`${p.row}/${p.column}`} className="py-1.5">
                    <b>
                      <Trans>Row {p.row}</Trans>
                      {p.column && p.column !== 'confirmed' && tr`, column ${p.column}`}:
                    </b>{' '}
                    {p.text} <span className="text-soft">{p.remedy}</span>
                  </li>
                ))}
                {done.bad > done.problems.length && (
                  <li>
                    <Trans>… and {done.bad - done.problems.length} more.</Trans>
                  </li>
                )}
              </ul>
            )}
            <div className="flex flex-wrap gap-2">
              {done && done.bad > 0 && done.added === 0 && (
                <>
                  <button
                    className="key"
                    onClick={() => take.mutate({ what, file: file!, keepGood: true, confirmed: false })}
                  >
                    {tr`Enter the good rows only`}
                  </button>
                  {asked && (
                    <button
                      className="key"
                      onClick={() => take.mutate({ what, file: file!, keepGood: true, confirmed: true })}
                    >
                      {tr`Enter the suspect ones too, as typed`}
                    </button>
                  )}
                </>
              )}
              <Dialog.Close className="key key-go">{tr`Close`}</Dialog.Close>
            </div>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}
