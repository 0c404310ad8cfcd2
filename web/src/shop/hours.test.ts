import { describe, expect, it, test } from 'vitest';
import { hoursWords, readHours, readTools, toolsWords } from './hours';

describe('hours of a day', () => {
  it('are read as people write them', () => {
    expect(readHours('8-12, 13:00–17.30')).toEqual([
      { from: '08:00:00', to: '12:00:00' },
      { from: '13:00:00', to: '17:30:00' },
    ]);
    expect(readHours('7 to 15')).toEqual([{ from: '07:00:00', to: '15:00:00' }]);
    expect(readHours(' ')).toEqual([]);
    expect(readHours('22-24')).toEqual([{ from: '22:00:00', to: '23:59:00' }]);
  });

  test.each(['12-8', '8', '8-12-14', 'early', '8-25', '8:70-9'])('“%s” are none', (text) => {
    expect(readHours(text)).toBeNull();
  });

  it('are told as they are read', () => {
    const week = [{ day: 'monday', from: '08:00:00', to: '12:30:00' }] as const;
    expect(hoursWords(week, 'monday')).toBe('08:00–12:30');
    expect(hoursWords(week, 'sunday')).toBe('');
  });
});

it('tools have a number, or are one', () => {
  expect(readTools('hoist, press 2; acetylene bottle 0')).toEqual({
    hoist: 1,
    press: 2,
    'acetylene bottle': 0,
  });
  expect(readTools('')).toEqual({});
  expect(toolsWords({ hoist: 1, 'acetylene bottle': 0 })).toBe('hoist 1, acetylene bottle 0');
});
