import { t as tr } from '@lingui/core/macro';
import type { Schemas } from '../api/client';

/** Acts that destroy evidence, as one says them. */
export const actWords: Record<Schemas['Act'], string> = {
  washing: tr`washing`,
  wiping: tr`wiping`,
  scraping: tr`scraping`,
  polishing: tr`polishing`,
  drainingOil: tr`draining the oil`,
  removingRings: tr`removing rings`,
  removingShells: tr`removing shells`,
  takingCapsOff: tr`taking caps off`,
  pressingOff: tr`pressing off`,
  takingApart: tr`taking apart`,
  turningCrank: tr`turning the crank`,
  reassembly: tr`reassembly`,
};

export const lostBy = (acts: readonly Schemas['Act'][]) => acts.map((a) => actWords[a]).join(', ');

export const materialWords: Record<Schemas['DebrisMaterial'], string> = {
  magneticMetal: tr`Metal, magnet takes it`,
  otherMetal: tr`Metal, magnet leaves it`,
  sealant: tr`Sealant`,
  plastic: tr`Plastic`,
  rubber: tr`Rubber`,
  carbon: tr`Carbon`,
  fibre: tr`Fibre`,
  grit: tr`Grit`,
  unknown: tr`Not sure`,
};

export const colourWords: Record<Schemas['DebrisColour'], string> = {
  grey: tr`Grey`,
  bright: tr`Bright`,
  copperOrBronze: tr`Copper or bronze`,
  brass: tr`Brass`,
  black: tr`Black`,
  rust: tr`Rust`,
  clear: tr`Clear`,
  coloured: tr`Coloured`,
  unknown: tr`Not noted`,
};

export const formWords: Record<Schemas['DebrisForm'], string> = {
  dust: tr`Dust`,
  flake: tr`Flakes`,
  sliver: tr`Slivers`,
  curl: tr`Curls`,
  chip: tr`Chips`,
  lump: tr`Lumps`,
  needle: tr`Needles`,
  string: tr`Strings`,
  bead: tr`Beads`,
  paste: tr`Paste`,
  unknown: tr`Not noted`,
};

/** A chapter of the atlas: “plain-bearings” is “Plain bearings”. */
export const chapterName = (id: string) => (id[0] ?? '').toUpperCase() + id.slice(1).replaceAll('-', ' ');
