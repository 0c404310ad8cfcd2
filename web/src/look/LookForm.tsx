import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type Schemas } from '../api/client';
import { useWrite } from '../api/queries';
import type { CaseContext } from '../casebook/CaseShell';
import { useMayWrite } from '../shop/Header';
import { Field, moment, Trouble } from '../ui/basics';
import { levelWords, stands } from '../ui/words';

/** Signs that this kind of part can show, those not recorded yet first. */
export function signsFor(address: string, { answers, engineCase, knowledge }: CaseContext) {
  const kind = answers.section.cells.find((c) => c.address === address)?.kind;
  const recorded = new Set(
    engineCase.findings
      .filter(stands)
      .filter((f) => f.place === address)
      .map((f) => f.sign),
  );
  return knowledge.signs
    .filter((s) => !s.measured && s.on.includes(kind ?? ''))
    .map((sign) => ({ sign, recorded: recorded.has(sign.id) }));
}

function useAddFinding(context: CaseContext) {
  const { engineCase } = context;
  return useWrite(engineCase.id, (body: Schemas['FindingEntry']) =>
    unwrap(api.POST('/api/cases/{caseId}/findings', { params: { path: { caseId: engineCase.id } }, body })),
  );
}

/** What a part shows: sign, level, done; or looked for and not there. Two touches for a common finding. */
export function LookForm({
  address,
  context,
  onDone,
}: {
  address: string;
  context: CaseContext;
  onDone?: () => void;
}) {
  const signs = signsFor(address, context);
  const [open, setOpen] = useState<string | null>(null);
  const [spot, setSpot] = useState('');
  const [note, setNote] = useState('');
  const id = useRef(v7());
  const add = useAddFinding(context);
  const record = (sign: string, level: number) => {
    if (add.isPending) return;
    add.mutate(
      { id: id.current, place: address, sign, seen: level > 0 ? 'present' : 'absent', level, spot, note },
      {
        onSuccess: () => {
          id.current = v7();
          setOpen(null);
          setSpot('');
          setNote('');
          onDone?.();
        },
      },
    );
  };
  const left = signs.filter((s) => !s.recorded);
  return (
    <div>
      <h3 className="mb-2 text-lg">
        {left.length > 0 ? 'What does it show?' : 'Everything known for this part is recorded.'}
      </h3>
      <ul className="space-y-1.5">
        {left.map(({ sign }) => (
          <li
            key={sign.id}
            className={`rounded-lg border-[1.5px] ${open === sign.id ? 'border-dye bg-dye-tint' : 'border-line bg-sheet'}`}
          >
            <button
              className="flex min-h-11 w-full items-center justify-between gap-2 px-3 py-1.5 text-left font-semibold"
              aria-expanded={open === sign.id}
              onClick={() => setOpen(open === sign.id ? null : sign.id)}
            >
              <span>
                {sign.name}
                {sign.destroyedBy.length > 0 && (
                  <span className="ml-2 text-sm font-normal text-brass">
                    lost by {sign.destroyedBy.join(', ')}
                  </span>
                )}
              </span>
              <span aria-hidden>{open === sign.id ? '▴' : '▾'}</span>
            </button>
            {open === sign.id && (
              <div className="space-y-3 px-3 pb-3">
                <p>{sign.looks}</p>
                <p className="text-sm">
                  <b>How to look:</b> {sign.how} <b>Not to be taken for:</b> {sign.confusedWith}
                </p>
                <div className="grid gap-2 sm:grid-cols-2">
                  <Field label="Where on it, if it matters">
                    <input className="entry" value={spot} onChange={(e) => setSpot(e.target.value)} />
                  </Field>
                  <Field label="Note">
                    <input className="entry" value={note} onChange={(e) => setNote(e.target.value)} />
                  </Field>
                </div>
                <div className="grid grid-cols-2 gap-2">
                  {[1, 2, 3].map((level) => (
                    <button
                      key={level}
                      className="key py-2 text-left leading-tight"
                      disabled={add.isPending}
                      onClick={() => record(sign.id, level)}
                    >
                      <span className="block">
                        <span className="fig">{level}</span> {levelWords[level]}
                      </span>
                      <span className="block text-sm font-normal text-soft">{sign.levels[level - 1]}</span>
                    </button>
                  ))}
                  <button
                    className="key py-2 text-left leading-tight"
                    disabled={add.isPending}
                    onClick={() => record(sign.id, 0)}
                  >
                    <span className="block">Not there</span>
                    <span className="block text-sm font-normal text-soft">looked for it</span>
                  </button>
                </div>
                <Trouble problem={add.error} />
              </div>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What is recorded of a place; each can be taken back with a reason and stays in the case. */
export function FindingList({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, knowledge } = context;
  const mayWrite = useMayWrite();
  const [taking, setTaking] = useState<string | null>(null);
  const [why, setWhy] = useState('');
  const withdraw = useWrite(engineCase.id, (f: Schemas['Finding']) =>
    unwrap(
      api.POST('/api/cases/{caseId}/findings/{id}/withdraw', {
        params: { path: { caseId: engineCase.id, id: f.id } },
        body: { why, version: f.version },
      }),
    ).then((r) => {
      setTaking(null);
      setWhy('');
      return r;
    }),
  );
  const findings = engineCase.findings.filter((f) => f.place === address && stands(f));
  if (findings.length === 0) return <p className="text-soft">Nothing has been looked at here yet.</p>;
  return (
    <ul className="divide-y divide-line border-y border-line">
      {findings.map((f) => (
        <li key={f.id} className="py-2">
          <div className="flex items-start gap-3">
            <span
              className={`fig mt-0.5 flex size-8 shrink-0 items-center justify-center rounded border-2 font-bold ${
                [
                  'border-oil bg-oil-tint text-oil',
                  'border-brass bg-brass-tint',
                  'border-lead bg-lead-tint',
                  'border-lead bg-lead text-sheet',
                ][f.level]
              }`}
              aria-hidden
            >
              {f.level === 0 ? '–' : f.level}
            </span>
            <div className="min-w-0 flex-1">
              <p className="font-semibold">
                {knowledge.signs.find((s) => s.id === f.sign)?.name ?? f.sign}, {levelWords[f.level]}
              </p>
              <p className="text-sm text-soft">
                {[f.spot, f.note].filter(Boolean).join('. ')}
                {(f.spot || f.note) && ' · '}
                {f.by}, {moment(f.at)}
              </p>
            </div>
            {mayWrite && (
              <button className="key px-2 text-sm" onClick={() => setTaking(taking === f.id ? null : f.id)}>
                Take back
              </button>
            )}
          </div>
          {taking === f.id && (
            <form
              className="mt-2 flex gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                withdraw.mutate(f);
              }}
            >
              <input
                className="entry"
                placeholder="Why? It stays in the record."
                value={why}
                onChange={(e) => setWhy(e.target.value)}
                aria-label="Why"
              />
              <button className="key key-go">Take back</button>
            </form>
          )}
          {taking === f.id && <Trouble problem={withdraw.error} />}
        </li>
      ))}
    </ul>
  );
}
