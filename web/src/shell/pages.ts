import { useIsLead, useIsStudent, useMayWrite } from '../api/queries';

export interface Page {
  path: string;
  name: string;
  /** What it is for, in a few words. */
  says: string;
}

/** Pages that serve at any engine. */
export const tools: readonly Page[] = [
  { path: '/search', name: 'Search all cases', says: 'by words, sign, part, cause, time' },
  { path: '/atlas', name: 'Atlas of signs', says: 'what a part can show, and what it means' },
  { path: '/causes', name: 'Causes', says: 'what is known here, and your own' },
  { path: '/reckon', name: 'Calculators', says: 'one formula at a time' },
  { path: '/scripts', name: 'Strip scripts', says: 'the order in which engines come apart' },
  { path: '/practice', name: 'Practice', says: 'an engine drawn from the causes' },
  { path: '/instruments', name: 'Instruments', says: 'and how far each is trusted' },
  { path: '/studies', name: 'Gauge studies', says: 'who reads what how alike' },
];

/** Tools that a student has. */
const ofStudents = new Set(['/atlas', '/reckon', '/practice']);

const classes = { path: '/classes', name: 'Classes', says: 'benches, signatures, homework' };

const ofShop: readonly (Page & { for: 'all' | 'writers' | 'leads' })[] = [
  {
    path: '/kinds',
    name: 'Kinds of engines',
    says: 'figures written once, for every later case',
    for: 'all',
  },
  { path: '/fleet', name: 'Fleet', says: 'hours, services, what is due', for: 'all' },
  { ...classes, for: 'all' },
  { path: '/stock', name: 'Spares', says: 'spare parts with their tags', for: 'writers' },
  { path: '/hours', name: 'Hours and hands', says: 'when work is done, who is away, weather', for: 'all' },
  { path: '/suppliers', name: 'Suppliers', says: 'and machine shops', for: 'all' },
  { path: '/shop', name: 'Settings', says: 'where practitioners differ', for: 'writers' },
  { path: '/changes', name: 'Record of changes', says: 'who wrote what, when', for: 'all' },
  { path: '/people', name: 'People', says: 'who may come in', for: 'leads' },
];

/** Tools that this person may use. */
export function useTools(): readonly Page[] {
  return useIsStudent() ? tools.filter((p) => ofStudents.has(p.path)) : tools;
}

/** Pages of the shop that this person may open. */
export function useShopPages(): readonly Page[] {
  const writes = useMayWrite();
  const leads = useIsLead();
  const student = useIsStudent();
  if (student) return [classes];
  return ofShop.filter((p) => p.for === 'all' || (p.for === 'writers' ? writes : leads));
}
