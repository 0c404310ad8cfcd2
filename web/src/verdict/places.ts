import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';

/** Places in a row told by their ends: K1–K4, K6. Only what differs in its one number is a row. */
export function spans(codes: readonly string[]): string[] {
  const out: { stem: string; from: number; to: number; first: string; last: string }[] = [];
  for (const code of codes) {
    const [, head = '', digits = '', tail = ''] = /^([A-Z]+)(\d+)(.*)$/.exec(code) ?? [];
    const [stem, n] = [`${head}#${tail}`, Number(digits)];
    const before = out.findLast((o) => o.stem === stem);
    if (digits && before && before.to === n - 1) Object.assign(before, { to: n, last: code });
    else out.push({ stem: digits ? stem : code, from: n, to: n, first: code, last: code });
  }
  return out.flatMap((o) =>
    o.to === o.from ? [o.first] : o.to === o.from + 1 ? [o.first, o.last] : [`${o.first}–${o.last}`],
  );
}

/** What an advice without a course stands on, in few words. */
export const groundWords: Record<Schemas['Ground'], string> = {
  rule: tr`Advised`,
  forbidden: tr`Nothing else is allowed`,
  sound: tr`Nothing against it`,
  against: tr`Decide at the bench`,
  testFirst: tr`A test first`,
  undecided: tr`Too near its limit`,
  ruleOfThumb: tr`Outside a rule of thumb`,
  noLimit: tr`No limit entered`,
  unmeasured: tr`Not measured`,
  unread: tr`Not looked at`,
  felt: tr`Only felt`,
  unknown: tr`Nothing known`,
};

/** Courses that are offered for all of these kinds and that nothing forbids at any of the places. */
export const offered = (
  courses: readonly Schemas['KnownCourse'][],
  kinds: readonly string[],
  never: readonly Schemas['VerdictAction'][],
) =>
  courses.filter(
    (c) => !never.includes(c.action) && (c.on.length === 0 || kinds.every((k) => c.on.includes(k))),
  );
