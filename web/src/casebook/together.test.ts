import { describe, expect, it } from 'vitest';
import { together } from './together';

describe('together', () => {
  const asking = () => {
    const asked: string[] = [];
    const ask = together(async (of: string, names: string[]) => {
      asked.push(`${of}: ${names.join(' ')}`);
      if (names.includes('bad')) throw new Error('no');
      return Promise.resolve(names);
    });
    return { ask, asked };
  };

  it('asks once for what is asked for in one moment, and of each case by itself', async () => {
    const { ask, asked } = asking();
    const all = await Promise.all([
      ask('a', 'strip'),
      ask('a', 'gauge'),
      ask('b', 'look'),
      ask('a', 'gauge'),
    ]);
    expect(asked).toEqual(['a: gauge strip', 'b: look']);
    expect(all).toEqual([['gauge', 'strip'], ['gauge', 'strip'], ['look'], ['gauge', 'strip']]);
  });

  it('asks again for what is asked for later, and alone for what is slow', async () => {
    const { ask, asked } = asking();
    const slow = ask('a', 'trace', true);
    await ask('a', 'strip');
    await ask('a', 'strip');
    await slow;
    expect(asked).toEqual(['a: trace', 'a: strip', 'a: strip']);
  });

  it('tells each asker of a failure, and goes on afterwards', async () => {
    const { ask } = asking();
    const results = await Promise.allSettled([ask('a', 'bad'), ask('a', 'strip')]);
    expect(results.map((r) => r.status)).toEqual(['rejected', 'rejected']);
    await expect(ask('a', 'strip')).resolves.toEqual(['strip']);
  });
});
