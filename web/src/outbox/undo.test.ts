import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { holdUndo, offerUndo, undoFor, undoNow } from './undo';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('takes the last thing back, once', async () => {
  const [first, second] = [vi.fn(async () => undefined), vi.fn(async () => undefined)];
  offerUndo('a finding', first);
  offerUndo('a figure', second);
  await undoNow();
  await undoNow();
  expect(first).not.toHaveBeenCalled();
  expect(second).toHaveBeenCalledTimes(1);
});

it('offers it for ten seconds and no longer, and longer for a hand that is on it', async () => {
  const back = vi.fn(async () => undefined);
  offerUndo('a finding', back);
  vi.advanceTimersByTime(undoFor + 1);
  await undoNow();
  expect(back).not.toHaveBeenCalled();

  offerUndo('a finding', back);
  holdUndo(true);
  vi.advanceTimersByTime(5 * undoFor);
  holdUndo(false);
  vi.advanceTimersByTime(undoFor - 1);
  await undoNow();
  expect(back).toHaveBeenCalledTimes(1);
});
