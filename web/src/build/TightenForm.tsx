import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useQuery } from '@tanstack/react-query';
import * as z from 'zod/mini';
import { api, unwrap, type Schemas } from '../api/client';
import { keys, useIsStudent } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useWrite, writes } from '../outbox/writes';
import { Trouble } from '../ui/basics';
import { EntryForm, KeysField, TextField, useEntryForm } from '../ui/form';
import { passWords, readOrder, readPasses, torqueUnits } from './passes';

const schema = z
  .object({
    source: z.enum(['makersManual', 'shopStandard']),
    sourceText: z.string(),
    page: z.string(),
    unit: z.enum(['Nm', 'ftlb', 'inlb']),
    passes: z.string(),
    order: z.string(),
    lubricant: z.string(),
    threadLock: z.string(),
    sealant: z.string(),
    note: z.string(),
  })
  .check((c) => {
    if (readPasses(c.value.passes, c.value.unit) === null)
      c.issues.push({
        code: 'custom',
        input: c.value.passes,
        path: ['passes'],
        message: tr`One pass after the other, a comma and a space between: 30, 60 + 90°. Decimals with a point.`,
      });
    if (readOrder(c.value.order) === null)
      c.issues.push({
        code: 'custom',
        input: c.value.order,
        path: ['order'],
        message: tr`Numbers of the holes, one after the other: 1 5 3 7.`,
      });
  });

type Fields = z.input<typeof schema>;

const blank: Fields = {
  source: 'makersManual',
  sourceText: '',
  page: '',
  unit: 'Nm',
  passes: '',
  order: '',
  lubricant: '',
  threadLock: '',
  sealant: '',
  note: '',
};

const fieldsOf = (how: Schemas['Tightening'] | null): Fields =>
  how
    ? {
        ...how,
        source: how.source === 'shopStandard' ? 'shopStandard' : 'makersManual',
        unit: torqueUnits.find(([u]) => u === how.unit)?.[0] ?? 'Nm',
        passes: how.passes
          .map((p) =>
            passWords(p, how.unit)
              .replace(/ (N·m|ft lb|in lb)/, '')
              .replace(tr`then loosened`, 'loosen'),
          )
          .join(', '),
        order: how.order.join(' '),
      }
    : blank;

/** How a set is tightened, typed once from the page; or taken over from another engine of the kind. */
export function TightenForm({ way, set, done }: { way: string; set: Schemas['BackSet']; done: () => void }) {
  const { engineCase } = useCaseContext();
  const student = useIsStudent();
  const ofKind = useQuery({
    enabled: !student,
    queryKey: [...keys.rooms(engineCase.id), 'tightenings-of-kind'],
    queryFn: () =>
      unwrap(
        api.GET('/api/cases/{caseId}/tightenings/of-kind', { params: { path: { caseId: engineCase.id } } }),
      ),
  });
  const known = ofKind.data?.find((k) => k.how.step === way && k.how.set === set.set);
  const { form, settle } = useEntryForm(schema, fieldsOf(set.how), {
    draft: `tightening/${engineCase.id}/${way}/${set.set}`,
  });
  const write = useWrite(engineCase.id, writes.tightening, (saved) => {
    settle(fieldsOf(saved));
    done();
  });
  const sheet = { step: way, set: set.set, takenFrom: null };
  return (
    <div className="mt-3 space-y-3 border-t border-line pt-3">
      {known && (
        <div className="rounded-lg border-2 border-dye p-3">
          <p>
            <Trans>
              Typed for {known.title}:{' '}
              <b className="fig">{known.how.passes.map((p) => passWords(p, known.how.unit)).join(', ')}</b>,{' '}
              {known.how.sourceText}
            </Trans>
            {known.how.page && tr`, page ${known.how.page}`}.
          </p>
          <button
            className="key mt-1"
            disabled={write.isPending}
            onClick={() => {
              const { passes, unit, order, lubricant, threadLock, sealant, source, sourceText, page, note } =
                known.how;
              write.mutate({
                ...sheet,
                passes,
                unit,
                order: order.length === set.holes.length ? order : [],
                lubricant,
                threadLock,
                sealant,
                source,
                sourceText,
                page,
                note,
                takenFrom: known.caseId,
              });
            }}
          >
            {tr`It is the same engine: take it over`}
          </button>
        </div>
      )}
      <EntryForm
        form={form}
        className="space-y-3"
        send={({ passes, order, ...rest }) =>
          write.mutateAsync({
            ...sheet,
            ...rest,
            passes: readPasses(passes, rest.unit) ?? [],
            order: readOrder(order) ?? [],
          })
        }
      >
        <KeysField
          form={form}
          name="source"
          label={tr`Where it stands`}
          options={[
            ['makersManual', tr`in the maker’s manual`],
            ['shopStandard', tr`nowhere: this shop’s own`],
          ]}
        />
        <div className="grid gap-3 sm:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
          <TextField form={form} name="sourceText" label={tr`Manual, or who sets it`} />
          <TextField form={form} name="page" label={tr`Page`} />
        </div>
        <KeysField form={form} name="unit" label={tr`Torque in`} options={torqueUnits} />
        <TextField
          form={form}
          name="passes"
          label={tr`Passes`}
          placeholder="30, 60 + 90°"
          hint={tr`One after the other, a comma and a space between. “40 loosen” is loosened again. Empty: by feel, as the shop’s own.`}
        />
        <TextField
          form={form}
          name="order"
          label={tr`The maker’s order of the holes`}
          placeholder="1 5 3 7 2 6 4 8"
          hint={tr`Empty: from the middle outward, as drawn.`}
        />
        <div className="grid gap-3 sm:grid-cols-3">
          <TextField
            form={form}
            name="lubricant"
            label={tr`On the thread`}
            placeholder={tr`engine oil, dry`}
          />
          <TextField form={form} name="threadLock" label={tr`Thread lock`} />
          <TextField form={form} name="sealant" label={tr`Sealant`} />
        </div>
        <TextField form={form} name="note" label={tr`Note`} />
        <Trouble problem={write.error} />
        <div className="flex gap-2">
          <button className="key key-go" disabled={write.isPending}>
            {tr`Keep it`}
          </button>
          <button type="button" className="key" onClick={done}>
            {tr`Close`}
          </button>
        </div>
      </EntryForm>
    </div>
  );
}
