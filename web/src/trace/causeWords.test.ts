import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { blankCause, slug, withWord, wordBefore } from './causeWords';

const prediction = (sign: string, often: Schemas['Frequency'], on = ['piston']): Schemas['Prediction'] => ({
  sign,
  on,
  at: 'same',
  often,
  how: null,
});

const cause = (): Schemas['KnownCause'] => ({
  ...blankCause(),
  id: 'cold',
  name: 'Cold',
  base: 'rarely',
  chain: [
    { says: 'first', predicts: [prediction('a', 'often'), prediction('b', 'always')] },
    { says: 'then', predicts: [prediction('a', 'rarely', ['bore'])] },
  ],
});

describe('an id made of a name', () => {
  it.each([
    ['Snow in the intake', 'snow-in-the-intake'],
    ['  Überdruck, 2. Ring! ', 'uberdruck-2-ring'],
    ['---', ''],
  ])('%s', (name, id) => expect(slug(name)).toBe(id));

  it('stays within what the server takes', () => {
    expect(slug('x'.repeat(200)).length).toBeLessThanOrEqual(60);
    expect(slug('Ring – butted / broken')).toMatch(/^[a-z0-9][a-z0-9-]*$/);
  });
});

describe('a word taken over from closed cases', () => {
  it('changes that prediction and nothing else, and leaves the cause it came from', () => {
    const before = cause();
    const after = withWord(before, { link: 0, prediction: 1, offered: 'sometimes' });
    expect(after.chain[0]!.predicts[1]!.often).toBe('sometimes');
    expect(after.chain[0]!.predicts[0]).toEqual(before.chain[0]!.predicts[0]);
    expect(after.chain[1]).toEqual(before.chain[1]);
    expect(before.chain[0]!.predicts[1]!.often).toBe('always');
  });

  it('changes how often the cause is met where it speaks of that', () => {
    const after = withWord(cause(), { link: -1, prediction: -1, offered: 'often' });
    expect(after.base).toBe('often');
    expect(after.chain).toEqual(cause().chain);
  });
});

describe('the word before the shop changed it', () => {
  it('is told where it differs', () => {
    const mine = withWord(cause(), { link: 0, prediction: 0, offered: 'never' });
    expect(wordBefore(cause(), 0, mine.chain[0]!.predicts[0]!)).toBe('often');
    expect(wordBefore(cause(), 0, mine.chain[0]!.predicts[1]!)).toBeNull();
  });

  it('is not told of another place, a new sign, a new link or a new cause', () => {
    expect(wordBefore(cause(), 1, prediction('a', 'always'))).toBeNull();
    expect(wordBefore(cause(), 0, prediction('z', 'always'))).toBeNull();
    expect(wordBefore(cause(), 5, prediction('a', 'always'))).toBeNull();
    expect(wordBefore(undefined, 0, prediction('a', 'always'))).toBeNull();
  });
});
