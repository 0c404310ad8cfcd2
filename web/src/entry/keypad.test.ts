import { describe, expect, it } from 'vitest';
import { pressed, withUnit } from './Keypad';
import { readFigure } from './typed';

describe('the keypad', () => {
  it('types digits, one decimal sign, and takes the last back', () => {
    const typed = ['7', '1', '.', '9', '.', '8', '5', '⌫'].reduce(pressed, '');
    expect(typed).toBe('71.98');
    expect([',', '0'].reduce(pressed, '2')).toBe('2,0');
  });

  it('turns the sign over from plus to minus to none', () => {
    expect(pressed('0.05', '±')).toBe('+0.05');
    expect(pressed('+0.05', '±')).toBe('-0.05');
    expect(pressed('-0.05', '±')).toBe('0.05');
  });

  it('puts one unit behind a figure, and none behind nothing', () => {
    const units = ['mm', 'thou'];
    expect(withUnit('21', 'thou', units)).toBe('21 thou');
    expect(withUnit('21 thou', 'mm', units)).toBe('21 mm');
    expect(withUnit('21 mm', 'mm', units)).toBe('21');
    expect(withUnit('', 'mm', units)).toBe('');
  });

  it('types only what is read', () => {
    for (const typed of ['21 thou', '+0.05', '2,09 in'])
      expect(readFigure(typed, 'mm'), typed).not.toBeNull();
  });
});
