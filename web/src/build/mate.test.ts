import { expect, test } from 'vitest';
import shared from '../../../tests/typed-figures.json';
import type { Schemas } from '../api/client';
import { mateStop, stopWords, type MateStop } from './mate';

interface Case {
  says: string;
  faced?: string;
  now?: string;
  tag?: string;
  side?: string;
  up?: boolean;
  replaced?: boolean;
  custody?: string;
  in?: boolean;
  isNew?: boolean;
  why?: string;
  line?: string;
  lines?: string[];
  stop: string | null;
}

test.each(shared.mates as Case[])('$says', (c) => {
  const lines = c.line ? [c.line] : (c.lines ?? []);
  const part = {
    place: 'R3C',
    alike: false,
    facing: (c.faced ?? 'unknown') as Schemas['Facing'],
    sideUp: c.side ?? '',
    renew: c.replaced ?? false,
    in: c.in ? 'act' : null,
    new: lines.map((l) => ({ line: l, what: l, checked: l === 'checked' })),
    custody: (c.custody ?? 'bench') as Schemas['Custody'],
  };
  const going = {
    tag: c.tag ?? '',
    facing: (c.now ?? 'unknown') as Schemas['Facing'],
    sideUp: c.up ?? false,
    isNew: c.isNew ?? false,
    line: c.line ?? null,
    why: c.why ?? '',
  };
  expect(mateStop(part, going)).toBe(c.stop);
  if (c.stop) expect(stopWords[c.stop as MateStop](part, going).join(' ')).toMatch(/\w/);
});

test('what is alike may stand in for another', () => {
  const going = { tag: 'VK4', facing: 'unknown', sideUp: false, isNew: false, line: null, why: '' } as const;
  const part = {
    place: 'VK3',
    facing: 'unknown',
    sideUp: '',
    renew: false,
    in: null,
    new: [],
    custody: null,
  } as const;
  expect(mateStop({ ...part, new: [], alike: true }, going)).toBeNull();
  expect(mateStop({ ...part, new: [], alike: false }, going)).toBe('not-its-place');
});
