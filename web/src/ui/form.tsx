import { t as tr } from '@lingui/core/macro';
import { Trans } from '@lingui/react/macro';
import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import {
  useController,
  useForm,
  type FieldPath,
  type FieldPathByValue,
  type FieldPathValue,
  type FieldValues,
  type UseFormReturn,
} from 'react-hook-form';
import * as z from 'zod/mini';
import { ApiProblem } from '../api/client';
import { Choice, Field } from './basics';
import { draftOf, type Draft } from './draft';
import { parseNumber, type Bounds } from './number';
import { decimalMark, plainFigures } from './region';
import { entriesOf } from './words';

/** A value without which the form is not sent. */
export const given = <In, Out>(schema: z.ZodMiniType<Out | null, In>, remedy: string) =>
  z.pipe(
    schema,
    z.transform((value: Out | null, context) => {
      if (value !== null) return value;
      context.issues.push({ code: 'custom', message: remedy, input: value });
      return z.NEVER;
    }),
  );

/** A number as it is typed: what cannot be read is told and keeps the form from being sent; nothing typed is null. */
export const numberTyped = (bounds: Bounds = {}) =>
  z.pipe(
    z.string(),
    z.transform((text: string, context) => {
      const typed = parseNumber(text, bounds);
      if (typed.kind === 'number') return typed.value;
      if (typed.kind === 'empty') return null;
      context.issues.push({ code: 'custom', message: `${typed.text} ${typed.remedy}`, input: text });
      return z.NEVER;
    }),
  );

/** A number without which the form is not sent. */
export const numberNeeded = (bounds: Bounds = {}) => given(numberTyped(bounds), tr`A number is needed here.`);

/** How a number that stands is shown in its field. */
export const asTyped = (value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(value).replace('.', decimalMark());

/** A figure that the server reads, of whatever shape. */
export const figureTyped = z.pipe(z.string(), z.transform(plainFigures));

/** Words without which the form is not sent. */
export const needed = (remedy: string) =>
  z.string().check(z.refine((text) => text.trim() !== '', { message: remedy }));

/** One of the words of a list. */
export const oneOf = <K extends string>(words: Record<K, string>) =>
  z.enum(Object.keys(words) as [K, ...K[]]);

/** A day, or null where none was given. */
export const dayGiven = z.pipe(
  z.string(),
  z.transform((day: string) => day || null),
);

type Form<In extends FieldValues, Out> = UseFormReturn<In, unknown, Out>;

/**
 * A form of the screens: what stands is shown until somebody types; what is typed stays until the server has it, in the browser too where the draft
 * has a name; and what is sent says from which version it was begun, so that what another wrote meanwhile is not overwritten unseen.
 * @param stands What stands, as the fields show it.
 */
export function useEntryForm<In extends FieldValues, Out>(
  schema: z.ZodMiniType<Out, In>,
  stands: In,
  { draft: name, version = 0 }: { draft?: string; version?: number } = {},
) {
  const [store] = useState(() => (name ? draftOf(name, stands, version) : null));
  const [kept] = useState((): Draft<In> | null => store?.read() ?? null);
  const [touched, setTouched] = useState(kept !== null);
  const begun = useRef(kept?.version ?? null);
  const known = useRef({ fields: stands, version });
  const form = useForm<In, unknown, Out>({
    resolver: zodResolver(schema),
    defaultValues: (kept?.values ?? stands) as never,
    mode: 'onChange',
  });

  useEffect(
    () =>
      form.subscribe({
        formState: { values: true },
        callback: ({ values }) => {
          const typed = !same(values, known.current.fields);
          setTouched(typed);
          if (typed) {
            begun.current ??= known.current.version;
            store?.write({ values, version: begun.current });
          } else {
            begun.current = null;
            store?.drop();
          }
        },
      }),
    [form, store],
  );

  useEffect(() => {
    // Of what stands in the draft, what cannot be read is told at once; what is still missing is not.
    if (kept)
      void form.trigger(
        Object.entries(kept.values).flatMap(([name, value]) => (value ? [name as FieldPath<In>] : [])),
      );
  }, [kept, form]);

  const settle = (fields: In, now = known.current.version) => {
    const going = underWay.get(form.control);
    const typedOn = going
      ? Object.entries(form.getValues()).filter(([name, value]) => !same(value, going.sent[name]))
      : [];
    if (going) going.typedOn = typedOn.length > 0;
    begun.current = null;
    known.current = { fields, version: now };
    store?.drop();
    setTouched(typedOn.length > 0);
    form.reset({ ...fields, ...(Object.fromEntries(typedOn) as Partial<In>) });
  };

  const told = JSON.stringify(stands);
  useEffect(() => {
    known.current = { fields: JSON.parse(told) as In, version };
    // What was begun stays as it is; its version tells the server what it was begun from.
    if (begun.current === null) form.reset(JSON.parse(told) as In);
  }, [told, version, form]);

  return {
    form,
    /** Something stands in the form that was not sent yet. */
    touched,
    /** Version of what stood when typing began. */
    version: () => begun.current ?? version,
    /** Drops what was sent, or left, and shows this, of this version; what was typed into a field after it was sent stays in it. */
    settle,
  };
}

/** What a form has under way, by its control: the fields as they were sent, and whether somebody typed on meanwhile. */
const underWay = new WeakMap<object, { sent: FieldValues; typedOn: boolean }>();

/**
 * Sends what the fields hold once they can all be read. What the server refuses is shown by the form itself.
 * @param taken Told once it is taken: whether somebody typed on while it was on its way, and the fields as they were sent.
 */
export function sending<In extends FieldValues, Out>(
  form: Form<In, Out>,
  send: (values: Out) => Promise<unknown>,
  taken?: (typedOn: boolean, sent: In) => void,
) {
  return form.handleSubmit(async (values) => {
    const going = { sent: structuredClone(form.getValues()), typedOn: false };
    underWay.set(form.control, going);
    try {
      await send(values);
    } catch (e) {
      toldBelow(e);
      return;
    } finally {
      underWay.delete(form.control);
    }
    taken?.(going.typedOn, going.sent);
  });
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** What the server refused is told by the form, from its mutation. */
function toldBelow(e: unknown) {
  if (!(e instanceof ApiProblem)) throw e;
}

/** Sends what its fields hold once they can all be read; a double press sends once. */
export function EntryForm<In extends FieldValues, Out>({
  form,
  send,
  className = 'space-y-3',
  disabled = false,
  children,
}: {
  form: Form<In, Out>;
  /** Sends it. What the server refuses is shown by the form itself. */
  send: (values: Out) => Promise<unknown>;
  className?: string;
  disabled?: boolean;
  children: ReactNode;
}) {
  const going = useRef(false);
  const fields = useRef<HTMLFieldSetElement>(null);
  const submit = sending(form, send, (typedOn, sent) => {
    // One that is empty again is for the next: the hand goes on where it begins. One that shows what stands keeps the hand where it was.
    if (!typedOn && !same(form.getValues(), sent)) setTimeout(() => goOn(fields.current));
  });
  return (
    <form
      noValidate
      // The fields lie in what the form lies in.
      className="contents"
      onSubmit={(e) => {
        e.preventDefault();
        if (going.current) return;
        going.current = true;
        void submit(e).finally(() => {
          going.current = false;
        });
      }}
    >
      <fieldset ref={fields} disabled={disabled} className={className}>
        {children}
      </fieldset>
    </form>
  );
}

/** Puts the focus on the first field, unless somebody went elsewhere meanwhile. */
function goOn(fields: HTMLFieldSetElement | null) {
  const at = document.activeElement;
  if (!fields || (at && at !== document.body && !fields.contains(at))) return;
  fields
    .querySelector<HTMLElement>('input:not(:disabled), select:not(:disabled), textarea:not(:disabled)')
    ?.focus();
}

/** Somebody else wrote meanwhile: both stand side by side, and one is chosen. */
export function LostRace({
  says,
  theirs,
  yours,
  onKeep,
  onTake,
}: {
  says: ReactNode;
  theirs: ReactNode;
  yours: ReactNode;
  /** Sends what is typed, over theirs. */
  onKeep: () => void;
  /** Shows theirs, and lets what is typed go. */
  onTake: () => void;
}) {
  return (
    <div role="alert" className="rounded-lg border-2 border-brass bg-brass-tint p-3">
      <p className="font-bold">{says}</p>
      <p>
        <Trans>Theirs: {theirs}</Trans>
      </p>
      <p>
        <Trans>Yours: {yours}</Trans>
      </p>
      <div className="mt-2 flex gap-2">
        <button type="button" className="key" onClick={onKeep}>
          {tr`Keep mine`}
        </button>
        <button type="button" className="key" onClick={onTake}>
          {tr`Take theirs`}
        </button>
      </div>
    </div>
  );
}

interface At<In extends FieldValues, Out, N> {
  form: Form<In, Out>;
  name: N;
  label: string;
}

type Of<In extends FieldValues, Out, V> = At<In, Out, FieldPathByValue<In, V>>;

/** The words that the field of a name may hold. */
type WordAt<In extends FieldValues, N extends FieldPath<In>> = NonNullable<FieldPathValue<In, N>> & string;

const useField = <In extends FieldValues, Out, V>({
  form,
  name,
}: {
  form: Form<In, Out>;
  name: FieldPath<In>;
}) => {
  const { field, fieldState } = useController({ control: form.control, name });
  return { field: { ...field, value: field.value as V }, wrong: fieldState.error?.message };
};

function Wrong({ id, words }: { id?: string; words: string | undefined }) {
  return words ? (
    <span id={id} role="alert" className="mt-1 block text-sm font-semibold text-lead">
      {words}
    </span>
  ) : null;
}

interface Line {
  hint?: string | undefined;
  /** So many lines; one without. */
  rows?: number;
  type?: 'text' | 'date' | 'password';
  className?: string;
  placeholder?: string;
  autoComplete?: string;
  list?: string;
  inputMode?: 'decimal' | 'numeric' | 'text';
  /** The label is for those who cannot see that the place says it. */
  unseen?: boolean;
  disabled?: boolean;
}

/** A field for words, for a day, or for a number as it is typed. */
export function TextField<In extends FieldValues, Out>({
  hint,
  rows,
  className = '',
  unseen = false,
  label,
  form,
  name,
  ...input
}: Of<In, Out, string> & Line) {
  const { field, wrong } = useField<In, Out, string>({ form, name });
  const note = useId();
  const told = { 'aria-invalid': wrong !== undefined, 'aria-describedby': wrong ? note : undefined };
  return (
    <div className={unseen ? className : ''}>
      <label className="block">
        <span className={unseen ? 'sr-only' : 'label'}>{label}</span>
        {rows ? (
          <textarea
            {...input}
            {...told}
            {...field}
            rows={rows}
            className={`entry ${unseen ? '' : className}`}
          />
        ) : (
          <input {...input} {...told} {...field} className={`entry ${unseen ? '' : className}`} />
        )}
        {hint && <span className="mt-1 block text-sm text-soft">{hint}</span>}
      </label>
      <Wrong id={note} words={wrong} />
    </div>
  );
}

/** A field for a number. */
export function FigureField<In extends FieldValues, Out>(props: Of<In, Out, string> & Line) {
  return (
    <TextField inputMode="decimal" autoComplete="off" {...props} className={`fig ${props.className ?? ''}`} />
  );
}

/** One of a few, as keys. */
export function KeysField<In extends FieldValues, Out, N extends FieldPath<In>>({
  options,
  label,
  onPicked,
  disabled = false,
  ...of
}: At<In, Out, N> & {
  options: readonly (readonly [WordAt<In, N>, string])[];
  onPicked?: () => void;
  disabled?: boolean;
}) {
  const { field, wrong } = useField<In, Out, WordAt<In, N> | null>(of);
  return (
    <div>
      <Choice<WordAt<In, N>>
        label={label}
        value={field.value}
        options={options}
        disabled={disabled}
        onChange={(v) => {
          field.onChange(v);
          onPicked?.();
        }}
      />
      <Wrong words={wrong} />
    </div>
  );
}

/** One of many, as a list. */
export function ListField<In extends FieldValues, Out, N extends FieldPath<In>>({
  words,
  first,
  className = '',
  hint,
  onPicked,
  orNull = false,
  ...of
}: At<In, Out, N> & {
  /** What each is called; where they come from elsewhere, in their order. */
  words: Record<WordAt<In, N>, string> | readonly (readonly [WordAt<In, N>, string])[];
  /** What stands before the list, for none of it. */
  first?: string;
  className?: string;
  hint?: string;
  /** What else another choice changes. */
  onPicked?: () => void;
  /** None of the list is null. */
  orNull?: boolean;
}) {
  const { field, wrong } = useField<In, Out, WordAt<In, N> | null>(of);
  const note = useId();
  const options = Array.isArray(words)
    ? (words as readonly (readonly [WordAt<In, N>, string])[])
    : entriesOf(words as Record<WordAt<In, N>, string>);
  return (
    <div>
      <Field label={of.label} {...(hint ? { hint } : {})}>
        <select
          {...field}
          value={field.value ?? ''}
          onChange={(e) => {
            field.onChange(orNull && e.target.value === '' ? null : e.target.value);
            onPicked?.();
          }}
          className={`entry ${className}`}
          aria-invalid={wrong !== undefined}
          aria-describedby={wrong ? note : undefined}
        >
          {first !== undefined && <option value="">{first}</option>}
          {options.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
      </Field>
      <Wrong id={note} words={wrong} />
    </div>
  );
}

/** Yes or no. */
export function TickField<In extends FieldValues, Out>({
  className = '',
  ...of
}: Of<In, Out, boolean> & { className?: string }) {
  const { field } = useField<In, Out, boolean>(of);
  return (
    <label className={`flex min-h-11 items-center gap-3 ${className}`}>
      <input
        type="checkbox"
        className="size-6 accent-dye"
        ref={field.ref}
        name={field.name}
        checked={field.value}
        onBlur={field.onBlur}
        onChange={(e) => field.onChange(e.target.checked)}
      />
      {of.label}
    </label>
  );
}
