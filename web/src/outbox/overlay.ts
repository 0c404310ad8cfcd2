import type { CaseAnswers, EngineCase, Schemas } from '../api/client';
import { readFigure } from '../entry/typed';
import { ledgerAfter, sumsAfter } from './ledger';
import type { Kept } from './outbox';
import type { SoundBody } from './writes';

/** A record that shows although the server does not have it yet. */
const head = (entry: Kept, id: string) => ({
  id,
  caseId: entry.caseId,
  at: entry.at,
  by: entry.by,
  version: 0,
  withdrawnAt: null,
  withdrawnWhy: null,
  withdrawnBy: null,
  imported: false,
});

const finding = (entry: Kept, b: Schemas['FindingEntry']): Schemas['Finding'] => ({
  ...head(entry, b.id),
  place: b.place,
  sign: b.sign,
  seen: b.seen,
  level: b.level,
  spot: b.spot,
  zones: b.zones ?? [],
  marks: b.marks ?? [],
  doneBy: b.doneBy,
  felt: b.felt ?? false,
  chance: b.chance ?? null,
  note: b.note,
});

const without = <T extends { id: string }>(list: T[], id: string) => list.filter((r) => r.id !== id);

const unsent = (entries: readonly Kept[], caseId: string) =>
  entries.filter((e) => e.caseId === caseId && !e.refused);

/** The case with what waits to be sent laid over it, so that the bench sees its own entries at once. */
export function withWaiting(engineCase: EngineCase, entries: readonly Kept[]): EngineCase {
  const mine = unsent(entries, engineCase.id);
  if (mine.length === 0) return engineCase;
  const c = { ...engineCase };
  for (const e of mine) {
    switch (e.kind) {
      case 'finding': {
        const f = finding(e, e.body as Schemas['FindingEntry']);
        c.findings = [...without(c.findings, f.id), f];
        break;
      }
      case 'findings':
        for (const b of e.body as Schemas['FindingEntry'][])
          c.findings = [...without(c.findings, b.id), finding(e, b)];
        break;
      case 'photo': {
        const b = e.body as { id: string; place: string; step?: string; shot?: string; caption?: string };
        c.photos = [
          ...without(c.photos, b.id),
          {
            ...head(e, b.id),
            place: b.place,
            step: b.step ?? '',
            shot: b.shot ?? '',
            caption: b.caption ?? '',
            fileName: e.file?.name ?? '',
            sha256: '',
            width: 4,
            height: 3,
            bytes: e.file?.size ?? 0,
          },
        ];
        break;
      }
      case 'photoMark': {
        const b = e.body as Schemas['PhotoMarkEntry'];
        c.photoMarks = [...without(c.photoMarks, b.id), { ...head(e, b.id), ...b }];
        break;
      }
      case 'pictureMeasure': {
        const b = e.body as Schemas['PictureMeasureEntry'];
        c.pictureMeasures = [
          ...without(c.pictureMeasures, b.id),
          {
            ...head(e, b.id),
            photo: b.photo,
            task: b.ask.task,
            points: b.ask.points,
            scale: b.ask.scale ?? [],
            scaleLength: b.ask.scaleLength ?? null,
            card: null,
            above: b.ask.above,
            // Reckoned by the server when it gets there.
            value: 0,
            standard: 0,
            residual: null,
            tilt: null,
            classes: [],
            longest: null,
            shiny: null,
          },
        ];
        break;
      }
      case 'sound': {
        const b = e.body as SoundBody;
        c.sounds = [
          ...without(c.sounds, b.id),
          {
            ...head(e, b.id),
            fileName: e.file?.name ?? '',
            sha256: '',
            bytes: e.file?.size ?? 0,
            seconds: b.seconds,
            rate: 0,
            channels: b.channels,
            rpm: b.rpm,
            pickup: b.pickup,
            cutOut: b.cutOut,
            where: b.where,
            load: b.load,
            warmth: b.warmth,
          },
        ];
        break;
      }
      case 'debris': {
        const b = e.body as Schemas['DebrisEntry'];
        c.debris = [...without(c.debris, b.id), { ...head(e, b.id), ...b }];
        break;
      }
      case 'stepMark': {
        const b = e.body as Schemas['StepMarkEntry'];
        c.stepMarks = [...without(c.stepMarks, b.id), { ...head(e, b.id), ...b }];
        break;
      }
      case 'fastener': {
        const b = e.body as Schemas['FastenerEntry'];
        c.fastenerMoves = [...without(c.fastenerMoves, b.id), { ...head(e, b.id), ...b }];
        break;
      }
      case 'backAct': {
        const b = e.body as Schemas['BackActEntry'];
        c.backActs = [...without(c.backActs, b.id), { ...head(e, b.id), ...b }];
        break;
      }
      case 'reading': {
        const b = e.body as Schemas['ReadingEntry'];
        c.readings = [
          ...without(c.readings, b.id),
          {
            ...head(e, b.id),
            place: b.place,
            characteristic: b.characteristic,
            station: b.station ?? '',
            direction: b.direction ?? '',
            phase: b.phase,
            typed: b.typed,
            // What the server makes of it comes with its answer; until then what cannot be read here is no number.
            ...valueOf(b),
            unit: b.setUnit,
            instrument: b.instrument,
            temperature: b.temperature,
            gaugeTemperature: b.gaugeTemperature,
            readBy: b.readBy ?? '',
            via: b.via ?? '',
            corrects: b.corrects,
            picture: null,
            standard: null,
          },
        ];
        break;
      }
      case 'withdraw': {
        const id = /([0-9a-f-]{36})\/withdraw$/.exec(e.path)?.[1];
        const why = (e.body as Schemas['Withdrawal']).why;
        const strike = <T extends { id: string }>(list: T[]) =>
          list.map((r) => (r.id === id ? { ...r, withdrawnAt: e.at, withdrawnWhy: why } : r));
        c.findings = strike(c.findings);
        c.photos = strike(c.photos);
        c.photoMarks = strike(c.photoMarks);
        c.debris = strike(c.debris);
        c.pictureMeasures = strike(c.pictureMeasures);
        c.sounds = strike(c.sounds);
        c.readings = strike(c.readings);
        break;
      }
    }
  }
  return c;
}

/** How the places stand, with levels and counts that wait laid over it. */
export function placesWithWaiting(
  places: CaseAnswers['places'],
  caseId: string,
  entries: readonly Kept[],
): CaseAnswers['places'] {
  const at = (place: string, change: (p: Schemas['PlaceState']) => Partial<Schemas['PlaceState']>) => {
    places = places.map((p) => (p.place === place ? { ...p, ...change(p), appears: true } : p));
  };
  const worst = (b: Schemas['FindingEntry']) =>
    at(b.place, (p) => ({ damage: Math.max(p.damage ?? 0, b.level) }));
  for (const e of unsent(entries, caseId)) {
    switch (e.kind) {
      case 'finding':
        worst(e.body as Schemas['FindingEntry']);
        break;
      case 'findings':
        for (const b of e.body as Schemas['FindingEntry'][]) worst(b);
        break;
      case 'photo':
        at((e.body as { place: string }).place, (p) => ({ photos: p.photos + 1 }));
        break;
      case 'reading':
        at((e.body as { place: string }).place, (p) => ({ readings: p.readings + 1 }));
        break;
    }
  }
  return places;
}

/** The strip's plan, with ticks, clocks and fasteners that wait laid over it. */
export function stripWithWaiting(
  strip: CaseAnswers['strip'],
  caseId: string,
  entries: readonly Kept[],
): CaseAnswers['strip'] {
  const step = (id: string, change: (s: Schemas['PlannedStep']) => Schemas['PlannedStep']) => {
    strip = { ...strip, steps: strip.steps.map((s) => (s.id === id ? change(s) : s)) };
  };
  for (const e of unsent(entries, caseId)) {
    switch (e.kind) {
      case 'stepMark': {
        const b = e.body as Schemas['StepMarkEntry'];
        step(b.step, (s) => ({ ...s, ...marked(s, b, e.at) }));
        break;
      }
      case 'fastener': {
        const b = e.body as Schemas['FastenerEntry'];
        step(b.step, (s) => moved(s, b));
        const { out, broken } = sumsAfter(b);
        strip = { ...strip, fastenersOut: strip.fastenersOut + out, broken: strip.broken + broken };
        break;
      }
    }
  }
  return strip;
}

/** The plan, with what was done at the steps of the way back laid over it: gates open by the server’s word, here by what they ask for. */
export function buildWithWaiting(
  plan: CaseAnswers['build'],
  caseId: string,
  entries: readonly Kept[],
): CaseAnswers['build'] {
  if (!plan) return plan;
  const way = (at: (t: Schemas['BuildTaskState']) => boolean, change: (w: Way) => Way) => {
    plan = {
      ...plan!,
      tasks: plan!.tasks.map((t) => (t.way && at(t) ? { ...t, way: change(t.way) } : t)),
    };
  };
  for (const e of unsent(entries, caseId))
    switch (e.kind) {
      case 'backAct': {
        const b = e.body as Schemas['BackActEntry'];
        way(
          (t) => t.key === b.step,
          (w) => acted(w, b, e.by),
        );
        break;
      }
      case 'fastener': {
        const b = e.body as Schemas['FastenerEntry'];
        const [out, broken] = [sumsAfter(b).out, sumsAfter(b).broken];
        way(
          (t) => t.way?.step === b.step,
          (w) => ({
            ...w,
            sets: w.sets.map((s) => (s.set === b.set ? refilled(s, b, out, broken) : s)),
          }),
        );
        break;
      }
    }
  return plan;
}

type Way = Schemas['WayBack'];

/** A set after one more move: what was tight was so with the others. */
function refilled(
  s: Schemas['BackSet'],
  b: Schemas['FastenerEntry'],
  out: number,
  broken: number,
): Schemas['BackSet'] {
  const open = s.out + out + s.broken + broken > 0;
  return {
    ...s,
    out: s.out + out,
    broken: s.broken + broken,
    new: b.state === 'newIn' ? s.new + b.count : b.state === 'out' ? Math.max(0, s.new - b.count) : s.new,
    pass: 0,
    checkedBy: '',
    stands: open ? 'open' : 'fingerTight',
    holes: s.holes.map((h) =>
      h.number === b.hole ? { ...h, state: b.state === 'backIn' || b.state === 'newIn' ? null : b.state } : h,
    ),
  };
}

function acted(w: Way, b: Schemas['BackActEntry'], by: string): Way {
  const open = (key: string) => ({ ...w, stops: w.stops.filter((s) => s.key !== key) });
  const tick = (list: Schemas['BackTick'][], done: boolean) =>
    list.some((t) => t.text === b.of)
      ? list.map((t) => (t.text === b.of ? { ...t, done, by: done ? by : '' } : t))
      : [...list, { text: b.of, done, by }];
  switch (b.kind) {
    case 'fitted':
      return {
        ...open(`part/${b.of}`),
        parts: w.parts.map((p) => (p.place === b.of ? { ...p, in: b.id, inBy: by, inNew: b.isNew } : p)),
      };
    case 'takenOut':
      return { ...w, parts: w.parts.map((p) => (p.place === b.of ? { ...p, in: null, inBy: '' } : p)) };
    case 'ticked':
    case 'unticked': {
      const done = b.kind === 'ticked';
      const find = w.finds.find((f) => f.key === b.of);
      if (find)
        return {
          ...(done ? open(`find/${find.place}`) : w),
          finds: w.finds.map((f) => (f === find ? { ...f, clean: done, by: done ? by : '' } : f)),
        };
      return { ...(done ? open(`tick/${b.of}`) : w), ticks: tick(w.ticks, done) };
    }
    case 'ran': {
      const run = b.hours ?? null;
      return {
        ...(w.hours && run !== null && run >= w.hours.due ? open('hours/') : w),
        hours: w.hours && { ...w.hours, run, by, noted: null },
      };
    }
    case 'covered':
      return { ...w, covers: tick(w.covers, true) };
    case 'uncovered':
      return { ...w, covers: tick(w.covers, false) };
    case 'tightened':
      return {
        ...w,
        sets: w.sets.map((s) =>
          s.set === b.of
            ? {
                ...s,
                pass: b.pass,
                tightBy: by,
                wrench: b.instrument ?? '',
                checkedBy: '',
                checkedWith: '',
                stands: b.pass >= (s.how?.passes.length ?? 0) ? 'tight' : 'partTight',
              }
            : s,
        ),
      };
    case 'checked':
      return {
        ...open(`eyes/${b.of}`),
        sets: w.sets.map((s) =>
          s.set === b.of
            ? { ...s, checkedBy: by, checkedWith: b.instrument ?? '', stands: 'checked' as const }
            : s,
        ),
      };
    case 'passed':
      return {
        ...w,
        stops: w.stops.map((s) => (s.key === b.of ? { ...s, passed: b.why, passedBy: by } : s)),
      };
  }
}

function marked(s: Schemas['PlannedStep'], b: Schemas['StepMarkEntry'], at: string) {
  switch (b.kind) {
    case 'ticked':
      return { ticked: [...new Set([...s.ticked, b.item])].sort((x, y) => x - y) };
    case 'unticked':
      return { ticked: s.ticked.filter((t) => t !== b.item) };
    case 'started':
      return { runningSince: s.runningSince ?? at };
    case 'stopped':
      return s.runningSince
        ? { runningSince: null, spent: s.spent + (Date.parse(at) - Date.parse(s.runningSince)) / 60_000 }
        : {};
  }
}

/** The step after one more move of its fasteners. */
function moved(s: Schemas['PlannedStep'], b: Schemas['FastenerEntry']): Schemas['PlannedStep'] {
  const sets = s.sets.map((l) => (l.set.id === b.set ? ledgerAfter(l, b) : l));
  return { ...s, sets, open: sets.reduce((sum, l) => sum + l.in + l.broken, 0) };
}

function valueOf(b: Schemas['ReadingEntry']) {
  const read = readFigure(b.typed, b.setUnit);
  return read && !read.relative
    ? { value: read.value, within: read.within }
    : { value: Number.NaN, within: 0 };
}
