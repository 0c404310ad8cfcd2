import { expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { latestVerdicts } from './words';

const verdict = (place: string, at: string, action: string, withdrawnAt: string | null = null) =>
  ({ place, at, action, withdrawnAt }) as Schemas['PartVerdict'];

it('of each place the last verdict counts, whatever order they come in, and none that was taken back', () => {
  const latest = latestVerdicts([
    verdict('K4', '2026-11-12T10:00:00Z', 'machine'),
    verdict('K4', '2026-11-11T10:00:00Z', 'reuse'),
    verdict('R4', '2026-11-11T10:00:00Z', 'reuse'),
    verdict('R4', '2026-11-13T10:00:00Z', 'replace', '2026-11-13T11:00:00Z'),
    verdict('R1', '2026-11-13T10:00:00Z', 'replace', '2026-11-13T11:00:00Z'),
  ]);
  expect([...latest].map(([place, v]) => [place, v.action])).toEqual([
    ['K4', 'machine'],
    ['R4', 'reuse'],
  ]);
});
