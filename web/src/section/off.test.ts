import { describe, expect, it } from 'vitest';
import type { CaseAnswers } from '../api/client';
import { worst } from './lenses';
import { moments, momentWords, offSights } from './off';

const off = (place: string, step: string, at: string | null) => ({ place, step, at });
const strip = {
  off: [
    off('AF', 'was', null),
    off('H1', 'head', '2026-03-02T12:00:00Z'),
    off('R1', 'rods', '2026-03-02T13:00:00Z'),
    off('R2', 'rods', '2026-03-02T13:00:00Z'),
    off('R3', 'rods', '2026-03-03T08:00:00Z'),
  ],
  steps: [
    { id: 'head', name: 'Head off' },
    { id: 'rods', name: 'Rod caps off' },
  ],
} as unknown as CaseAnswers['strip'];
const places = ['AF', 'H1', 'R1', 'R2', 'R3', 'K1'];
const offAt = (n: number | null) => {
  const seen = offSights(strip, places, n === null ? null : moments(strip)[n]!);
  return places.filter((p) => seen.get(p)!.open);
};

describe('what was off when', () => {
  it('goes from how it came, over each record that took something off, to now', () => {
    expect(moments(strip).map((m) => [m.step, m.off])).toEqual([
      ['', 1],
      ['head', 2],
      ['rods', 4],
      ['rods', 5],
    ]);
    expect([0, 1, 2, 3, null].map(offAt)).toEqual([
      ['AF'],
      ['AF', 'H1'],
      ['AF', 'H1', 'R1', 'R2'],
      ['AF', 'H1', 'R1', 'R2', 'R3'],
      ['AF', 'H1', 'R1', 'R2', 'R3'],
    ]);
  });

  it('is said with the step, and of each part since when', () => {
    expect(momentWords(strip, moments(strip)[0]!, 6)).toBe('As it came: 1 of 6 parts off');
    expect(momentWords(strip, moments(strip)[2]!, 6)).toMatch(
      /^After “Rod caps off”, 2 Mar, .*: 4 of 6 parts off$/,
    );
    expect(momentWords({ off: [], steps: [] }, moments({ off: [], steps: [] })[0]!, 6)).toBe(
      'As it came: nothing of 6 parts off',
    );
    const now = offSights(strip, places, null);
    expect(now.get('AF')!.words).toBe('was off when it came');
    expect(now.get('R3')!.words).toMatch(/^off since 3 Mar, .*, “Rod caps off”$/);
    expect(now.get('K1')!.words).toBe('on the engine');
  });

  it('a station is told by how many of its parts are off', () => {
    const seen = offSights(strip, places, moments(strip)[2]!);
    const of = ['R1', 'K1'].map((p) => seen.get(p)!);
    expect(worst('off', of, 2)).toMatchObject({ mark: '1/2', words: '1 of 2 off', tone: 'light' });
  });
});
