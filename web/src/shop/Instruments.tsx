import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useInstruments, useMayWrite } from '../api/queries';
import { baseUnit } from '../ui/figures';
import { Field, Trouble, Waiting, day, moment } from '../ui/basics';
import { entriesOf } from '../ui/words';
import { NumberField } from '../ui/NumberField';

type Instrument = Schemas['Instrument'];

export const kindWords: Record<Schemas['InstrumentKind'], string> = {
  outsideMicrometer: 'outside micrometer',
  ballMicrometer: 'ball micrometer',
  insideMicrometer: 'inside micrometer',
  boreGauge: 'bore gauge',
  depthMicrometer: 'depth micrometer',
  caliper: 'caliper',
  feelerGauge: 'feeler gauge',
  plasticStrip: 'plastic gauging strip',
  dialIndicator: 'dial indicator',
  scales: 'scales',
  pressureGauge: 'pressure gauge',
  manometer: 'manometer',
  protractor: 'protractor',
  burette: 'burette',
  springTester: 'spring tester',
  thermometer: 'thermometer',
  straightEdge: 'straight-edge',
  rule: 'rule',
  tachometer: 'tachometer',
  homeMade: 'a method of our own',
  other: 'other',
};

const quantityWords: Record<Schemas['Quantity'], string> = {
  length: 'length',
  pressure: 'pressure',
  mass: 'weight',
  angle: 'angle',
  volume: 'volume',
  force: 'force',
  torque: 'torque',
  speed: 'speed',
  temperature: 'temperature',
  viscosity: 'viscosity',
  share: 'share',
  ratio: 'ratio',
};

const blank = {
  name: '',
  kind: 'outsideMicrometer' as Schemas['InstrumentKind'],
  quantity: 'length' as Schemas['Quantity'],
  resolution: null as number | null,
  permissibleError: null as number | null,
  setWith: '',
  calibrated: '',
  calibrationDue: '',
  method: '',
};

/** The shop's instruments: what each shows, how far it may be off, and when it is to be calibrated. */
export function Instruments() {
  const client = useQueryClient();
  const instruments = useInstruments();
  const mayWrite = useMayWrite();
  const [editing, setEditing] = useState<Instrument | null>(null);
  const [entry, setEntry] = useState(blank);
  const id = useRef(v7());
  const set = (change: Partial<typeof blank>) => setEntry({ ...entry, ...change });
  const fresh = () => {
    setEditing(null);
    setEntry(blank);
    id.current = v7();
    return client.invalidateQueries({ queryKey: keys.instruments });
  };
  const save = useMutation<unknown, ApiProblem, void>({
    mutationFn: () =>
      unwrap(
        api.PUT('/api/instruments/{id}', {
          params: { path: { id: editing?.id ?? id.current } },
          body: {
            id: editing?.id ?? id.current,
            name: entry.name,
            kind: entry.kind,
            quantity: entry.quantity,
            // The form is not sent without it.
            resolution: entry.resolution!,
            permissibleError: entry.permissibleError ?? 0,
            setWith: entry.setWith,
            calibrated: entry.calibrated || null,
            calibrationDue: entry.calibrationDue || null,
            method: entry.method,
            version: editing?.version ?? 0,
            at: new Date().toISOString(),
            by: '',
            withdrawnAt: null,
          },
        }),
      ),
    onSuccess: fresh,
  });
  const away = useMutation<unknown, ApiProblem, Instrument>({
    mutationFn: (i) =>
      unwrap(
        api.POST('/api/instruments/{id}/withdraw', {
          params: { path: { id: i.id } },
          body: { why: 'put away', version: i.version },
        }),
      ),
    onSuccess: fresh,
  });
  const today = new Date().toISOString().slice(0, 10);
  const kept = instruments.data?.filter((i) => i.withdrawnAt === null) ?? [];
  const edit = (i: Instrument) => {
    setEditing(i);
    setEntry({
      name: i.name,
      kind: i.kind,
      quantity: i.quantity,
      resolution: i.resolution,
      permissibleError: i.permissibleError,
      setWith: i.setWith,
      calibrated: i.calibrated ?? '',
      calibrationDue: i.calibrationDue ?? '',
      method: i.method,
    });
  };
  return (
    <>
      <main className="mx-auto grid max-w-6xl gap-6 px-4 py-6 lg:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
        <section>
          <h1 className="text-2xl">Instruments of the shop</h1>
          <p className="text-soft">
            What an instrument is allowed to be off goes into every figure read with it.
          </p>
          {instruments.isPending && <Waiting what="the instruments" />}
          <ul className="card mt-3 divide-y divide-line">
            {kept.map((i) => (
              <li key={i.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
                <span className="min-w-48 flex-1">
                  <b>{i.name}</b> <span className="text-soft">{kindWords[i.kind]}</span>
                  <span className="block text-sm">
                    steps of <span className="fig">{i.resolution}</span>, off by{' '}
                    <span className="fig">±{i.permissibleError}</span> {baseUnit[i.quantity]} at most
                    {i.setWith && <> · set with {i.setWith}, whose error then cancels in a difference</>}
                  </span>
                  {i.method && <span className="block text-sm text-soft">{i.method}</span>}
                  <span className="block text-sm">
                    {i.calibrationDue === null ? (
                      <span className="text-soft">no calibration noted</span>
                    ) : i.calibrationDue < today ? (
                      <b className="text-lead">✕ due since {day(i.calibrationDue)}</b>
                    ) : (
                      <>calibrated till {day(i.calibrationDue)}</>
                    )}
                  </span>
                </span>
                {mayWrite && (
                  <span className="flex gap-2">
                    <button className="key text-sm" onClick={() => edit(i)}>
                      Change
                    </button>
                    <button className="key text-sm" onClick={() => away.mutate(i)}>
                      Put away
                    </button>
                  </span>
                )}
              </li>
            ))}
          </ul>
          <Trouble problem={(instruments.error as ApiProblem | null) ?? away.error} />
        </section>
        {mayWrite && (
          <form
            className="card h-fit space-y-3 p-5"
            onSubmit={(e) => {
              e.preventDefault();
              if (!save.isPending) save.mutate();
            }}
          >
            <h2 className="text-xl">{editing ? `Change ${editing.name}` : 'A new instrument'}</h2>
            <Field label="Name" hint="kind and range, as the shop calls it">
              <input className="entry" value={entry.name} onChange={(e) => set({ name: e.target.value })} />
            </Field>
            <div className="grid grid-cols-2 gap-3">
              <Field label="Kind">
                <select
                  className="entry"
                  value={entry.kind}
                  onChange={(e) => set({ kind: e.target.value as typeof entry.kind })}
                >
                  {entriesOf(kindWords).map(([k, words]) => (
                    <option key={k} value={k}>
                      {words}
                    </option>
                  ))}
                </select>
              </Field>
              <Field label="Measures">
                <select
                  className="entry"
                  value={entry.quantity}
                  onChange={(e) => set({ quantity: e.target.value as typeof entry.quantity })}
                >
                  {entriesOf(quantityWords).map(([k, words]) => (
                    <option key={k} value={k}>
                      {words}
                    </option>
                  ))}
                </select>
              </Field>
              <NumberField
                label={`Smallest step, ${baseUnit[entry.quantity]}`}
                required
                min={0}
                value={entry.resolution}
                onChange={(resolution) => set({ resolution })}
              />
              <NumberField
                label={`Error at most, ± ${baseUnit[entry.quantity]}`}
                min={0}
                value={entry.permissibleError}
                onChange={(permissibleError) => set({ permissibleError })}
              />
              <Field label="Calibrated on">
                <input
                  className="entry fig"
                  type="date"
                  value={entry.calibrated}
                  onChange={(e) => set({ calibrated: e.target.value })}
                />
              </Field>
              <Field label="Due on">
                <input
                  className="entry fig"
                  type="date"
                  value={entry.calibrationDue}
                  onChange={(e) => set({ calibrationDue: e.target.value })}
                />
              </Field>
            </div>
            <Field label="Set with" hint="a bore gauge set in the micrometer that reads the journal">
              <select
                className="entry"
                value={entry.setWith}
                onChange={(e) => set({ setWith: e.target.value })}
              >
                <option value="">nothing: it reads by itself</option>
                {kept
                  .filter((i) => i.id !== editing?.id && i.quantity === entry.quantity)
                  .map((i) => (
                    <option key={i.id}>{i.name}</option>
                  ))}
              </select>
            </Field>
            <Field label="How it is used, where its uncertainty comes from">
              <textarea
                className="entry"
                rows={2}
                value={entry.method}
                onChange={(e) => set({ method: e.target.value })}
              />
            </Field>
            <Trouble problem={save.error} />
            <div className="flex gap-2">
              <button className="key key-go" disabled={save.isPending}>
                {editing ? 'Write the change' : 'Take it up'}
              </button>
              {editing && (
                <button type="button" className="key" onClick={() => void fresh()}>
                  Leave it
                </button>
              )}
            </div>
            {editing && <Before id={editing.id} />}
          </form>
        )}
      </main>
    </>
  );
}

/** What an instrument was before: an old budget rests on it. */
function Before({ id }: { id: string }) {
  const changes = useQuery({
    queryKey: [...keys.instruments, id],
    queryFn: () => unwrap(api.GET('/api/instruments/{id}/changes', { params: { path: { id } } })),
  });
  const earlier = changes.data?.flatMap((c) =>
    c.before ? [{ ...c, was: JSON.parse(c.before) as Partial<Instrument> }] : [],
  );
  if (!earlier || earlier.length === 0) return null;
  return (
    <details>
      <summary className="min-h-8 cursor-pointer text-sm font-semibold">What it was before</summary>
      <ul className="text-sm">
        {earlier.map((c) => (
          <li key={c.id}>
            till {moment(c.at)}: steps <span className="fig">{c.was.resolution}</span>, ±
            <span className="fig">{c.was.permissibleError}</span> (changed by {c.by})
          </li>
        ))}
      </ul>
    </details>
  );
}
