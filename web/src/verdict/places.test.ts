import { expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { nth } from '../outbox/writes';
import { offered, spans } from './places';

it('a row of places is told by its ends, and only what differs in one number is a row', () => {
  expect(spans(['K1', 'K2', 'K3', 'K4', 'K6'])).toEqual(['K1–K4', 'K6']);
  expect(spans(['R1U', 'R1L', 'R2U', 'R2L', 'R3U', 'R3L'])).toEqual(['R1U–R3U', 'R1L–R3L']);
  expect(spans(['CR', 'K1', 'K2'])).toEqual(['CR', 'K1', 'K2']);
  expect(spans(['K1.B', 'K2.B', 'K3.B', 'K4'])).toEqual(['K1.B–K3.B', 'K4']);
  expect(spans([])).toEqual([]);
});

it('a course is offered where every kind has it and nothing forbids it', () => {
  const course = (id: string, action: Schemas['VerdictAction'], on: string[] = []) =>
    ({ id, action, on }) as Schemas['KnownCourse'];
  const all = [
    course('renew', 'replace'),
    course('grind', 'machine', ['crankpin']),
    course('polish', 'repair', ['crankpin', 'bore']),
  ];
  const ids = (kinds: string[], never: Schemas['VerdictAction'][] = []) =>
    offered(all, kinds, never).map((c) => c.id);
  expect(ids(['crankpin'])).toEqual(['renew', 'grind', 'polish']);
  expect(ids(['crankpin', 'bore'])).toEqual(['renew', 'polish']);
  expect(ids(['crankpin'], ['machine', 'repair'])).toEqual(['renew']);
});

it('the ids of one touch differ, and are the same when it is sent again', () => {
  const id = '0192f0c1-7a3b-7cde-8f01-23456789abcd';
  const ids = Array.from({ length: 500 }, (_, i) => nth(id, i));
  expect(new Set([id, ...ids]).size).toBe(501);
  expect(ids.every((i) => i.length === id.length)).toBe(true);
  expect(nth(id, 7)).toBe(ids[7]);
});
