import type { Schemas } from '../api/client';

export const weekdays = [
  'monday',
  'tuesday',
  'wednesday',
  'thursday',
  'friday',
  'saturday',
  'sunday',
] as const;
export type Weekday = (typeof weekdays)[number];

const clock = (text: string) => {
  const m = /^([01]?\d|2[0-4])(?:[:.h]([0-5]\d))?$/.exec(text.trim());
  return m ? `${m[1]!.padStart(2, '0')}:${m[2] ?? '00'}` : null;
};

/** Reads hours as people write them, “8–12, 13:00–17:00”; null where that cannot be. Nothing written is a day without work. */
export function readHours(text: string): { from: string; to: string }[] | null {
  const spells = text
    .split(/[,;]/)
    .map((s) => s.trim())
    .filter(Boolean);
  const read = spells.map((s) => {
    const [from, to, more] = s.split(/\s*(?:-|–|to)\s*/).map(clock);
    return from && to && more === undefined && from < to && to <= '24:00'
      ? { from: `${from}:00`, to: to === '24:00' ? '23:59:00' : `${to}:00` }
      : null;
  });
  return read.every((r) => r !== null) ? read : null;
}

/** Hours of a weekday as they are written. */
export const hoursWords = (week: readonly Schemas['DayHours'][], day: Weekday) =>
  week
    .filter((h) => h.day === day)
    .map((h) => `${h.from.slice(0, 5)}–${h.to.slice(0, 5)}`)
    .join(', ');

/** Reads tools as “hoist 1, press 1, acetylene 0”; null where that cannot be. A name alone is one. */
export function readTools(text: string): Record<string, number> | null {
  const tools: Record<string, number> = {};
  for (const part of text.split(/[,;]/).map((s) => s.trim())) {
    if (!part) continue;
    const [, name = '', count] = /^(.*?)(?:\s+(\d{1,2}))?$/.exec(part) ?? [];
    if (!name.trim()) return null;
    tools[name.trim()] = count === undefined ? 1 : Number(count);
  }
  return tools;
}

export const toolsWords = (tools: Record<string, number>) =>
  Object.entries(tools)
    .map(([name, count]) => `${name} ${count}`)
    .join(', ');
