import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useState } from 'react';
import { v7 } from 'uuid';
import * as z from 'zod/mini';
import type { Schemas } from '../api/client';
import type { CaseContext } from '../casebook/context';
import { ranAgain } from '../casebook/ranAgain';
import { useRoom } from '../casebook/caseQueries';
import { useWrite, writes } from '../outbox/writes';
import { Addr, moment, Trouble } from '../ui/basics';
import {
  EntryForm,
  FigureField,
  given,
  KeysField,
  numberTyped,
  oneOf,
  TextField,
  useEntryForm,
} from '../ui/form';
import { entriesOf, stands, writerOf } from '../ui/words';
import { colourWords, formWords, materialWords } from '../ui/lookWords';
import { useMayWrite } from '../api/queries';

/** Kinds of part in which debris gathers. */
export const gathers = [
  'pan',
  'pickup',
  'oil-filter',
  'crankcase',
  'case-half',
  'gallery-plugs',
  'carburettor',
];

const schema = z.object({
  material: given(z.nullable(oneOf(materialWords)), tr`Say what it is.`),
  hard: z.pipe(
    z.nullable(z.enum(['hard', 'soft'])),
    z.transform((hard) => (hard === null ? null : hard === 'hard')),
  ),
  colour: oneOf(colourWords),
  form: oneOf(formWords),
  count: numberTyped({ whole: true, min: 0 }),
  size: numberTyped({ min: 0 }),
  doneBy: z.enum(['running', 'runAgain']),
  note: z.string(),
});

const blank: z.input<typeof schema> = {
  material: null,
  hard: null,
  colour: 'unknown',
  form: 'unknown',
  count: '',
  size: '',
  doneBy: 'running',
  note: '',
};

/** What lay in pan, screen or filter: what magnet, thumbnail and eye say, and where it may have come from. */
export function DebrisRoom({ address, context }: { address: string; context: CaseContext }) {
  const { engineCase, openPart } = context;
  const look = useRoom(engineCase.id, 'look');
  const mayWrite = useMayWrite();
  const finds = engineCase.debris.filter((d) => d.place === address && stands(d));
  const [adding, setAdding] = useState(false);
  return (
    <div>
      <h3 className="mb-2 text-lg">{tr`What lay in it`}</h3>
      <ul className="space-y-2">
        {finds.map((d) => (
          <Find
            key={d.id}
            find={d}
            sources={look.debris.find((r) => r.debris === d.id)?.sources ?? []}
            context={context}
            open={openPart}
          />
        ))}
      </ul>
      {mayWrite &&
        (adding ? (
          <DebrisForm address={address} context={context} onDone={() => setAdding(false)} />
        ) : (
          <button className="key mt-2" onClick={() => setAdding(true)}>
            {finds.length > 0 ? tr`Something else lay in it` : tr`Write down what lay in it`}
          </button>
        ))}
    </div>
  );
}

function Find({
  find,
  sources,
  context,
  open,
}: {
  find: Schemas['Debris'];
  sources: Schemas['DebrisSource'][];
  context: CaseContext;
  open: (place: string) => void;
}) {
  const mayWrite = useMayWrite();
  const takeBack = useWrite(context.engineCase.id, writes.takeBack);
  const words = [
    materialWords[find.material],
    find.hard === null ? '' : find.hard ? tr`hard` : tr`soft`,
    find.colour === 'unknown' ? '' : colourWords[find.colour].toLowerCase(),
    find.form === 'unknown' ? '' : formWords[find.form].toLowerCase(),
    find.count === null ? '' : tr`about ${find.count}`,
    find.size === null ? '' : tr`to ${find.size} mm`,
    find.doneBy === 'runAgain' ? tr`since it runs again` : '',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <li className="rounded-lg border border-line p-3">
      <div className="flex gap-2">
        <div className="min-w-0 flex-1">
          <p className="font-semibold">{words}</p>
          <p className="text-sm text-soft">
            {find.note && `${find.note} · `}
            {writerOf(find)}, {moment(find.at)}
            {find.version === 0 && <b className="text-brass"> {tr`· kept here, not yet sent`}</b>}
          </p>
        </div>
        {mayWrite && (
          <button
            className="key px-2 text-sm"
            onClick={() =>
              takeBack.mutate({ of: 'debris', record: find, why: tr`Entered by mistake`, words })
            }
          >
            {tr`Undo`}
          </button>
        )}
      </div>
      {sources.length > 0 && (
        <>
          <p className="label mt-2">{tr`May have come from`}</p>
          <ol className="space-y-1.5">
            {sources.map((s, i) => (
              <li key={s.id} className={i === 0 ? '' : 'text-soft'}>
                <b>{s.name}</b>
                {s.agrees.length > 0 && (
                  <span className="text-sm">
                    {' '}
                    <Trans>· agrees in {s.agrees.join(', ')}</Trans>
                  </span>
                )}
                <span className="block text-sm">{s.tell}</span>
                {i === 0 && (
                  <span className="mt-1 flex flex-wrap gap-1.5">
                    {s.places.map((p) => (
                      <button key={p} className="key px-2" onClick={() => open(p)}>
                        <Addr code={p} />
                      </button>
                    ))}
                  </span>
                )}
              </li>
            ))}
          </ol>
        </>
      )}
      <Trouble problem={takeBack.error} />
    </li>
  );
}

function DebrisForm({
  address,
  context,
  onDone,
}: {
  address: string;
  context: CaseContext;
  onDone: () => void;
}) {
  const caseId = context.engineCase.id;
  const again = ranAgain(context.engineCase);
  const empty: typeof blank = { ...blank, doneBy: again ? 'runAgain' : 'running' };
  const { form, settle } = useEntryForm(schema, empty, { draft: `debris/${caseId}/${address}` });
  const add = useWrite(caseId, writes.debris, () => {
    settle(empty);
    onDone();
  });
  return (
    <EntryForm
      form={form}
      send={(found) =>
        add.mutateAsync({
          words: tr`Debris: ${materialWords[found.material]}`,
          body: { id: v7(), place: address, ...found },
        })
      }
      className="card mt-2 space-y-3 p-3"
    >
      <KeysField
        form={form}
        name="material"
        label={tr`What is it? Try a magnet.`}
        options={entriesOf(materialWords)}
      />
      <KeysField
        form={form}
        name="hard"
        label={tr`Does a thumbnail mark it?`}
        options={[
          ['soft', tr`Yes, soft`],
          ['hard', tr`No, hard`],
        ]}
      />
      <KeysField form={form} name="colour" label={tr`Colour`} options={entriesOf(colourWords)} />
      <KeysField form={form} name="form" label={tr`Form`} options={entriesOf(formWords)} />
      <div className="grid grid-cols-2 gap-2">
        <FigureField form={form} name="count" label={tr`How many, about`} />
        <FigureField form={form} name="size" label={tr`Largest, mm`} />
      </div>
      {again && (
        <KeysField
          form={form}
          name="doneBy"
          label={tr`When?`}
          options={[
            ['runAgain', tr`Since it runs again`],
            ['running', tr`As it came`],
          ]}
        />
      )}
      <TextField form={form} name="note" label={tr`Note`} />
      <Trouble problem={add.error} />
      <div className="flex gap-2">
        <button className="key key-go" disabled={add.isPending}>
          {tr`Save`}
        </button>
        <button type="button" className="key" onClick={onDone}>
          {tr`Not now`}
        </button>
      </div>
    </EntryForm>
  );
}
