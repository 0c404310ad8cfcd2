import type { Schemas } from '../api/client';

export const actionWords: Record<Schemas['VerdictAction'], string> = {
  reuse: 'Reuse',
  cleanAndReuse: 'Clean and reuse',
  machine: 'Machine',
  repair: 'Repair',
  replace: 'Replace',
  specialist: 'Specialist',
};

export const supplierKindWords: Record<Schemas['SupplierKind'], string> = {
  parts: 'Parts',
  machineShop: 'Machine shop',
  specialist: 'Specialist',
};

export const useWords: Record<Schemas['EngineUse'], string> = {
  ordinary: 'ordinary use',
  race: 'racing',
  standby: 'stands by',
};

export const stageWords: Record<Schemas['OrderStage'], string> = {
  wanted: 'wanted',
  asked: 'asked for',
  ordered: 'ordered',
  expected: 'expected',
  arrived: 'arrived',
  checked: 'checked, may go in',
  fitted: 'fitted',
  sentBack: 'sent back',
};

export const custodyWords: Record<Schemas['Custody'], string> = {
  onEngine: 'on the engine',
  bench: 'on the bench',
  bag: 'in a bag',
  box: 'in a box',
  machineShop: 'at the machine shop',
  welder: 'at the welder',
  supplier: 'at the supplier',
  customer: 'with the customer',
  scrapped: 'scrapped',
  onPart: 'kept on another part',
};

/** Where a part is, as one says it: on the bench, row 4. */
export const custodyText = (p: { custody: Schemas['Custody']; where: string; on?: string }) =>
  [p.custody === 'onPart' && p.on ? `kept on ${p.on}` : custodyWords[p.custody], p.where]
    .filter(Boolean)
    .join(', ');

/** Whether a part is in other hands than the shop’s. */
export const isOut = (custody: Schemas['Custody']) =>
  custody === 'machineShop' || custody === 'welder' || custody === 'supplier' || custody === 'customer';

/** Whose doing a damage is. */
export const doneByWords: Record<Schemas['DoneBy'], string> = {
  running: 'The engine’s own',
  strip: 'Done getting it apart',
  earlierHand: 'An earlier hand’s',
  runAgain: 'Seen since it runs again',
};

/** How a finding was told: by the hand alone, or seen. */
export const feltWords = (f: Pick<Schemas['Finding'], 'felt'>) => (f.felt ? ', felt, not opened' : '');

export const stowWords: Record<Schemas['StowKind'], string> = {
  bag: 'Bag',
  box: 'Box',
  tray: 'Tray',
  stack: 'Stack',
  shelf: 'Shelf',
};

export const methodWords: Record<Schemas['MarkMethod'], string> = {
  none: 'No mark yet',
  makersMark: 'Maker’s mark',
  numberPunch: 'Number punch',
  engraver: 'Engraver',
  scratch: 'Scratch',
  paint: 'Paint',
  feltPen: 'Felt pen',
};

export const facingWords: Record<Schemas['Facing'], string> = {
  unknown: 'Not noted',
  freeEnd: 'Free end',
  driveEnd: 'Drive end',
  left: 'Left',
  right: 'Right',
};

export const confidenceWords: Record<Schemas['Confidence'], string> = {
  proven: 'Proven',
  probable: 'Probable',
  possible: 'Possible',
  undetermined: 'Undetermined',
};

export const faultWords: Record<Schemas['Fault'], string> = {
  notKnown: 'Cannot be said',
  ownWork: 'Our own work',
  earlierWork: 'Somebody’s earlier work',
  partDefect: 'Defect of a part',
  use: 'Use and upkeep',
};

export const levelWords = ['not there', 'slight', 'moderate', 'severe'] as const;

export function layoutWords(l: Schemas['EngineLayout']) {
  const shape = { single: 'single', inline: 'inline', vee: 'vee', flat: 'flat' }[l.arrangement];
  const cycle = l.cycle === 'fourStroke' ? 'four-stroke' : 'two-stroke';
  return l.arrangement === 'single' ? `${shape}, ${cycle}` : `${shape} ${l.cylinders}, ${cycle}`;
}

export const entriesOf = <K extends string>(words: Record<K, string>) =>
  Object.entries(words) as [K, string][];

/** A record that nobody has taken back. */
export const stands = <T extends { withdrawnAt: string | null }>(r: T) => r.withdrawnAt === null;

/** Of each place the verdict that counts: the last one given, of those not taken back. */
export function latestVerdicts(verdicts: readonly Schemas['PartVerdict'][]) {
  const latest = new Map<string, Schemas['PartVerdict']>();
  for (const v of verdicts.filter(stands)) {
    const before = latest.get(v.place);
    if (!before || v.at >= before.at) latest.set(v.place, v);
  }
  return latest;
}

/** What applies to every engine. */
export const anyEngine: Schemas['Applicability'] = {
  cycle: null,
  bearings: null,
  arrangement: null,
  valves: null,
  fuel: null,
  spark: null,
  case: null,
  gearbox: null,
  cylinders: null,
  cooling: null,
  bores: null,
  barrels: null,
  camDrive: null,
};

/** What can hold a step back. */
export const lockWords: Record<Schemas['StepLock'], string> = {
  holdPoint: 'Sign-off not signed',
  order: 'Steps before it not done',
  unread: 'Evidence not read',
  fastenersOut: 'Fasteners not as expected',
  hole: 'Lengths not noted',
  tick: 'A tick not set',
  empty: 'Nothing entered',
  assembly: 'A gate of the way back',
};

/** When a figure was taken, as it stands behind it; nothing for how it was found. */
export const phaseWords: Record<Schemas['Phase'], string> = {
  asFound: '',
  afterWork: 'after work',
  afterRun: 'when it ran again',
};

export const keepingWords: Record<Schemas['Keeping'], string> = {
  ownHole: 'back in its own hole',
  bag: 'in a bag',
  benchRow: 'in a row on the bench',
};

export const roleWords: Record<string, string> = {
  lead: 'Lead',
  mechanic: 'Mechanic',
  viewer: 'Viewer',
  student: 'Student',
};

/** What stands before whom a link was given to, where he wrote through it. */
const throughLink = 'link/';

/** Who wrote a record; of one that came with a file it is somebody of another shop. */
export const writerOf = (r: { by: string; imported?: boolean }) => {
  const by = r.by.startsWith(throughLink) ? `${r.by.slice(throughLink.length)}, through a link` : r.by;
  return r.imported ? `${by}, elsewhere` : by;
};

/** Kinds of records, as the record of changes names them. */
export const changeWords: Record<string, string> = {
  engineCase: 'Case',
  part: 'Tag',
  buildTask: 'Task or wait',
  buildPromise: 'Promise',
  backAct: 'Way back',
  tightening: 'Torque and angle',
  feed: 'Address for a calendar',
  candidate: 'Offered part',
  stow: 'Bag or box',
  stepRecord: 'Step',
  ownStep: 'Own step',
  stepMark: 'Tick or clock',
  fastenerMove: 'Fasteners',
  signOff: 'Signature',
  renumbering: 'Numbering',
  finding: 'Finding',
  photo: 'Picture',
  photoMark: 'Mark on a picture',
  debris: 'Debris',
  reading: 'Reading',
  limit: 'Limit',
  partVerdict: 'Verdict',
  supplyOffer: 'Offer',
  orderMove: 'Stage of the order',
  orderLine: 'Line of the order',
  serviceSizes: 'Sizes to be had',
  optionChoice: 'Choice of an option',
  optionAnswer: 'Customer’s answer',
  link: 'Link to a dossier',
  repairOption: 'Option',
  option: 'Option',
  examination: 'Test',
  conclusion: 'Own finding of the cause',
  import: 'Case file read in',
  settings: 'Settings',
  instrument: 'Instrument',
  'part-on-the-shelf': 'Part on the shelf',
  supplier: 'Supplier',
  lesson: 'Lesson',
  cause: 'Cause',
  script: 'Strip script',
  kind: 'Kind of engine',
  'fleet-engine': 'Engine of the fleet',
  'fleet-entry': 'Hour meter',
  'label-job': 'Labels',
  person: 'Person',
  invitation: 'Link that lets in',
};

/** How large a file is, in megabytes, however small it is. */
export const megabytes = (bytes: number) => Math.max(0.1, bytes / 1e6).toFixed(1);

/** A name under which a file can be saved anywhere, after the case that it is of. */
export const fileName = (of: string, what: string) =>
  `${of
    .replace(/[\\/:*?"<>|\p{Cc}]+/gu, '-')
    .slice(0, 80)
    .trim()} ${what}`;
