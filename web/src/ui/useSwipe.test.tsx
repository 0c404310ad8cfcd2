// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useSwipe } from './useSwipe';

const on = vi.fn();
const back = vi.fn();

function Swiped({ last = false }: { last?: boolean }) {
  return (
    <div data-testid="all" {...useSwipe(last ? null : on, back)}>
      <p>part</p>
      <input aria-label="figure" />
      <svg data-face aria-label="map">
        <rect />
      </svg>
    </div>
  );
}

const stroke = (at: Element, x: number, y: number, pointerType = 'touch') => {
  fireEvent.pointerDown(at, { clientX: 200, clientY: 200, pointerType, isPrimary: true });
  fireEvent.pointerUp(at, { clientX: 200 + x, clientY: 200 + y, pointerType, isPrimary: true });
};

beforeEach(() => {
  on.mockReset();
  back.mockReset();
});
afterEach(cleanup);

describe('a swipe', () => {
  it('goes on to the left and back to the right, and nowhere at the end', () => {
    const { rerender } = render(<Swiped />);
    stroke(screen.getByText('part'), -90, 10);
    expect([on.mock.calls.length, back.mock.calls.length]).toEqual([1, 0]);
    stroke(screen.getByText('part'), 90, -10);
    expect([on.mock.calls.length, back.mock.calls.length]).toEqual([1, 1]);
    rerender(<Swiped last />);
    stroke(screen.getByText('part'), -90, 0);
    expect([on.mock.calls.length, back.mock.calls.length]).toEqual([1, 1]);
  });

  it('is none where the page is scrolled, where the stroke is short, or a mouse makes it', () => {
    render(<Swiped />);
    const part = screen.getByText('part');
    stroke(part, -90, 80);
    stroke(part, -30, 0);
    stroke(part, -90, 0, 'mouse');
    fireEvent.pointerDown(part, { clientX: 200, clientY: 200, pointerType: 'touch', isPrimary: true });
    fireEvent.pointerCancel(part);
    fireEvent.pointerUp(part, { clientX: 20, clientY: 200, pointerType: 'touch', isPrimary: true });
    expect(on).not.toHaveBeenCalled();
  });

  it('leaves a stroke to what has a use of its own for it', () => {
    render(<Swiped />);
    stroke(screen.getByLabelText('figure'), -90, 0);
    stroke(screen.getByLabelText('map').firstElementChild!, -90, 0);
    expect(on).not.toHaveBeenCalled();
  });
});
