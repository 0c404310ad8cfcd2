import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';
import { fixed } from './region';

export const actionWords: Record<Schemas['VerdictAction'], string> = {
  reuse: tr`Reuse`,
  cleanAndReuse: tr`Clean and reuse`,
  machine: tr`Machine`,
  repair: tr`Repair`,
  replace: tr`Replace`,
  specialist: tr`Specialist`,
};

export const supplierKindWords: Record<Schemas['SupplierKind'], string> = {
  parts: tr`Parts`,
  machineShop: tr`Machine shop`,
  specialist: tr`Specialist`,
};

export const useWords: Record<Schemas['EngineUse'], string> = {
  ordinary: tr`ordinary use`,
  race: tr`racing`,
  standby: tr`stands by`,
};

export const stageWords: Record<Schemas['OrderStage'], string> = {
  wanted: tr`wanted`,
  asked: tr`asked for`,
  ordered: tr`ordered`,
  expected: tr`expected`,
  arrived: tr`arrived`,
  checked: tr`checked, may go in`,
  fitted: tr`fitted`,
  sentBack: tr`sent back`,
};

export const custodyWords: Record<Schemas['Custody'], string> = {
  onEngine: tr`on the engine`,
  bench: tr`on the bench`,
  bag: tr`in a bag`,
  box: tr`in a box`,
  machineShop: tr`at the machine shop`,
  welder: tr`at the welder`,
  supplier: tr`at the supplier`,
  customer: tr`with the customer`,
  scrapped: tr`scrapped`,
  onPart: tr`kept on another part`,
};

/** Where a part is, as one says it: on the bench, row 4. */
export const custodyText = (p: { custody: Schemas['Custody']; where: string; on?: string }) =>
  [p.custody === 'onPart' && p.on ? tr`kept on ${p.on}` : custodyWords[p.custody], p.where]
    .filter(Boolean)
    .join(', ');

/** Whether a part is in other hands than the shop’s. */
export const isOut = (custody: Schemas['Custody']) =>
  custody === 'machineShop' || custody === 'welder' || custody === 'supplier' || custody === 'customer';

/** Whose doing a damage is. */
export const doneByWords: Record<Schemas['DoneBy'], string> = {
  running: tr`The engine’s own`,
  strip: tr`Done getting it apart`,
  earlierHand: tr`An earlier hand’s`,
  runAgain: tr`Seen since it runs again`,
};

/** How a finding was told: by the hand alone, or seen. */
export const feltWords = (f: Pick<Schemas['Finding'], 'felt' | 'chance'>) =>
  f.felt
    ? tr`, felt, not opened`
    : f.chance !== null
      ? tr`, by a sound, ${fixed(100 * f.chance, 0)} % sure`
      : '';

export const stowWords: Record<Schemas['StowKind'], string> = {
  bag: tr`Bag`,
  box: tr`Box`,
  tray: tr`Tray`,
  stack: tr`Stack`,
  shelf: tr`Shelf`,
};

export const methodWords: Record<Schemas['MarkMethod'], string> = {
  none: tr`No mark yet`,
  makersMark: tr`Maker’s mark`,
  numberPunch: tr`Number punch`,
  engraver: tr`Engraver`,
  scratch: tr`Scratch`,
  paint: tr`Paint`,
  feltPen: tr`Felt pen`,
};

export const facingWords: Record<Schemas['Facing'], string> = {
  unknown: tr`Not noted`,
  freeEnd: tr`Free end`,
  driveEnd: tr`Drive end`,
  left: tr`Left`,
  right: tr`Right`,
};

export const confidenceWords: Record<Schemas['Confidence'], string> = {
  proven: tr`Proven`,
  probable: tr`Probable`,
  possible: tr`Possible`,
  undetermined: tr`Undetermined`,
};

export const faultWords: Record<Schemas['Fault'], string> = {
  notKnown: tr`Cannot be said`,
  ownWork: tr`Our own work`,
  earlierWork: tr`Somebody’s earlier work`,
  partDefect: tr`Defect of a part`,
  use: tr`Use and upkeep`,
};

export const levelWords = [tr`not there`, 'slight', 'moderate', 'severe'] as const;

export function layoutWords(l: Schemas['EngineLayout']) {
  const cycle = l.cycle === 'fourStroke' ? tr`four-stroke` : tr`two-stroke`;
  const shape = {
    single: tr`single`,
    inline: tr`inline ${l.cylinders}`,
    vee: tr`vee ${l.cylinders}`,
    flat: tr`flat ${l.cylinders}`,
  }[l.arrangement];
  return `${shape}, ${cycle}`;
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
  holdPoint: tr`Sign-off not signed`,
  order: tr`Steps before it not done`,
  unread: tr`Evidence not read`,
  fastenersOut: tr`Fasteners not as expected`,
  hole: tr`Lengths not noted`,
  tick: tr`A tick not set`,
  empty: tr`Nothing entered`,
  assembly: tr`A gate of the way back`,
};

/** When a figure was taken, as it stands behind it; nothing for how it was found. */
export const phaseWords: Record<Schemas['Phase'], string> = {
  asFound: '',
  afterWork: tr`after work`,
  afterRun: tr`when it ran again`,
};

export const keepingWords: Record<Schemas['Keeping'], string> = {
  ownHole: tr`back in its own hole`,
  bag: tr`in a bag`,
  benchRow: tr`in a row on the bench`,
};

export const roleWords: Record<string, string> = {
  lead: tr`Lead`,
  mechanic: tr`Mechanic`,
  viewer: tr`Viewer`,
  student: tr`Student`,
};

/** What stands before whom a link was given to, where he wrote through it. */
const throughLink = 'link/';

/** Who wrote a record; of one that came with a file it is somebody of another shop. */
export const writerOf = (r: { by: string; imported?: boolean }) => {
  const by = r.by.startsWith(throughLink) ? tr`${r.by.slice(throughLink.length)}, through a link` : r.by;
  return r.imported ? tr`${by}, elsewhere` : by;
};

/** Kinds of records, as the record of changes names them. */
export const changeWords: Record<string, string> = {
  engineCase: tr`Case`,
  part: tr`Tag`,
  buildTask: tr`Task or wait`,
  buildPromise: tr`Promise`,
  backAct: tr`Way back`,
  tightening: tr`Torque and angle`,
  feed: tr`Address for a calendar`,
  candidate: tr`Offered part`,
  stow: tr`Bag or box`,
  stepRecord: tr`Step`,
  ownStep: tr`Own step`,
  stepMark: tr`Tick or clock`,
  fastenerMove: tr`Fasteners`,
  signOff: tr`Signature`,
  renumbering: tr`Numbering`,
  finding: tr`Finding`,
  photo: tr`Picture`,
  photoMark: tr`Mark on a picture`,
  pictureMeasure: tr`Measured in a picture`,
  sound: tr`Recording`,
  debris: tr`Debris`,
  reading: tr`Reading`,
  limit: tr`Limit`,
  partVerdict: tr`Verdict`,
  supplyOffer: tr`Offer`,
  orderMove: tr`Stage of the order`,
  orderLine: tr`Line of the order`,
  serviceSizes: tr`Sizes to be had`,
  optionChoice: tr`Choice of an option`,
  optionAnswer: tr`Customer’s answer`,
  link: tr`Link to a dossier`,
  repairOption: tr`Option`,
  option: tr`Option`,
  examination: tr`Test`,
  conclusion: tr`Own finding of the cause`,
  import: tr`Case file read in`,
  settings: tr`Settings`,
  instrument: tr`Instrument`,
  'part-on-the-shelf': tr`Part on the shelf`,
  supplier: tr`Supplier`,
  lesson: tr`Lesson`,
  cause: tr`Cause`,
  script: tr`Strip script`,
  kind: tr`Kind of engine`,
  'fleet-engine': tr`Engine of the fleet`,
  'fleet-entry': tr`Hour meter`,
  'label-job': tr`Labels`,
  person: tr`Person`,
  invitation: tr`Link that lets in`,
};

/** How large a file is, in megabytes, however small it is. */
export const megabytes = (bytes: number) => fixed(Math.max(0.1, bytes / 1e6), 1);

/** A name under which a file can be saved anywhere, after the case that it is of. */
export const fileName = (of: string, what: string) =>
  `${of
    .replace(/[\\/:*?"<>|\p{Cc}]+/gu, '-')
    .slice(0, 80)
    .trim()} ${what}`;
