import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { EngineCase } from '../api/client';
import { walkedTo, walkSteps } from './walk';

const shipped = JSON.parse(readFileSync('public/first-walk.case.json', 'utf8')).case as EngineCase;
const record = { withdrawnAt: null };

describe('the first walk', () => {
  it('begins at its first step on the case that ships for it', () => {
    expect(walkedTo(shipped, '/cases/x/index')).toBe(0);
  });

  it('goes on by what is in the record, step by step, and back where something is taken back', () => {
    const c = structuredClone(shipped) as unknown as Record<string, unknown[]>;
    const walked = (here = '/cases/x/look') => walkedTo(c as unknown as EngineCase, here);
    c.parts!.push({ ...record, place: 'R2C' });
    expect(walked()).toBe(1);
    c.photos!.push({ ...record, place: 'R2U' });
    expect(walked()).toBe(2);
    // Looked for and not there is no finding of the walk.
    c.findings!.push({ ...record, place: 'R2U', seen: 'absent' });
    expect(walked()).toBe(2);
    c.findings!.push({ ...record, place: 'R2U', seen: 'present' });
    expect(walked()).toBe(3);
    c.readings!.push({ ...record, place: 'K2', characteristic: 'crankpin-diameter' });
    expect(walked()).toBe(4);
    expect(walked('/cases/x/trace')).toBe(walkSteps.length);
    c.parts!.pop();
    expect(walked('/cases/x/trace')).toBe(0);
  });
});
