import { expect, it } from 'vitest';
import type { EngineCase } from '../api/client';
import { ownDimension, ownId, ownOf } from './own';

it('reads a dimension of one’s own by its id', () => {
  expect(ownDimension(ownId('length', ' Fan hub bore '))).toMatchObject({
    name: 'Fan hub bore',
    quantity: 'length',
    gap: false,
  });
  expect(ownDimension(ownId('gap', 'Fan to shroud'))).toMatchObject({ quantity: 'length', gap: true });
  expect(ownDimension(ownId('length', 'a/b slot'))?.name).toBe('a/b slot');
});

it('takes nothing else for one', () => {
  for (const id of [
    'crankpin-diameter',
    'own/length/',
    'own/length/x',
    'own/colour/Fan hub',
    `own/length/${'x'.repeat(61)}`,
  ])
    expect(ownDimension(id), id).toBeNull();
});

it('tells those of a case, each once and without what was taken back', () => {
  const record = (characteristic: string, withdrawnAt: string | null = null) => ({
    characteristic,
    withdrawnAt,
  });
  const engineCase = {
    readings: [
      record('own/length/Hub'),
      record('own/length/Hub'),
      record('own/gap/Air', '2026-01-01'),
      record('bore-diameter'),
    ],
    limits: [record('own/length/Boss')],
  } as unknown as EngineCase;
  expect(ownOf(engineCase).map((c) => c.name)).toEqual(['Boss', 'Hub']);
});
