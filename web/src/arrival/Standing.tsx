import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useIsLead } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { moment, Trouble } from '../ui/basics';
import { WhyForm } from '../ui/WhyForm';

/** Where the case came from, and whether it stands: a lead withdraws it and takes it up again; nothing of it is lost either way. */
export function Standing() {
  const { engineCase } = useCaseContext();
  const isLead = useIsLead();
  const withdraw = useWrite(engineCase.id, writes.caseBack);
  const takeUp = useWrite(engineCase.id, writes.caseUp);
  const { id, version } = engineCase;
  return (
    <>
      {engineCase.imported && (
        <p className="rounded-lg border-l-8 border-dye bg-dye-tint px-3 py-2">
          {tr`This case came as a file. Names, times and signatures marked “elsewhere” are those of the shop that wrote them.`}
        </p>
      )}
      {engineCase.withdrawnAt ? (
        <div className="rounded-lg border-2 border-lead bg-lead-tint p-3">
          <p>
            <Trans>
              <b>Withdrawn</b> by
            </Trans>{' '}
            {engineCase.withdrawnBy ?? engineCase.by}
            <Trans>
              , {moment(engineCase.withdrawnAt)}: {engineCase.withdrawnWhy} It is read only.
            </Trans>
          </p>
          {isLead && (
            <button
              className="key mt-2"
              disabled={takeUp.isPending}
              onClick={() => takeUp.mutate({ version })}
            >
              {tr`Take it up again`}
            </button>
          )}
          <Trouble problem={takeUp.error} />
        </div>
      ) : (
        isLead && (
          <details className="card p-4">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">{tr`Withdraw this case`}</summary>
            <p className="text-soft">
              {tr`It leaves the casebook and is read only. All of it stays, and a lead takes it up again.`}
            </p>
            <WhyForm press={tr`Withdraw it`} send={(why) => withdraw.mutateAsync({ id, version, why })} />
            <Trouble problem={withdraw.error} />
          </details>
        )
      )}
    </>
  );
}
