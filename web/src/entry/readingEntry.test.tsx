// @vitest-environment happy-dom
import 'fake-indexeddb/auto';
import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { client } from '../device/queryClient';
import { outbox, signedInAs } from '../outbox/useOutbox';
import { ReadingEntry, type ReadingTask } from './ReadingEntry';

const task: ReadingTask = {
  caseId: '0191f2a0-0000-7000-8000-000000000001',
  place: 'K1',
  characteristic: 'crankpin-diameter',
  unit: 'mm',
  instrument: 'Outside micrometer 50 to 75',
};
const pin = { gap: false, least: 5, most: 500, quantity: 'length' as const };
const question = {
  field: 'confirmed',
  text: 'This looks ten times too large: about 53.25 was expected.',
  remedy: 'Correct it, or enter it again to keep it as typed.',
};

// The browser of the tests has no locks; one tab needs none but in order.
let last: Promise<unknown> = Promise.resolve();
Object.defineProperty(navigator, 'locks', {
  value: {
    request: (_: string, work: () => Promise<void>) => {
      const mine = last.then(work);
      last = mine.catch(() => undefined);
      return mine;
    },
  },
});

let sent: Schemas['ReadingEntry'][] = [];
/** What the server says to each figure that comes. */
let answer: (reading: Schemas['ReadingEntry']) => Response;
const done = vi.fn();

beforeEach(() => {
  sent = [];
  answer = (reading) => Response.json(reading);
  done.mockReset();
  vi.stubGlobal(
    'fetch',
    vi.fn(async (_: string, init: { body: string }) => {
      const reading = JSON.parse(init.body) as Schemas['ReadingEntry'];
      sent.push(reading);
      return answer(reading);
    }),
  );
  signedInAs('tomas');
});

afterEach(async () => {
  cleanup();
  answer = (reading) => Response.json(reading);
  await outbox.told();
  await outbox.flush();
  await waitFor(() => expect(outbox.state().entries).toEqual([]));
  vi.unstubAllGlobals();
});

const asks = () =>
  Response.json({ title: question.text, detail: question.remedy, problems: [question] }, { status: 422 });

const line = (more: Partial<Parameters<typeof ReadingEntry>[0]> = {}) => (
  <QueryClientProvider client={client}>
    <ReadingEntry
      task={task}
      about="Crankpin 1"
      label="Crankpin 1, mm"
      entry={pin}
      expected={{ size: 53.25, peers: false }}
      onDone={done}
      {...more}
    />
  </QueryClientProvider>
);
const entry = () => screen.getByRole('textbox', { name: 'Crankpin 1, mm' });

describe('the entry line on the screen', () => {
  it('a figure goes to its place as it was typed, the entry is empty for the next and the round goes on once', async () => {
    const user = userEvent.setup();
    render(line());
    await user.type(entry(), '53.24{Enter}');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      place: 'K1',
      characteristic: 'crankpin-diameter',
      typed: '53.24',
      setUnit: 'mm',
      confirmed: false,
    });
    expect(entry()).toHaveProperty('value', '');
  });

  it('an empty entry cannot be sent, and a double press sends once', async () => {
    const user = userEvent.setup();
    render(line());
    const press = screen.getByRole('button', { name: 'Enter' });
    expect(press).toHaveProperty('disabled', true);
    await user.type(entry(), '53.24');
    await user.dblClick(press);
    await waitFor(() => expect(done).toHaveBeenCalled());
    await outbox.told();
    await outbox.flush();
    expect(sent.map((r) => r.typed)).toEqual(['53.24']);
  });

  it('what the server asks stands by the figure, which comes back; entered again it is kept as typed', async () => {
    const user = userEvent.setup();
    answer = (reading) => (reading.confirmed ? Response.json(reading) : asks());
    render(line());
    await user.type(entry(), '532.4{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain(question.text);
    expect(entry()).toHaveProperty('value', '532.4');
    expect(done).not.toHaveBeenCalled();
    await user.click(screen.getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    expect(sent.map((r) => [r.typed, r.confirmed])).toEqual([
      ['532.4', false],
      ['532.4', true],
    ]);
    // Two figures, not one sent twice: each has an id of its own.
    expect(new Set(sent.map((r) => r.id)).size).toBe(2);
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('a figure corrected after the question is not taken for confirmed', async () => {
    const user = userEvent.setup();
    answer = (reading) => (reading.typed === '532.4' ? asks() : Response.json(reading));
    render(line());
    await user.type(entry(), '532.4{Enter}');
    await screen.findByRole('alert');
    await user.clear(entry());
    await user.type(entry(), '53.24{Enter}');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ typed: '53.24', confirmed: false }));
  });

  it('where nothing looks wrong here the round goes on before the server answers', async () => {
    const user = userEvent.setup();
    let answered: () => void = () => undefined;
    const slow = new Promise<void>((go) => (answered = go));
    vi.stubGlobal(
      'fetch',
      vi.fn(async (_: string, init: { body: string }) => {
        sent.push(JSON.parse(init.body) as Schemas['ReadingEntry']);
        await slow;
        return Response.json(sent.at(-1));
      }),
    );
    render(line());
    await user.type(entry(), '53.24{Enter}');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    await outbox.told();
    const kept = outbox.state().entries.map((e) => e.words);
    // Before anything is looked at: a test that fails here would keep the others waiting.
    answered();
    expect(kept).toEqual(['Crankpin 1: 53.24']);
    await waitFor(() => expect(outbox.state().entries).toEqual([]));
    expect(sent.map((r) => r.typed)).toEqual(['53.24']);
  });

  it('what the server has against a figure that went on is told at the entry, and can be mended or kept there', async () => {
    const user = userEvent.setup();
    let left: () => void = () => undefined;
    const gone = new Promise<void>((go) => (left = go));
    done.mockImplementation(() => left());
    const server = globalThis.fetch;
    vi.stubGlobal(
      'fetch',
      vi.fn(async (path: string, init: { body: string }) => {
        await gone;
        return server(path, init);
      }),
    );
    answer = (reading) =>
      reading.typed === '53.24' && !reading.confirmed
        ? Response.json(
            { title: 'The pin beside it has 53.05.', detail: 'Look again.', problems: [] },
            { status: 422 },
          )
        : Response.json(reading);
    render(line());
    await user.type(entry(), '53.24{Enter}');
    const told = await screen.findByRole('alert');
    expect(told.textContent).toContain('Crankpin 1: 53.24');
    expect(told.textContent).toContain('The pin beside it has 53.05. Look again.');
    expect(done).toHaveBeenCalledTimes(1);
    // The next figure is not held up by it.
    await user.type(entry(), '53.06{Enter}');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(2));
    await waitFor(() => expect(sent).toHaveLength(2));
    await user.click(screen.getByRole('button', { name: 'Keep as typed' }));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(sent.map((r) => [r.typed, r.confirmed])).toEqual([
      ['53.24', false],
      ['53.06', false],
      ['53.24', true],
    ]);
  });

  it('what is no question is told as what went wrong, and a figure that looked wrong stands', async () => {
    const user = userEvent.setup();
    answer = () =>
      Response.json(
        { title: 'Nobody has such a gauge.', detail: 'Choose one of the shop’s.', problems: [] },
        { status: 422 },
      );
    render(line());
    await user.type(entry(), '532.4{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('Choose one of the shop’s.');
    expect(entry()).toHaveProperty('value', '532.4');
    expect(screen.getByRole('button', { name: 'Enter' })).toBeTruthy();
  });

  it('a figure from the gauge goes in by itself, once, and what is being typed stays', async () => {
    const user = userEvent.setup();
    const { rerender } = render(line());
    await user.type(entry(), '53.');
    const fed = { typed: '53.22', from: 'Bore gauge at the bench', n: 1 };
    rerender(line({ fed }));
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    rerender(line({ fed: { ...fed } }));
    await outbox.told();
    await outbox.flush();
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ typed: '53.22', via: 'Bore gauge at the bench' });
    expect(entry()).toHaveProperty('value', '53.');
  });

  it('what belongs to the figure and cannot be read blocks it, says why, and blocks the gauge too', async () => {
    const user = userEvent.setup();
    const blocked = '“warm” is no number.';
    const { rerender } = render(line({ blocked }));
    await user.type(entry(), '53.24{Enter}');
    rerender(line({ blocked, fed: { typed: '53.22', from: 'gauge', n: 1 } }));
    expect(screen.getByRole('alert').textContent).toBe(`Not entered yet. ${blocked}`);
    expect(entry()).toHaveProperty('value', '53.24');
    expect(sent).toEqual([]);
    rerender(line({ fed: { typed: '53.22', from: 'gauge', n: 1 } }));
    await waitFor(() => expect(sent.map((r) => r.typed)).toEqual(['53.22']));
  });

  it('without a network it is kept here, the round goes on, and the bench asks what the server would', async () => {
    const user = userEvent.setup();
    answer = () => {
      throw new TypeError('Failed to fetch');
    };
    render(line());
    await user.type(entry(), '53.24{Enter}');
    await waitFor(() => expect(done).toHaveBeenCalledTimes(1));
    await waitFor(() => expect(outbox.state().entries.map((e) => e.words)).toEqual(['Crankpin 1: 53.24']));
    // It is asked here once it is known that the server cannot.
    await waitFor(() => expect(outbox.state().why).not.toBeNull());
    await user.type(entry(), '2.096{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('meant in inches');
    expect(done).toHaveBeenCalledTimes(1);
    expect(outbox.state().entries).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(outbox.state().entries).toHaveLength(2));
    expect(outbox.state().entries[1]!.body).toMatchObject({ typed: '2.096', confirmed: true });
  });

  it('a micrometer is read off its lines into the entry', async () => {
    const user = userEvent.setup();
    render(line());
    await user.click(screen.getByRole('button', { name: 'Micrometer help (sleeve and thimble)' }));
    await user.click(screen.getByRole('button', { name: /^Division of the thimble .*more/ }));
    expect(entry()).not.toHaveProperty('value', '');
    await user.click(screen.getByRole('button', { name: 'Type it instead' }));
    expect(screen.queryByRole('button', { name: /^Division of the thimble/ })).toBeNull();
  });
});
