import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import * as z from 'zod/mini';
import { v7 } from 'uuid';
import { api, unwrap, type ApiProblem, type Schemas } from '../api/client';
import { useKnowledge } from '../api/queries';
import { byId } from '../ui/byId';
import { Trouble } from '../ui/basics';
import { baseUnit, unitWords } from '../ui/figures';
import {
  EntryForm,
  FigureField,
  KeysField,
  ListField,
  needed,
  numberTyped,
  TextField,
  TickField,
  useEntryForm,
  figureTyped,
} from '../ui/form';

type Sheet = Schemas['KindSheet'];
interface In {
  sheet: Sheet;
  change: (part: Partial<Sheet>) => void;
}

const limitSchema = z.object({
  characteristic: z.string(),
  on: z.string(),
  nominal: figureTyped,
  least: figureTyped,
  most: figureTyped,
  wear: figureTyped,
  sourceText: needed(tr`Give the manual with its page.`),
  source: z.enum(['makersManual', 'shopStandard']),
});

const blankLimit: z.input<typeof limitSchema> = {
  characteristic: 'big-end-clearance',
  on: '',
  nominal: '',
  least: '',
  most: '',
  wear: '',
  sourceText: '',
  source: 'makersManual',
};

/** One figure of the maker, typed as it stands in the manual; the server reads it. */
export function LimitIn({ sheet, change }: In) {
  const knowledge = useKnowledge();
  const [open, setOpen] = useState(false);
  const { form, settle } = useEntryForm(limitSchema, blankLimit, { draft: `kind-limit/${sheet.name}` });
  const characteristic = useWatch({ control: form.control, name: 'characteristic' });
  const entry = knowledge.data && byId(knowledge.data.characteristics).get(characteristic);
  const unit = entry ? entry.unit || baseUnit[entry.quantity] : '';
  const read = useMutation<Schemas['Limit'], ApiProblem, z.output<typeof limitSchema>>({
    mutationFn: (typed) =>
      unwrap(api.POST('/api/engine-kinds/limit', { body: { ...typed, id: v7(), setUnit: unit } })),
    onSuccess: (limit, typed) => {
      const others = sheet.limits.filter(
        (l) => l.characteristic !== limit.characteristic || l.on !== limit.on || l.source !== limit.source,
      );
      change({ limits: [...others, limit] });
      settle({
        ...blankLimit,
        characteristic: typed.characteristic,
        sourceText: typed.sourceText,
        source: typed.source,
      });
    },
  });
  if (!open || !knowledge.data || !entry)
    return (
      <button className="key mt-2" onClick={() => setOpen(true)}>
        {tr`Add a limit`}
      </button>
    );
  const kindName = (k: string) => byId(knowledge.data.kinds).get(k)?.name ?? k;
  return (
    <EntryForm form={form} send={read.mutateAsync} className="card mt-2 space-y-3 p-4">
      <ListField
        form={form}
        name="characteristic"
        label={tr`Of what`}
        words={knowledge.data.characteristics.map((c) => [c.id, c.name] as const)}
        onPicked={() => form.setValue('on', '')}
      />
      {entry.on.length > 1 && (
        <ListField
          form={form}
          name="on"
          label={tr`On`}
          first={tr`all on which it is measured`}
          words={entry.on.map((k) => [k, kindName(k)] as const)}
        />
      )}
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <FigureField form={form} name="nominal" label={tr`New, standard`} />
        <FigureField form={form} name="least" label={tr`Least`} />
        <FigureField form={form} name="most" label={tr`Most`} />
        <FigureField form={form} name="wear" label={tr`Wears to`} />
      </div>
      <p className="text-sm text-soft">
        <Trans>
          In {unitWords(unit)} where no unit is typed. A plus or minus counts from the standard size.
        </Trans>
      </p>
      <KeysField
        form={form}
        name="source"
        label={tr`From`}
        options={[
          ['makersManual', tr`the maker’s manual`],
          ['shopStandard', tr`the shop`],
        ]}
      />
      <TextField form={form} name="sourceText" label={tr`Manual and page, or who set it`} />
      <Trouble problem={read.error} />
      <div className="flex flex-wrap gap-2">
        <button className="key key-go" disabled={read.isPending}>
          {tr`Add it`}
        </button>
        <button className="key" type="button" onClick={() => setOpen(false)}>
          {tr`Close`}
        </button>
      </div>
    </EntryForm>
  );
}

const hours = numberTyped({ min: 0.1, max: 1_000_000 });
const serviceSchema = z.object({
  what: needed(tr`Say what is to be done.`),
  ordinary: hours,
  race: hours,
  standby: hours,
  months: numberTyped({ min: 1, max: 600 }),
  opens: z.boolean(),
  sourceText: needed(tr`Give the manual with its page, or say whose rule it is.`),
});

const blankService: z.input<typeof serviceSchema> = {
  what: '',
  ordinary: '',
  race: '',
  standby: '',
  months: '',
  opens: false,
  sourceText: '',
};

export function ServiceIn({ sheet, change }: In) {
  const [open, setOpen] = useState(false);
  const { form, settle } = useEntryForm(serviceSchema, blankService, { draft: `kind-service/${sheet.name}` });
  if (!open)
    return (
      <button className="key mt-2" onClick={() => setOpen(true)}>
        {tr`Add a service`}
      </button>
    );
  return (
    <EntryForm
      form={form}
      send={(typed) => {
        change({ services: [...sheet.services, { id: v7(), ...typed }] });
        settle({ ...blankService, sourceText: typed.sourceText });
        return Promise.resolve();
      }}
      className="card mt-2 space-y-3 p-4"
    >
      <TextField form={form} name="what" label={tr`What is to be done`} />
      <p className="text-sm text-soft">
        {tr`Running hours from one to the next; racing and standby as ordinary where empty.`}
      </p>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        <FigureField form={form} name="ordinary" label={tr`Hours, ordinary`} />
        <FigureField form={form} name="race" label={tr`Hours, race`} />
        <FigureField form={form} name="standby" label={tr`Hours, standby`} />
        <FigureField form={form} name="months" label={tr`Months, at most`} />
      </div>
      <TickField form={form} name="opens" label={tr`The engine is opened for it`} />
      <TextField form={form} name="sourceText" label={tr`Manual and page, or whose rule it is`} />
      <div className="flex flex-wrap gap-2">
        <button className="key key-go">{tr`Add it`}</button>
        <button className="key" type="button" onClick={() => setOpen(false)}>
          {tr`Close`}
        </button>
      </div>
    </EntryForm>
  );
}

const noteSchema = z.object({ title: z.string(), text: needed(tr`Say what it shows.`), page: z.string() });
const blankNote = { title: '', text: '', page: '' };

export function NoteIn({ sheet, change }: In) {
  const [open, setOpen] = useState(false);
  const { form, settle } = useEntryForm(noteSchema, blankNote, { draft: `kind-note/${sheet.name}` });
  if (!open)
    return (
      <button className="key mt-2" onClick={() => setOpen(true)}>
        {tr`Add a note`}
      </button>
    );
  return (
    <EntryForm
      form={form}
      send={(typed) => {
        change({ notes: [...sheet.notes, typed] });
        settle(blankNote);
        return Promise.resolve();
      }}
      className="card mt-2 space-y-3 p-4"
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField form={form} name="title" label={tr`Of what`} />
        <TextField form={form} name="page" label={tr`Drawing or page`} />
      </div>
      <TextField form={form} name="text" label={tr`What it shows`} rows={2} />
      <div className="flex flex-wrap gap-2">
        <button className="key key-go">{tr`Add it`}</button>
        <button className="key" type="button" onClick={() => setOpen(false)}>
          {tr`Close`}
        </button>
      </div>
    </EntryForm>
  );
}
