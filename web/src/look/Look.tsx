import { useCaseContext } from '../casebook/CaseShell';
import { useMayWrite } from '../shop/Header';
import { Addr } from '../ui/basics';
import { stands } from '../ui/words';
import { FindingList, LookForm, signsFor } from './LookForm';
import { PhotoStrip } from './Photos';

/** Reads the parts: pick a place in the section or walk on to the next of its kind. */
export function Look() {
  const context = useCaseContext();
  const { answers, part, openPart, engineCase } = context;
  const mayWrite = useMayWrite();
  const cells = answers.section.cells;
  const next = answers.trace.nextChecks.find((c) => !c.measured);
  const current = cells.find((c) => c.address === part);
  const fellows = current ? cells.filter((c) => c.kind === current.kind) : [];
  const at = fellows.findIndex((c) => c.address === part);
  const seen = new Set(engineCase.findings.filter(stands).map((f) => f.place));

  if (!current) {
    return (
      <div className="mx-auto max-w-2xl space-y-4">
        <h2 className="text-2xl">Which part is in your hand?</h2>
        <p className="text-lg">
          Touch it in the section above, or type its address. Read it before it is washed.
        </p>
        {next && (
          <div className="sheet border-l-8 border-l-dye p-4">
            <p className="text-sm font-semibold text-soft">Worth looking at next, for the cause</p>
            <p className="text-lg font-bold">
              {next.name} on <Addr code={next.place} />
            </p>
            <p>{next.how}</p>
            <button className="key key-go mt-3" onClick={() => openPart(next.place)}>
              Look at {next.place}
            </button>
          </div>
        )}
        <div>
          <p className="label">Or begin with</p>
          <div className="flex flex-wrap gap-2">
            {['pan', 'pickup', 'rod-shell-upper', 'piston', 'bore', 'spark-plug'].flatMap((kind) => {
              const first =
                cells.find((c) => c.kind === kind && !seen.has(c.address)) ??
                cells.find((c) => c.kind === kind);
              return first ? (
                <button key={kind} className="key" onClick={() => openPart(first.address)}>
                  <Addr code={first.address} /> {first.words}
                </button>
              ) : (
                []
              );
            })}
          </div>
        </div>
      </div>
    );
  }

  const total = signsFor(current.address, context);
  return (
    <div className="grid gap-6 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
      <section>
        <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Addr code={current.address} className="text-4xl" />
          <div className="min-w-44 flex-1">
            <h2 className="text-xl">{current.words}</h2>
            <p className="text-sm text-soft">
              {total.filter((s) => s.recorded).length} of {total.length} signs read
            </p>
          </div>
          {fellows.length > 1 && (
            <div className="flex gap-2">
              <button className="key" disabled={at <= 0} onClick={() => openPart(fellows[at - 1]!.address)}>
                ◂ {fellows[at - 1]?.address ?? 'first'}
              </button>
              <button
                className="key key-go"
                disabled={at >= fellows.length - 1}
                onClick={() => openPart(fellows[at + 1]!.address)}
              >
                {fellows[at + 1]?.address ?? 'last'} ▸
              </button>
            </div>
          )}
        </div>
        {mayWrite && <LookForm key={current.address} address={current.address} context={context} />}
      </section>
      <section className="space-y-5">
        <div>
          <h3 className="mb-2 text-lg">Recorded</h3>
          <FindingList address={current.address} context={context} />
        </div>
        <div>
          <h3 className="mb-2 text-lg">Photographs</h3>
          <PhotoStrip address={current.address} context={context} />
        </div>
        {fellows.length > 1 && (
          <div>
            <h3 className="mb-2 text-lg">Its fellows</h3>
            <ul className="flex flex-wrap gap-1.5">
              {fellows.map((c) => {
                const worst = Math.max(
                  -1,
                  ...engineCase.findings
                    .filter((f) => f.place === c.address && stands(f))
                    .map((f) => f.level),
                );
                return (
                  <li key={c.address}>
                    <button
                      className="key px-2.5"
                      aria-pressed={c.address === part}
                      onClick={() => openPart(c.address)}
                    >
                      <Addr code={c.address} />{' '}
                      <span className="text-sm text-soft">
                        {worst < 0 ? 'unread' : worst === 0 ? 'clean' : `level ${worst}`}
                      </span>
                    </button>
                  </li>
                );
              })}
            </ul>
          </div>
        )}
      </section>
    </div>
  );
}
