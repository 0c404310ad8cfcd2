import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { MemoryRouter } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Knowledge, Schemas } from '../api/client';
import { keys } from '../api/keys';
import { percent } from '../ui/basics';
import { Learned } from './Learned';
import { CauseForm } from './CauseForm';
import { blankCause } from './causeWords';
import { Outcome, strengthOf } from './Trace';

const check = (more: Partial<Schemas['NextCheck']> = {}): Schemas['NextCheck'] => ({
  sign: 'knock',
  name: 'Heavy knock',
  place: 'EN',
  how: 'Listen.',
  with: 'listening rod',
  minutes: 2,
  access: 0,
  bitsPerMinute: 0.1,
  about: 'Shells of the wrong size',
  aboutPlace: 'R4',
  now: 0.4,
  ifPresent: 0.85,
  ifAbsent: 0.1,
  measured: false,
  destroyedBy: [],
  lostNext: '',
  ...more,
});

/** Draws it as the server of a page would, with what the query cache holds. */
function drawn(node: ReactNode, cached: [readonly unknown[], unknown][] = []) {
  const client = new QueryClient();
  for (const [key, value] of cached) client.setQueryData(key, value);
  return renderToStaticMarkup(
    <QueryClientProvider client={client}>
      <MemoryRouter>{node}</MemoryRouter>
    </QueryClientProvider>,
  );
}

const lefts = (html: string) => [...html.matchAll(/left:([\d.]+)%/g)].map((m) => Number(m[1]));

describe('the weight of a finding in a word', () => {
  it('is strong from a factor of ten on and more than weak from its root, for and against', () => {
    expect([10, 9.9, 5, 4.9, 0].map(strengthOf)).toEqual(['strong', 'medium', 'medium', 'weak', 'weak']);
    expect([-10, -5, -4.9].map(strengthOf)).toEqual(['strong', 'medium', 'weak']);
  });
});

describe('what either outcome would do', () => {
  it('is drawn from where the cause stands, both ways', () => {
    const html = drawn(<Outcome check={check()} />);
    // The bar between the two, where it stands now, found, not there.
    expect(lefts(html)).toEqual([10, 40, 85, 10]);
    expect(html).toContain('width:75%');
    expect(html).toContain('Shells of the wrong size at R4, now 40 %: found 85 %, not there 10 %');
  });

  it('goes the other way where the sign speaks against', () => {
    const html = drawn(<Outcome check={check({ ifPresent: 0.05, ifAbsent: 0.6 })} />);
    expect(lefts(html)).toEqual([5, 40, 5, 60]);
  });

  it('is said in words too where there is room', () => {
    const html = drawn(<Outcome check={check()} big />);
    expect(html).toContain('If it is there');
    expect(html).toContain('If not');
  });
});

describe('a probability', () => {
  it.each([
    [0, '<1 %'],
    [0.004, '<1 %'],
    [0.006, '1 %'],
    [0.344, '34 %'],
    [0.9949, '99 %'],
    [0.9999, '>99 %'],
    [1, '>99 %'],
  ])('of %d is never told as a flat nought or hundred', (p, said) => expect(percent(p)).toBe(said));
});

const offer = (more: Partial<Schemas['LearnedOffer']> = {}): Schemas['LearnedOffer'] => ({
  cause: 'cold-seizure',
  causeName: 'Seized cold',
  sign: 'locked',
  signName: 'Locked solid on arrival',
  link: 0,
  prediction: 1,
  now: 'often',
  offered: 'rarely',
  seen: 1,
  of: 12,
  times: 25.3,
  ...more,
});

describe('what closed cases say', () => {
  const me = (role: string): [readonly unknown[], unknown] => [keys.me, { name: 'x', role }];
  const learned = (
    closed: number,
    offers: Schemas['LearnedOffer'][],
    habits: Partial<Schemas['LearnedView']> = {},
  ): [readonly unknown[], unknown] => [keys.learned, { closed, offers, kinds: [], taken: [], ...habits }];

  it('is told with its counts and offered, not done', () => {
    const html = drawn(<Learned onUse={() => undefined} />, [me('mechanic'), learned(12, [offer()])]);
    expect(html).toContain('Looked for 12 times, found 1');
    expect(html).toContain('fits 25 times better');
    expect(html).toContain('Use “rarely”');
    expect(html).toContain('Nothing is taken over until you do it');
  });

  it('is told of how often a cause is met, and of very plain counts', () => {
    const html = drawn(<Learned onUse={() => undefined} />, [
      me('lead'),
      learned(40, [
        offer({ sign: '', signName: '', link: -1, prediction: -1, seen: 30, of: 40, times: 5e6 }),
      ]),
    ]);
    expect(html).toContain('It was 30 of 40 closed cases');
    expect(html).toContain('over 1000 times better');
  });

  it('is read by a viewer, who changes nothing', () => {
    const html = drawn(<Learned onUse={() => undefined} />, [me('viewer'), learned(12, [offer()])]);
    expect(html).toContain('Seized cold');
    expect(html).not.toContain('Use “');
  });

  it('tells habits of a kind of engine, those taken over apart from those offered', () => {
    const habit = { kind: 'Airboat eight', cause: '', cylinder: 7, times: 3.1, seen: 4, of: 5 };
    const html = drawn(<Learned onUse={() => undefined} />, [
      me('mechanic'),
      learned(5, [], { kinds: [habit], taken: [{ ...habit, cylinder: 2 }] }),
    ]);
    expect(html).toContain('cylinder 7');
    expect(html).toContain('4 of 5 closed cases');
    expect(html).toContain('Take over');
    expect(html).toContain('taken over');
    expect(html).toContain('Undo');
  });

  it('says so where there is nothing to offer', () => {
    const html = drawn(<Learned onUse={() => undefined} />, [me('lead'), learned(1, [])]);
    expect(html).toContain('From 1 case with');
    expect(html).toContain('No word is spoken against so far');
  });
});

describe('the form of a cause', () => {
  const kept = new Map<string, string>();
  beforeEach(() => {
    kept.clear();
    vi.stubGlobal('localStorage', {
      getItem: (k: string) => kept.get(k) ?? null,
      setItem: (k: string, v: string) => kept.set(k, v),
      removeItem: (k: string) => kept.delete(k),
    });
  });
  const knowledge = {
    signs: [
      { id: 'knock', name: 'Heavy knock', on: ['engine'], measured: false },
      {
        id: 'overlay-wiped',
        name: 'Overlay wiped',
        on: ['rod-shell-upper', 'rod-shell-lower'],
        measured: false,
      },
    ],
    kinds: [
      { id: 'engine', name: 'engine as a whole' },
      { id: 'rod-shell-upper', name: 'upper rod shell' },
      { id: 'rod-shell-lower', name: 'lower rod shell' },
    ],
  } as unknown as Knowledge;
  const view = { causes: [], own: [], replaced: [], problems: [] } as Schemas['CausesView'];
  const form = (cause: Schemas['KnownCause']) =>
    drawn(<CauseForm cause={cause} view={view} knowledge={knowledge} onDone={() => undefined} />);

  it('asks for a name first when the cause is new', () => {
    const html = form(blankCause());
    expect(html).toContain('A new cause');
    expect(html).toContain('What happens first');
    expect(html).not.toContain('What follows');
  });

  it('opens with what was typed before the page was lost, and starts afresh from what cannot be read', () => {
    const key = 'draft//cause/new/0/rarely';
    kept.set(key, JSON.stringify({ cause: { ...blankCause(), name: 'Half a name' }, why: 'because' }));
    expect(form(blankCause())).toContain('value="Half a name"');
    kept.set(key, '{ half');
    expect(form(blankCause())).toContain('A new cause');
  });

  it('asks on which parts only where there is a choice, and where only off the engine as a whole', () => {
    const html = form({
      ...blankCause(),
      id: 'own',
      name: 'Own',
      chain: [
        {
          says: 'first',
          predicts: [
            { sign: 'knock', on: ['engine'], at: 'same', often: 'often', how: null },
            {
              sign: 'overlay-wiped',
              on: ['rod-shell-upper'],
              at: 'downstream',
              often: 'rarely',
              how: 'severe',
            },
          ],
        },
      ],
    });
    expect(html).toContain('Own, as this shop knows it');
    expect(html.match(/type="checkbox"/g)).toHaveLength(2);
    expect(html).toContain('Where it leaves Overlay wiped');
    expect(html).not.toContain('Where it leaves Heavy knock');
    expect(html).toContain('How bad Overlay wiped is');
    // Never is no word for what a cause leaves.
    expect(html).not.toContain('value="never"');
  });
});
