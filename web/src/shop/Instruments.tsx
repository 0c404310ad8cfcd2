import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { keys, useInstruments, useMayWrite } from '../api/queries';
import { baseUnit, uncertainty } from '../ui/figures';
import { Trouble, Waiting, day, moment } from '../ui/basics';
import {
  asTyped,
  dayGiven,
  EntryForm,
  FigureField,
  ListField,
  needed,
  numberNeeded,
  numberTyped,
  oneOf,
  TextField,
  useEntryForm,
} from '../ui/form';

type Instrument = Schemas['Instrument'];

export const kindWords: Record<Schemas['InstrumentKind'], string> = {
  outsideMicrometer: tr`outside micrometer`,
  ballMicrometer: tr`ball micrometer`,
  insideMicrometer: tr`inside micrometer`,
  boreGauge: tr`bore gauge`,
  depthMicrometer: tr`depth micrometer`,
  caliper: tr`caliper`,
  feelerGauge: tr`feeler gauge`,
  plasticStrip: tr`plastic gauging strip`,
  dialIndicator: tr`dial indicator`,
  scales: tr`scales`,
  pressureGauge: tr`pressure gauge`,
  manometer: tr`manometer`,
  protractor: tr`protractor`,
  burette: tr`burette`,
  springTester: tr`spring tester`,
  thermometer: tr`thermometer`,
  straightEdge: tr`straight-edge`,
  rule: tr`rule`,
  tachometer: tr`tachometer`,
  roughnessTester: tr`roughness tester`,
  torqueWrench: tr`torque wrench`,
  hardnessTester: tr`hardness tester`,
  homeMade: tr`a method of our own`,
  other: tr`other`,
};

const quantityWords: Record<Schemas['Quantity'], string> = {
  length: tr`length`,
  pressure: tr`pressure`,
  mass: tr`weight`,
  angle: tr`angle`,
  volume: tr`volume`,
  force: tr`force`,
  torque: tr`torque`,
  speed: tr`speed`,
  temperature: tr`temperature`,
  viscosity: tr`viscosity`,
  share: tr`share`,
  ratio: tr`ratio`,
  area: tr`area`,
};

const schema = z.object({
  name: needed(tr`Say what the shop calls it.`),
  kind: oneOf(kindWords),
  quantity: oneOf(quantityWords),
  resolution: numberNeeded({ min: 0 }),
  permissibleError: z.pipe(
    numberTyped({ min: 0 }),
    z.transform((error) => error ?? 0),
  ),
  setWith: z.string(),
  calibrated: dayGiven,
  calibrationDue: dayGiven,
  method: z.string(),
});

const blank: z.input<typeof schema> = {
  name: '',
  kind: 'outsideMicrometer',
  quantity: 'length',
  resolution: '',
  permissibleError: '',
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
  const { form, settle: show } = useEntryForm(schema, blank);
  const quantity = useWatch({ control: form.control, name: 'quantity' });
  const id = useRef(v7());
  const fresh = () => {
    setEditing(null);
    show(blank);
    id.current = v7();
    return client.invalidateQueries({ queryKey: keys.instruments });
  };
  const save = useMutation<unknown, ApiProblem, z.output<typeof schema>>({
    mutationFn: (entry) =>
      unwrap(
        api.PUT('/api/instruments/{id}', {
          params: { path: { id: editing?.id ?? id.current } },
          body: {
            id: editing?.id ?? id.current,
            ...entry,
            version: editing?.version ?? 0,
            at: new Date().toISOString(),
            by: '',
            withdrawnAt: null,
            withdrawnBy: null,
            imported: false,
            studied: [],
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
          body: { why: tr`put away`, version: i.version },
        }),
      ),
    onSuccess: fresh,
  });
  const today = new Date().toISOString().slice(0, 10);
  const kept = instruments.data?.filter((i) => i.withdrawnAt === null) ?? [];
  const edit = (i: Instrument) => {
    setEditing(i);
    show({
      name: i.name,
      kind: i.kind,
      quantity: i.quantity,
      resolution: asTyped(i.resolution),
      permissibleError: asTyped(i.permissibleError),
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
          <h1 className="text-2xl">{tr`Instruments of the shop`}</h1>
          <p className="text-soft">
            <Trans>
              What an instrument is allowed to be off goes into every figure read with it; how well people
              here read it comes from a{' '}
              <Link to="/studies" className="underline">
                gauge study
              </Link>
              .
            </Trans>
          </p>
          {instruments.isPending && <Waiting what={tr`the instruments`} />}
          <ul className="card mt-3 divide-y divide-line">
            {kept.map((i) => (
              <li key={i.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
                <span className="least-48 flex-1">
                  <b>{i.name}</b> <span className="text-soft">{kindWords[i.kind]}</span>
                  <span className="block text-sm">
                    <Trans>
                      steps of <span className="fig">{i.resolution}</span>, off by error{' '}
                      <span className="fig">±{i.permissibleError}</span> {baseUnit[i.quantity]}
                    </Trans>
                    {i.setWith && (
                      <>
                        {' '}
                        <Trans>· set with {i.setWith}, whose error then cancels in a difference</Trans>
                      </>
                    )}
                  </span>
                  {i.studied.map((s) => (
                    <span key={s.characteristic} className="block text-sm">
                      <Trans>
                        read by the shop to ±
                        <span className="fig">{uncertainty(2 * s.repeatability, baseUnit[i.quantity])}</span>{' '}
                        by one hand, ±
                        <span className="fig">
                          {uncertainty(2 * s.reproducibility, baseUnit[i.quantity])}
                        </span>{' '}
                        between people · study “{s.study}”
                      </Trans>
                    </span>
                  ))}
                  {i.method && <span className="block text-sm text-soft">{i.method}</span>}
                  <span className="block text-sm">
                    {i.calibrationDue === null ? (
                      <span className="text-soft">{tr`no calibration noted`}</span>
                    ) : i.calibrationDue < today ? (
                      <b className="text-lead">
                        <Trans>✕ due since {day(i.calibrationDue)}</Trans>
                      </b>
                    ) : (
                      <>
                        <Trans>calibrated till {day(i.calibrationDue)}</Trans>
                      </>
                    )}
                  </span>
                </span>
                {mayWrite && (
                  <span className="flex gap-2">
                    <button className="key text-sm" onClick={() => edit(i)}>
                      {tr`Change`}
                    </button>
                    <button className="key text-sm" onClick={() => away.mutate(i)}>
                      {tr`Retire`}
                    </button>
                  </span>
                )}
              </li>
            ))}
          </ul>
          <Trouble problem={(instruments.error as ApiProblem | null) ?? away.error} />
        </section>
        {mayWrite && (
          <section className="card h-fit p-5">
            <EntryForm form={form} send={save.mutateAsync}>
              <h2 className="text-xl">{editing ? tr`Change ${editing.name}` : tr`A new instrument`}</h2>
              <TextField
                form={form}
                name="name"
                label={tr`Name`}
                hint={tr`kind and range, as the shop calls it`}
              />
              <div className="grid grid-cols-2 gap-3">
                <ListField form={form} name="kind" label={tr`Kind`} words={kindWords} />
                <ListField form={form} name="quantity" label={tr`Measures`} words={quantityWords} />
                <FigureField form={form} name="resolution" label={tr`Smallest step, ${baseUnit[quantity]}`} />
                <FigureField
                  form={form}
                  name="permissibleError"
                  label={tr`Largest error, ± ${baseUnit[quantity]}`}
                />
                <TextField
                  form={form}
                  name="calibrated"
                  label={tr`Calibrated on`}
                  type="date"
                  className="fig"
                />
                <TextField form={form} name="calibrationDue" label={tr`Due on`} type="date" className="fig" />
              </div>
              <ListField
                form={form}
                name="setWith"
                label={tr`Set with`}
                hint={tr`a bore gauge set in the micrometer that reads the journal`}
                first={tr`nothing: it reads by itself`}
                words={kept
                  .filter((i) => i.id !== editing?.id && i.quantity === quantity)
                  .map((i) => [i.name, i.name] as const)}
              />
              <TextField
                form={form}
                name="method"
                label={tr`How it is used, where its uncertainty comes from`}
                rows={2}
              />
              <Trouble problem={save.error} />
              <div className="flex gap-2">
                <button className="key key-go" disabled={save.isPending}>
                  {editing ? tr`Write the change` : tr`Take it up`}
                </button>
                {editing && (
                  <button type="button" className="key" onClick={() => void fresh()}>
                    {tr`Leave it`}
                  </button>
                )}
              </div>
              {editing && <Before id={editing.id} />}
            </EntryForm>
          </section>
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
      <summary className="min-h-8 cursor-pointer text-sm font-semibold">{tr`What it was before`}</summary>
      <ul className="text-sm">
        {earlier.map((c) => (
          <li key={c.id}>
            <Trans>
              till {moment(c.at)}: steps <span className="fig">{c.was.resolution}</span>, ±
              <span className="fig">{c.was.permissibleError}</span> (changed by {c.by})
            </Trans>
          </li>
        ))}
      </ul>
    </details>
  );
}
