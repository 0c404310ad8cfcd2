// @vitest-environment happy-dom
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import * as z from 'zod/mini';
import { ApiProblem } from '../api/client';
import { draftsBelongTo } from './draft';
import {
  asTyped,
  dayGiven,
  EntryForm,
  FigureField,
  given,
  KeysField,
  ListField,
  needed,
  numberNeeded,
  numberTyped,
  oneOf,
  TextField,
  TickField,
  useEntryForm,
} from './form';

const fuels = { petrol: 'Petrol', diesel: 'Diesel' };
const schema = z.object({
  name: needed('Name it.'),
  weight: numberTyped({ min: 0 }),
  count: numberNeeded({ whole: true, min: 1, max: 9 }),
  fuel: given(z.nullable(oneOf(fuels)), 'Choose the fuel.'),
  kept: z.nullable(oneOf(fuels)),
  due: dayGiven,
  worn: z.boolean(),
});
type Fields = z.input<typeof schema>;
const blank: Fields = { name: '', weight: '', count: '1', fuel: 'petrol', kept: null, due: '', worn: false };

const send = vi.fn((_values: z.output<typeof schema>, _version: number): Promise<unknown> =>
  Promise.resolve(),
);

function Pump({ stands = blank, version = 0, draft }: { stands?: Fields; version?: number; draft?: string }) {
  const entry = useEntryForm(schema, stands, { version, ...(draft ? { draft } : {}) });
  const { form } = entry;
  return (
    <EntryForm form={form} send={(values) => send(values, entry.version())}>
      <TextField form={form} name="name" label="Name" />
      <FigureField form={form} name="weight" label="Weight, g" />
      <FigureField form={form} name="count" label="How many" />
      <KeysField form={form} name="fuel" label="Fuel" options={[['diesel', 'Diesel']]} />
      <ListField form={form} name="kept" label="Kept for" first="nothing" orNull words={fuels} />
      <TextField form={form} name="due" label="Due back" type="date" />
      <TickField form={form} name="worn" label="Worn" />
      <p>{entry.touched ? 'not sent yet' : 'as it stands'}</p>
      <button>Send</button>
      <button type="button" onClick={() => entry.settle(stands)}>
        Leave it
      </button>
    </EntryForm>
  );
}

const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const press = () => userEvent.click(screen.getByRole('button', { name: 'Send' }));

afterEach(() => {
  cleanup();
  localStorage.clear();
  draftsBelongTo('');
  send.mockReset().mockResolvedValue(undefined);
});

describe('a form of the screens', () => {
  it('sends what its fields mean: comma or point, nothing as null, a day, a choice, a tick', async () => {
    render(<Pump />);
    await userEvent.type(field('Name'), 'Orchard pump');
    await userEvent.type(field('Weight, g'), '21,5');
    await userEvent.click(screen.getByRole('button', { name: 'Diesel' }));
    await userEvent.selectOptions(field('Kept for'), 'petrol');
    await userEvent.click(field('Worn'));
    await press();
    expect(send).toHaveBeenCalledWith(
      {
        name: 'Orchard pump',
        weight: 21.5,
        count: 1,
        fuel: 'diesel',
        kept: 'petrol',
        due: null,
        worn: true,
      },
      0,
    );
    await userEvent.selectOptions(field('Kept for'), '');
    await userEvent.clear(field('Weight, g'));
    await press();
    expect(send.mock.lastCall![0]).toMatchObject({ kept: null, weight: null });
  });

  it.each([
    ['Weight, g', 'abc', '“abc” is no number.'],
    ['Weight, g', '-1', 'Give 0 or more.'],
    ['How many', '2.6', '2.6 is no whole number.'],
    ['How many', ' ', 'A number is needed here.'],
    ['Name', ' ', 'Name it.'],
  ])('%s “%s” is told at its field and is not sent, and stays as typed', async (name, typed, told) => {
    render(<Pump stands={{ ...blank, name: 'Orchard pump' }} />);
    await userEvent.clear(field(name));
    await userEvent.type(field(name), typed);
    await press();
    expect(screen.getByRole('alert').textContent).toContain(told);
    expect(field(name).getAttribute('aria-invalid')).toBe('true');
    expect(field(name).value).toBe(typed);
    expect(send).not.toHaveBeenCalled();
  });

  it('asks for a choice that must be made', async () => {
    render(<Pump stands={{ ...blank, name: 'Orchard pump', fuel: null }} />);
    await press();
    expect(screen.getByRole('alert').textContent).toBe('Choose the fuel.');
    expect(send).not.toHaveBeenCalled();
  });

  it('a press more while it is on its way sends nothing more; after a refusal it can be sent again', async () => {
    let refuse: (problem: ApiProblem) => void = () => undefined;
    send.mockImplementationOnce(() => new Promise((_, no) => (refuse = no)));
    render(<Pump stands={{ ...blank, name: 'Orchard pump' }} />);
    await press();
    await press();
    expect(send).toHaveBeenCalledTimes(1);
    refuse(new ApiProblem(409, { title: 'Somebody was faster.' }));
    await waitFor(async () => {
      await press();
      expect(send).toHaveBeenCalledTimes(2);
    });
  });
});

describe('what was typed and not sent', () => {
  it('stands again after the page was lost, for the person who typed it, until it is left or sent', async () => {
    draftsBelongTo('tomas');
    const first = render(<Pump draft="pump" />);
    await userEvent.type(field('Weight, g'), '21,');
    expect(screen.getByText('not sent yet')).toBeTruthy();
    first.unmount();

    draftsBelongTo('ines');
    const other = render(<Pump draft="pump" />);
    expect(field('Weight, g').value).toBe('');
    other.unmount();

    draftsBelongTo('tomas');
    const again = render(<Pump draft="pump" />);
    expect(field('Weight, g').value).toBe('21,');
    expect(screen.getByText('not sent yet')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    expect(screen.getByText('as it stands')).toBeTruthy();
    again.unmount();
    render(<Pump draft="pump" />);
    expect(field('Weight, g').value).toBe('');
  });

  it('tells at once what cannot be read in it, and not what is still missing', async () => {
    const first = render(<Pump draft="pump" />);
    await userEvent.type(field('Weight, g'), 'abc');
    first.unmount();
    render(<Pump draft="pump" />);
    expect((await screen.findByRole('alert')).textContent).toContain('“abc” is no number.');
    expect(field('Name').getAttribute('aria-invalid')).toBe('false');
  });

  it('typed back to what stands is nothing to send', async () => {
    render(<Pump draft="pump" />);
    await userEvent.type(field('Name'), 'x');
    expect(localStorage).toHaveLength(1);
    await userEvent.clear(field('Name'));
    expect(screen.getByText('as it stands')).toBeTruthy();
    expect(localStorage).toHaveLength(0);
  });

  it('of an older form is shown as far as it fits; what cannot be read is nothing', () => {
    localStorage.setItem('draft//pump', JSON.stringify({ name: 'Half a name', weight: 21.5, count: null }));
    const first = render(<Pump draft="pump" />);
    expect([field('Name').value, field('Weight, g').value, field('How many').value]).toEqual([
      'Half a name',
      '21.5',
      '',
    ]);
    first.unmount();
    localStorage.setItem('draft//pump', '{ half');
    render(<Pump draft="pump" stands={{ ...blank, name: 'Orchard pump' }} />);
    expect(field('Name').value).toBe('Orchard pump');
  });

  it('another’s change shows in a form that nobody has begun', () => {
    const { rerender } = render(<Pump version={3} />);
    rerender(<Pump version={4} stands={{ ...blank, name: 'Theirs', weight: asTyped(7) }} />);
    expect([field('Name').value, field('Weight, g').value]).toEqual(['Theirs', '7']);
    expect(screen.getByText('as it stands')).toBeTruthy();
  });

  it('stays under another’s change, and is sent as begun before it, after a reload too', async () => {
    const { rerender, unmount } = render(<Pump draft="pump" version={3} />);
    await userEvent.type(field('Name'), 'Mine');
    rerender(<Pump draft="pump" version={4} stands={{ ...blank, name: 'Theirs' }} />);
    expect(field('Name').value).toBe('Mine');
    await press();
    expect(send.mock.lastCall![1]).toBe(3);
    unmount();
    render(<Pump draft="pump" version={4} stands={{ ...blank, name: 'Theirs' }} />);
    expect(field('Name').value).toBe('Mine');
    await press();
    expect(send.mock.lastCall![1]).toBe(3);
    // Left, it is begun anew from what stands now.
    await userEvent.click(screen.getByRole('button', { name: 'Leave it' }));
    await userEvent.type(field('Name'), ' and mine');
    await press();
    expect(send).toHaveBeenLastCalledWith(expect.objectContaining({ name: 'Theirs and mine' }), 4);
  });

  it('one that is empty again is for the next, and the hand goes on where it begins; one that stays keeps the hand', async () => {
    function Adding({ empties }: { empties: boolean }) {
      const { form, settle } = useEntryForm(z.object({ name: needed('Name it.') }), { name: '' });
      return (
        <EntryForm form={form} send={async () => void (empties && settle({ name: '' }))}>
          <TextField form={form} name="name" label="Name" />
          <button>Add</button>
        </EntryForm>
      );
    }
    const user = userEvent.setup();
    const { unmount } = render(<Adding empties />);
    await user.type(screen.getByLabelText('Name'), 'Feeler');
    await user.click(screen.getByRole('button', { name: 'Add' }));
    await waitFor(() => expect(document.activeElement).toBe(screen.getByLabelText('Name')));
    unmount();
    render(<Adding empties={false} />);
    await user.type(screen.getByLabelText('Name'), 'Feeler');
    await user.click(screen.getByRole('button', { name: 'Add' }));
    await new Promise((rest) => setTimeout(rest, 20));
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Add' }));
  });

  it('what is typed while it is on its way stays, as begun from what was saved; the rest shows what was saved', async () => {
    function Tag({ stands, version }: { stands: { where: string; mark: string }; version: number }) {
      const { form, settle, ...entry } = useEntryForm(
        z.object({ where: z.string(), mark: z.string() }),
        stands,
        { version },
      );
      return (
        <EntryForm
          form={form}
          send={async (values) => {
            const saved = (await way(values, entry.version())) as typeof stands;
            settle(saved, 5);
          }}
        >
          <TextField form={form} name="where" label="Where" />
          <TextField form={form} name="mark" label="Mark" />
          <p>{entry.touched ? 'not sent yet' : 'as it stands'}</p>
          <button>Send</button>
        </EntryForm>
      );
    }
    let arrive: (saved: object) => void = () => undefined;
    const way = vi.fn(
      (_values: object, _version: number) => new Promise<object>((resolve) => (arrive = resolve)),
    );
    const user = userEvent.setup();
    const { rerender } = render(<Tag stands={{ where: '', mark: '4' }} version={4} />);
    await user.type(field('Where'), 'row 3');
    await press();
    await user.clear(field('Where'));
    await user.type(field('Where'), 'row 9');
    arrive({ where: 'row 3', mark: '4 punched' });
    await waitFor(() => expect(field('Mark').value).toBe('4 punched'));
    expect(field('Where').value).toBe('row 9');
    expect(document.activeElement).toBe(field('Where'));
    rerender(<Tag stands={{ where: 'row 3', mark: '4 punched' }} version={5} />);
    expect(field('Where').value).toBe('row 9');
    screen.getByText('not sent yet');
    await press();
    expect(way).toHaveBeenLastCalledWith({ where: 'row 9', mark: '4 punched' }, 5);
    arrive({ where: 'row 9', mark: '4 punched' });
    await screen.findByText('as it stands');
  });
});
