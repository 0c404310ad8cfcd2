// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { FileKey } from './FileKey';
import { fileName } from './words';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

const shown = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <FileKey href="/made" name="Six sheet.csv">
        Sheet
      </FileKey>
    </QueryClientProvider>,
  );

/** An answer that comes when it is let go on. */
function slow() {
  let feed!: ReadableStreamDefaultController<Uint8Array>;
  const body = new ReadableStream<Uint8Array>({ start: (c) => void (feed = c) });
  return { answer: new Response(body, { headers: { 'Content-Type': 'text/csv' } }), feed };
}

it('tells how much is here, and saves the file under its name', async () => {
  const { answer, feed } = slow();
  vi.stubGlobal('fetch', () => Promise.resolve(answer));
  const saved: string[] = [];
  vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
    saved.push(this.download);
  });
  shown();
  fireEvent.click(screen.getByRole('button', { name: 'Sheet' }));
  await screen.findByText('Being made …');
  feed.enqueue(new Uint8Array(2_340_000));
  await screen.findByText('2.3 MB here …');
  expect(saved).toEqual([]);
  feed.close();
  await screen.findByRole('button', { name: 'Sheet' });
  expect(saved).toEqual(['Six sheet.csv']);
});

it('is stopped, and nothing is saved', async () => {
  let asked!: AbortSignal;
  vi.stubGlobal('fetch', (_: string, { signal }: { signal: AbortSignal }) => {
    asked = signal;
    return new Promise((_resolve, reject) =>
      signal.addEventListener('abort', () => reject(new DOMException('stopped', 'AbortError'))),
    );
  });
  const click = vi.spyOn(HTMLAnchorElement.prototype, 'click');
  shown();
  fireEvent.click(screen.getByRole('button', { name: 'Sheet' }));
  fireEvent.click(await screen.findByRole('button', { name: 'Stop' }));
  await screen.findByRole('button', { name: 'Sheet' });
  expect(asked.aborted).toBe(true);
  expect(click).not.toHaveBeenCalled();
  expect(screen.queryByRole('alert')).toBeNull();
});

it.each([
  ['without a network', () => Promise.reject(new TypeError('offline')), 'The server does not answer.'],
  [
    'refused',
    () =>
      Promise.resolve(
        Response.json({ title: 'No work is on the order.', detail: 'Put one on it.' }, { status: 422 }),
      ),
    'No work is on the order.',
  ],
])('%s: says what is wrong and what to do', async (_, answers, says) => {
  vi.stubGlobal('fetch', answers);
  shown();
  fireEvent.click(screen.getByRole('button', { name: 'Sheet' }));
  expect((await screen.findByRole('alert')).textContent).toContain(says);
  screen.getByRole('button', { name: 'Sheet' });
});

it('a file has a name that can be saved anywhere', () =>
  expect(fileName('Six: no 4, 3/8" "stud"?\n', 'sheet.csv')).toBe('Six- no 4, 3-8- -stud- sheet.csv'));
