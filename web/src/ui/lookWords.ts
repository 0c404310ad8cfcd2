import type { Schemas } from '../api/client';

/** Acts that destroy evidence, as one says them. */
export const actWords: Record<Schemas['Act'], string> = {
  washing: 'washing',
  wiping: 'wiping',
  scraping: 'scraping',
  polishing: 'polishing',
  drainingOil: 'draining the oil',
  removingRings: 'removing rings',
  removingShells: 'removing shells',
  takingCapsOff: 'taking caps off',
  pressingOff: 'pressing off',
  takingApart: 'taking apart',
  turningCrank: 'turning the crank',
  reassembly: 'reassembly',
};

export const lostBy = (acts: readonly Schemas['Act'][]) => acts.map((a) => actWords[a]).join(', ');

export const materialWords: Record<Schemas['DebrisMaterial'], string> = {
  magneticMetal: 'Metal, magnet takes it',
  otherMetal: 'Metal, magnet leaves it',
  sealant: 'Sealant',
  plastic: 'Plastic',
  rubber: 'Rubber',
  carbon: 'Carbon',
  fibre: 'Fibre',
  grit: 'Grit',
  unknown: 'Not sure',
};

export const colourWords: Record<Schemas['DebrisColour'], string> = {
  grey: 'Grey',
  bright: 'Bright',
  copperOrBronze: 'Copper or bronze',
  brass: 'Brass',
  black: 'Black',
  rust: 'Rust',
  clear: 'Clear',
  coloured: 'Coloured',
  unknown: 'Not noted',
};

export const formWords: Record<Schemas['DebrisForm'], string> = {
  dust: 'Dust',
  flake: 'Flakes',
  sliver: 'Slivers',
  curl: 'Curls',
  chip: 'Chips',
  lump: 'Lumps',
  needle: 'Needles',
  string: 'Strings',
  bead: 'Beads',
  paste: 'Paste',
  unknown: 'Not noted',
};

/** A chapter of the atlas: “plain-bearings” is “Plain bearings”. */
export const chapterName = (id: string) => (id[0] ?? '').toUpperCase() + id.slice(1).replaceAll('-', ' ');
