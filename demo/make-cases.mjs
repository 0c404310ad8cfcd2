// Writes the demo's case files. Everything in them is made up: shop, people, engines, figures.
// Run from the repository's root: node demo/make-cases.mjs (after demo/draw-pictures.mjs, whose pictures it takes in).
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';

/** Ids are hashes of names, so that the files come out the same each time; the layout is that of a UUIDv7. */
function id(name) {
  const h = createHash('sha256').update(name).digest('hex');
  return `01940000-${h.slice(0, 4)}-7${h.slice(4, 7)}-8${h.slice(7, 10)}-${h.slice(10, 22)}`;
}

const move = {
  state: 'out',
  count: 1,
  hole: 0,
  length: null,
  keeping: 'bag',
  where: '',
  line: null,
  note: '',
};

/** What a layout says besides the numbers of its cylinders. */
const layoutMore = {
  boreMetal: null,
  ringMetal: null,
  journalSurface: null,
  boreSurface: null,
  valveGear: 'pushrod',
  inletValves: 1,
  exhaustValves: 1,
  fuel: 'carburettor',
  cooling: 'liquid',
  case: 'block',
  gearboxInCase: false,
  exhaustAt: null,
  mainsAfter: null,
  mainTypes: null,
  rodBearings: null,
  crank: null,
  oilRings: 1,
  camDrive: null,
  gearTeeth: [],
  camPhasers: null,
  balanceShafts: null,
  uniflow: false,
  feed: null,
  charging: null,
  oilJets: null,
  reliefValves: 1,
  bores: null,
  firingAngles: null,
  primary: null,
  kickStart: false,
  ends: { flywheel: null, clutch: null, timing: null, starter: null },
  ownParts: [],
};

function newCase(key, head, start) {
  const caseId = id(key);
  let minute = 0;
  const record = (kind, name, by, fields) => ({
    id: id(`${key}/${kind}/${name}`),
    caseId,
    at: new Date(start + 60_000 * (minute += 7)).toISOString().replace('.000Z', '+00:00'),
    by,
    version: 1,
    withdrawnAt: null,
    withdrawnWhy: null,
    withdrawnBy: null,
    imported: false,
    ...fields,
  });
  const engineCase = {
    ...record('case', key, 'ines', {}),
    id: caseId,
    importedFrom: null,
    importedBag: '',
    script: '',
    variants: [],
    prefix: '',
    stroke: null,
    rodLength: null,
    kindId: null,
    kindVersion: 0,
    comebackOf: null,
    lengths: null,
    candidates: [],
    parts: [],
    stows: [],
    steps: [],
    ownSteps: [],
    stepMarks: [],
    fastenerMoves: [],
    signOffs: [],
    renumberings: [],
    findings: [],
    photos: [],
    photoMarks: [],
    pictureMeasures: [],
    sounds: [],
    debris: [],
    readings: [],
    limits: [],
    sizes: [],
    examinations: [],
    verdicts: [],
    options: [],
    choices: [],
    optionAnswers: [],
    orderLines: [],
    orderMoves: [],
    offers: [],
    conclusions: [],
    buildTasks: [],
    buildPromises: [],
    backActs: [],
    tightenings: [],
    ...head,
  };
  const pictures = [];
  return {
    part: (place, fields) =>
      engineCase.parts.push(
        record('part', place, 'tomas', {
          place,
          mark: place,
          method: 'engraver',
          sameOnAll: false,
          facing: 'left',
          gradeStamped: '',
          custody: 'bench',
          where: `row ${place.match(/\d+/)?.[0] ?? 'end'}`,
          sent: null,
          dueBack: null,
          sideUp: '',
          weight: null,
          markedAs: '',
          on: '',
          remarks: '',
          ...fields,
        }),
      ),
    /** A part that is offered in the engine's stead. */
    candidate: (letter, what, fields) =>
      engineCase.candidates.push(
        record('candidate', letter, 'ines', {
          letter,
          what,
          station: null,
          name: '',
          from: '',
          remarks: '',
          line: null,
          ...fields,
        }),
      ),
    /** A bag, box or stack; what is in it as an address, or as [what, count, face]. */
    stow: (code, items, fields) =>
      engineCase.stows.push(
        record('stow', code, 'tomas', {
          code,
          kind: code.replace(/\d+$/, '').toLowerCase(),
          name: '',
          in: '',
          where: '',
          step: '',
          remarks: '',
          items: items.map((i) => {
            const [first, count = 1, face = ''] = Array.isArray(i) ? i : [i];
            const place = /^[A-Z]{1,2}\d*[A-Z]?\d*$/.test(first);
            return { place: place ? first : '', what: place ? '' : first, count, face };
          }),
          ...fields,
        }),
      ),
    /** A step done, with the fasteners of each of its sets: { set: count }. */
    step: (step, sets = {}, fields = {}) => {
      for (const [set, count] of Object.entries(sets))
        engineCase.fastenerMoves.push(
          record('move', `${step}/${set}`, 'tomas', { ...move, step, set, count, where: `bag ${step}` }),
        );
      engineCase.steps.push(
        record('step', step, 'tomas', {
          step,
          state: 'done',
          reason: '',
          overrides: [],
          stations: [],
          per: 'inAll',
          ...fields,
        }),
      );
    },
    move: (step, set, fields, nth = 0) =>
      engineCase.fastenerMoves.push(
        record('move', `${step}/${set}/${nth}`, 'tomas', { ...move, step, set, ...fields }),
      ),
    mark: (step, kind, item = 0) =>
      engineCase.stepMarks.push(record('mark', `${step}/${kind}/${item}`, 'tomas', { step, kind, item })),
    sign: (step, note = '') =>
      engineCase.signOffs.push(
        record('sign', step, 'ines', { step, outcome: 'signed', role: 'lead', seen: '', note }),
      ),
    saw: (place, sign, level, fields = {}) =>
      engineCase.findings.push(
        record('finding', `${place}/${sign}`, 'tomas', {
          place,
          sign,
          seen: level > 0 ? 'present' : 'absent',
          level,
          spot: '',
          zones: [],
          marks: [],
          doneBy: 'running',
          felt: false,
          chance: null,
          note: '',
          ...fields,
        }),
      ),
    read: (place, characteristic, typed, value, unit, instrument, nth = 0, fields = {}) =>
      engineCase.readings.push(
        record('reading', `${place}/${characteristic}/${nth}`, 'tomas', {
          place,
          characteristic,
          station: '',
          direction: '',
          phase: 'asFound',
          typed,
          value,
          within: 0,
          unit,
          instrument,
          temperature: 20,
          gaugeTemperature: null,
          readBy: '',
          via: '',
          picture: null,
          standard: null,
          corrects: null,
          ...fields,
        }),
      ),
    limit: (characteristic, nominal, least, most, sourceText, wear = null, on = '') =>
      engineCase.limits.push(
        record('limit', `${characteristic}${on && `/${on}`}`, 'ines', {
          characteristic,
          on,
          nominal,
          least,
          most,
          wear,
          unit: '',
          source: 'makersManual',
          sourceText,
        }),
      ),
    // The figures are those that the sheet had when the verdict was given.
    verdict: (place, action, course, reason, ...figures) =>
      engineCase.verdicts.push(
        record('verdict', place, 'ines', {
          place,
          action,
          course,
          reason,
          advised: course,
          advisedWhy: '',
          together: null,
          figures,
          figure: '',
        }),
      ),
    test: (place, check, passed, testedBy, remarks) =>
      engineCase.examinations.push(
        record('examination', `${place}/${check}`, 'ines', { place, check, passed, testedBy, remarks }),
      ),
    option: (name, title, { lines, failing, ...fields }) =>
      engineCase.options.push(
        record('option', name, 'ines', {
          title,
          scope: '',
          lines: lines.map(([kind, what, quantity, price, days, currency, group, course], i) => ({
            id: id(`${key}/option/${name}/${i}`),
            kind,
            what,
            quantity,
            price,
            currency,
            days,
            group,
            course,
          })),
          base: 'EUR',
          rates: { GBP: 1.17 },
          failing: failing.map(([what, amount, far, covered]) => ({
            what,
            amount,
            currency: 'EUR',
            far,
            covered,
          })),
          farOut: 0.6,
          warranty: 'nobody',
          warrantyMonths: 0,
          ownChance: null,
          remarks: '',
          ...fields,
        }),
      ),
    choose: (name, title, why, fields) =>
      engineCase.choices.push(
        record('choice', name, 'ines', {
          option: id(`${key}/option/${name}`),
          title,
          scope: '',
          why,
          currency: 'EUR',
          ...fields,
        }),
      ),
    order: (name, fields) =>
      engineCase.orderLines.push(
        record('orderLine', name, 'ines', {
          need: '',
          kind: 'parts',
          item: '',
          what: '',
          course: 'renew',
          places: [],
          step: '',
          quantity: 1,
          supplier: '',
          partNumber: '',
          price: null,
          currency: '',
          days: null,
          wants: [],
          remarks: '',
          ...fields,
        }),
      ),
    lineId: (name) => id(`${key}/orderLine/${name}`),
    orderMove: (line, to, fields = {}) =>
      engineCase.orderMoves.push(
        record('orderMove', `${line}/${to}`, 'ines', {
          line: id(`${key}/orderLine/${line}`),
          to,
          day: null,
          count: null,
          label: '',
          reference: '',
          note: '',
          reasons: {},
          ...fields,
        }),
      ),
    offer: (line, supplier, fields) =>
      engineCase.offers.push(
        record('offer', `${line}/${supplier}`, 'ines', {
          supplier,
          item: '',
          course: 'renew',
          step: '',
          line: id(`${key}/orderLine/${line}`),
          partNumber: '',
          price: 0,
          currency: 'EUR',
          pack: 1,
          days: 0,
          inStock: true,
          remarks: '',
          ...fields,
        }),
      ),
    /** Key under which a task of the case's own stands in its plan. */
    ownKey: (name) => `own/${id(`${key}/buildTask/${name}`).replaceAll('-', '')}`,
    task: (name, fields) =>
      engineCase.buildTasks.push(
        record('buildTask', name, 'ines', {
          of: '',
          kind: 'own',
          name,
          least: null,
          likely: null,
          most: null,
          hands: null,
          tools: [],
          after: [],
          holds: [],
          notBefore: null,
          expected: null,
          byItself: false,
          dry: false,
          warmerThan: null,
          mark: 'open',
          note: '',
          ...fields,
        }),
      ),
    /** The owner was told a day on which it runs. */
    promise: (day, to, note = '') =>
      engineCase.buildPromises.push(record('buildPromise', day, 'ines', { day, to, note })),
    /** Something done at a step of the way back. */
    act: (step, kind, of, fields = {}, by = 'tomas') =>
      engineCase.backActs.push(
        record('backAct', `${step}/${kind}/${of}/${fields.pass ?? ''}`, by, {
          step,
          kind,
          of,
          tag: '',
          isNew: false,
          facing: 'unknown',
          sideUp: false,
          line: null,
          pass: 0,
          instrument: '',
          hours: null,
          why: '',
          ...fields,
        }),
      ),
    /** How a set is tightened, by the page of the manual. */
    tighten: (step, set, passes, page, fields = {}) =>
      engineCase.tightenings.push(
        record('tightening', `${step}/${set}`, 'tomas', {
          step,
          set,
          passes: passes.map(([torque, angle = null, loosen = false]) => ({ torque, angle, loosen })),
          unit: 'Nm',
          order: [],
          lubricant: '',
          threadLock: '',
          sealant: '',
          source: 'makersManual',
          sourceText: 'Kestrow P-2 workshop manual',
          page,
          takenFrom: null,
          note: '',
          ...fields,
        }),
      ),
    conclude: (fields) => engineCase.conclusions.push(record('conclusion', 'own', 'ines', fields)),
    photo: (place, name, caption, shot = '', [width, height] = [1200, 900]) => {
      const path = `demo/pictures/${name}.jpg`;
      if (!existsSync(path)) throw new Error(`${path} is missing: run node demo/draw-pictures.mjs first.`);
      const data = readFileSync(path);
      const photo = record('photo', name, 'tomas', {
        place,
        fileName: `${name}.jpg`,
        sha256: createHash('sha256').update(data).digest('hex'),
        width,
        height,
        bytes: data.length,
        caption,
        step: '',
        shot,
      });
      engineCase.photos.push(photo);
      pictures.push({ photo: photo.id, mediaType: 'image/jpeg', data: data.toString('base64') });
    },
    /** A recording in demo/sounds, as `sleuth sound` made it: OncePerCycle, cylinder 4, 1500 rpm, clamp at 1, seed 417; --knock 0.3 of it running light. */
    sound: (name, fields) => {
      const data = readFileSync(`demo/sounds/${name}.wav`);
      const bytesPerSecond = data.readUInt32LE(28);
      engineCase.sounds.push(
        record('sound', name, 'tomas', {
          fileName: `${name}.wav`,
          sha256: createHash('sha256').update(data).digest('hex'),
          bytes: data.length,
          seconds: Math.floor((data.length - 44) / bytesPerSecond),
          rate: data.readUInt32LE(24),
          channels: data.readUInt16LE(22),
          rpm: 1500,
          pickup: 1,
          cutOut: 0,
          where: 'engine',
          load: 'pulls',
          warmth: 'warm',
          // Between the case and the first that came off it.
          at: new Date(start + 60_000 * (8 + engineCase.sounds.length))
            .toISOString()
            .replace('.000Z', '+00:00'),
          ...fields,
        }),
      );
    },
    /** A mark on a picture; answers with its id, for the finding that points to it. */
    onPicture: (name, kind, [x1, y1, x2, y2], label, length = null) => {
      const mark = record('photoMark', `${name}/${kind}/${label}`, 'tomas', {
        photo: id(`${key}/photo/${name}`),
        kind,
        x1,
        y1,
        x2,
        y2,
        length,
        label,
      });
      engineCase.photoMarks.push(mark);
      return mark.id;
    },
    /** What was measured in a picture; answers with its id, for the reading that is made of it. */
    measure: (name, task, points, card, { value, standard, residual, tilt }) => {
      const measure = record('pictureMeasure', `${name}/${task}`, 'tomas', {
        photo: id(`${key}/photo/${name}`),
        task,
        points,
        scale: [],
        scaleLength: null,
        card,
        above: 0,
        value,
        standard,
        residual,
        tilt,
        classes: [],
        longest: null,
        shiny: null,
      });
      engineCase.pictureMeasures.push(measure);
      return measure.id;
    },
    lay: (place, fields) =>
      engineCase.debris.push(
        record('debris', `${place}/${engineCase.debris.length}`, 'tomas', {
          place,
          material: 'unknown',
          hard: null,
          colour: 'unknown',
          form: 'unknown',
          count: null,
          size: null,
          doneBy: 'running',
          note: '',
          ...fields,
        }),
      ),
    write: (file, instruments, folder = 'demo/cases') => {
      mkdirSync(folder, { recursive: true });
      const text = {
        format: 'vivid-sleuth-case',
        version: 5,
        case: engineCase,
        instruments,
        pictures,
        changes: [],
      };
      writeFileSync(`${folder}/${file}`, JSON.stringify(text, null, 1) + '\n');
    },
  };
}

const instruments = [
  ['Micrometer 50–75', 'outsideMicrometer', 'length', 0.001, 0.003],
  ['Micrometer 75–100', 'outsideMicrometer', 'length', 0.001, 0.003],
  ['Micrometer 100–125', 'outsideMicrometer', 'length', 0.001, 0.004],
  ['Ball micrometer 0–25', 'ballMicrometer', 'length', 0.001, 0.003],
  ['Bore gauge 50–100', 'boreGauge', 'length', 0.001, 0.002, 'Micrometer 75–100'],
  ['Bore gauge 100–160', 'boreGauge', 'length', 0.001, 0.002, 'Micrometer 100–125'],
  ['Feelers', 'feelerGauge', 'length', 0.01, 0.008],
  ['Dial on magnetic foot', 'dialIndicator', 'length', 0.01, 0.01],
  ['Caliper 150', 'caliper', 'length', 0.01, 0.03],
  ['Plastic strip, green', 'plasticStrip', 'length', 0.012, 0.012],
  [
    'Bar and feelers',
    'homeMade',
    'length',
    0.02,
    0.025,
    '',
    'Ground bar over the bore, feelers underneath. Agreed with a depth micrometer to 0.025 mm on ten tries.',
  ],
  ['Scales 2 kg', 'scales', 'mass', 0.1, 0.2],
  ['Burette 100', 'burette', 'volume', 0.1, 0.2],
  ['Compression gauge', 'pressureGauge', 'pressure', 10, 30],
  ['Slant tube', 'manometer', 'pressure', 0.01, 0.03],
].map(([name, kind, quantity, resolution, permissibleError, setWith = '', method = '']) => ({
  id: id(`instrument/${name}`),
  name,
  kind,
  quantity,
  resolution,
  permissibleError,
  setWith,
  calibrated: kind === 'homeMade' ? null : '2026-06-30',
  calibrationDue: name === 'Caliper 150' ? '2026-10-31' : kind === 'homeMade' ? null : '2027-06-30',
  method,
  studied: [],
  version: 1,
  at: '2026-07-01T08:00:00+00:00',
  by: 'ines',
  withdrawnAt: null,
  withdrawnBy: null,
  imported: false,
}));

/** A little scatter that comes out the same each time, from -1 to 1. */
function wobble(name) {
  return (createHash('sha256').update(name).digest().readUInt16BE(0) / 65535) * 2 - 1;
}

const round3 = (v) => Math.round(v * 1000) / 1000;

/** Reads a shape: every station and direction of one part. */
function shape(c, place, characteristic, stations, directions, sizeAt, instrument, fields = {}) {
  let nth = 0;
  for (const station of stations)
    for (const direction of directions) {
      const value = round3(sizeAt(station, direction) + 0.001 * wobble(`${place}/${station}/${direction}`));
      c.read(
        place,
        characteristic,
        value.toFixed(3),
        value,
        'mm',
        instrument,
        `${fields.phase ?? ''}${nth++}`,
        {
          station,
          direction,
          ...fields,
        },
      );
    }
}

const boreLevels = ['top of ring travel', 'middle', 'bottom of ring travel', 'below the rings'];
const boreWays = ['along the crank', 'across'];
const journalEnds = ['free-end side', 'drive-end side'];
const pinWays = ['in line with the throw', 'across the throw'];
const mainWays = ['upright', 'level'];
const rodWays = ['in line with the beam', 'at 45° left', 'at 45° right'];

// The six: one pin still wears standard shells on a journal ground 0.25 mm under.
{
  const c = newCase(
    'biogas-six',
    {
      title: 'Biogas generator, big end 4',
      owner: 'Marrowfield Farm Co-operative',
      engineName: 'Hollin BG-6, 9.6 l inline six',
      serial: 'HB6-00417',
      hours: 21840,
      layout: {
        arrangement: 'inline',
        cylinders: 6,
        cycle: 'fourStroke',
        bearings: 'plain',
        numbering: 'alongTheCrank',
        numberOneEnd: 'freeEnd',
        rotation: 'clockwise',
        firingOrder: [1, 5, 3, 6, 2, 4],
        mains: null,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 3,
        ...layoutMore,
      },
      stroke: 142,
      rodLength: 260,
      complaint: 'Heavy knock under load since Tuesday. Shut down by the operator.',
      past: 'Crankshaft reground and new shells about 900 hours ago, by a previous shop. Oil changed on time since.',
      risks: {
        'rebuilt-lately': true,
        'crank-reground': true,
        'oil-overdue': false,
        overheated: false,
        'over-revved': false,
      },
    },
    Date.UTC(2026, 10, 9, 7, 30),
  );

  [2180, 2210, 2190, 2150, 2200, 2170].forEach((kpa, i) =>
    c.read(`C${i + 1}`, 'compression', `${kpa / 100} bar`, kpa, 'bar', 'Compression gauge'),
  );
  c.saw('EN', 'knock', 3, { note: 'Told by the operator; double knock when unloaded.' });
  c.saw('EN', 'oil-low', 0);
  c.saw('EN', 'oil-diluted', 0);
  c.saw('EN', 'pressure-low', 1, { note: 'Log book: 2.1 bar hot, 2.8 bar in spring.' });

  for (const [step, sets] of [
    ['record'],
    ['running-tests'],
    ['isolate'],
    ['drain-oil', { plug: 1 }],
    ['drain-coolant', { 'block-plug': 1 }],
    ['rocker-covers', { rockers: 24 }],
    ['head', { head: 24 }],
    ['ridge'],
    ['drive-side', { flywheel: 6, pulley: 1 }],
    ['invert'],
    ['pan', { pan: 22 }],
    ['timing-drive', { cover: 10 }],
    ['pickup', { pump: 6 }],
    ['mark-rods'],
    ['rod-caps', { rods: 12 }],
    ['crank-out', { mains: 14 }],
  ]) {
    c.step(step, sets);
    if (step === 'head' || step === 'mark-rods' || step === 'crank-out') c.sign(step);
  }
  const off = (place, where, fields = {}) =>
    c.part(place, { method: 'paint', facing: 'unknown', custody: 'box', where, ...fields });
  for (let n = 1; n <= 6; n++)
    for (const side of ['A', 'E'])
      for (const kind of ['Y', 'U', 'F']) off(`${kind}${n}${side}`, 'valve gear board');
  off('H1', 'pallet 2', { custody: 'bench' });
  off('H1J', 'hung on the wall', { custody: 'bench' });
  for (const place of ['PA', 'PK', 'PU', 'RV']) off(place, 'oil side');
  off('FW', 'pallet 2', { custody: 'bench' });
  for (const place of ['CH', 'KP', 'TC', 'CM1W', 'TK', 'TT']) off(place, 'timing side');

  c.saw('PA', 'pan-bearing-metal', 2, { note: 'Grey flakes with copper under, no magnet.' });
  c.saw('PA', 'pan-aluminium', 0);
  c.saw('PK', 'screen-blocked', 0);
  c.saw('PK', 'sealant-strings', 0);
  c.saw('PK', 'pickup-cracked', 0);

  for (let n = 1; n <= 6; n++) {
    const four = n === 4;
    c.part(`R${n}`, { mark: `${n}`, facing: 'left' });
    c.part(`R${n}C`, { mark: `${n}`, facing: 'left' });
    c.part(`R${n}U`, {
      method: 'feltPen',
      gradeStamped: four ? 'STD' : '0.25',
      custody: 'bag',
      where: `no. ${n}`,
    });
    c.part(`R${n}L`, {
      method: 'feltPen',
      gradeStamped: four ? 'STD' : '0.25',
      custody: 'bag',
      where: `no. ${n}`,
    });
    c.part(`P${n}`, { method: 'feltPen', facing: 'freeEnd', where: 'rack 2' });
    const [pin, across] = [
      [71.748, 71.746],
      [71.747, 71.746],
      [71.749, 71.747],
      [71.741, 71.728],
      [71.746, 71.745],
      [71.748, 71.747],
    ][n - 1];
    shape(
      c,
      `K${n}`,
      'crankpin-diameter',
      journalEnds,
      pinWays,
      (_, way) => (way === pinWays[0] ? pin : across),
      'Micrometer 50–75',
    );
    const housing = [77.051, 77.049, 77.052, 77.058, 77.05, 77.05][n - 1];
    shape(
      c,
      `R${n}`,
      'rod-housing-bore',
      [''],
      rodWays,
      (_, way) => housing - (four && way !== rodWays[0] ? 0.012 : 0.001),
      'Bore gauge 50–100',
    );
    const wall = four
      ? [2.489, 2.494]
      : [[2.624, 2.625], [2.623, 2.625], [2.622, 2.624], [], [2.624, 2.624], [2.625, 2.625]][n - 1];
    c.read(`R${n}U`, 'shell-wall', `${wall[0]}`, wall[0], 'mm', 'Ball micrometer 0–25');
    c.read(`R${n}L`, 'shell-wall', `${wall[1]}`, wall[1], 'mm', 'Ball micrometer 0–25');
  }
  c.limit('crankpin-diameter', 72, null, null, 'maker’s manual, page 4-11');
  c.limit('shell-wall', 2.5, null, null, 'maker’s manual, page 4-11');
  c.limit('big-end-clearance', null, 0.036, 0.092, 'maker’s manual, page 4-12');
  c.limit('crankpin-out-of-round', null, null, 0.005, 'maker’s manual, page 4-11', 0.01);
  c.limit('bore-diameter', 120, 120, 120.022, 'maker’s manual, page 3-4', 120.15);
  c.limit('piston-clearance', null, 0.13, 0.17, 'maker’s manual, page 3-4', 0.25);
  c.limit('ring-end-gap', null, 0.4, 0.65, 'maker’s manual, page 3-6', 1.2, 'ring-top');
  c.limit('ring-end-gap', null, 0.4, 0.65, 'maker’s manual, page 3-6', 1.2, 'ring-second');
  c.limit('ring-side-clearance-top', null, 0.06, 0.1, 'maker’s manual, page 3-6', 0.15);
  c.limit('main-journal-diameter', 92, 91.965, 91.985, 'maker’s manual, page 4-8', 91.93);
  c.limit('main-clearance', null, 0.05, 0.1, 'maker’s manual, page 4-8', 0.14);
  c.limit('crank-end-float', null, 0.12, 0.3, 'maker’s manual, page 4-9', 0.4);
  c.limit('blow-by', 0.25, null, 0.8, 'maker’s manual, page 2-9', 1.5);

  for (let n = 1; n <= 7; n++) {
    for (const [kind, where] of [
      [`M${n}C`, 'rack 3'],
      [`M${n}U`, `no. M${n}`],
      [`M${n}L`, `no. M${n}`],
    ])
      c.part(kind, {
        method: kind.endsWith('C') ? 'makersMark' : 'feltPen',
        custody: kind.endsWith('C') ? 'bench' : 'bag',
        where,
        facing: 'unknown',
        ...(kind.endsWith('C') ? {} : { gradeStamped: 'STD' }),
      });
    const worn = [0.008, 0.009, 0.012, 0.016, 0.02, 0.023, 0.027][n - 1];
    shape(
      c,
      `M${n}`,
      'main-journal-diameter',
      journalEnds,
      mainWays,
      (_, way) => 91.978 - worn - (way === 'upright' ? 0.002 : 0),
      'Micrometer 75–100',
    );
    const housing = round3(97.005 + 0.002 * wobble(`main housing ${n}`));
    shape(
      c,
      `M${n}C`,
      'main-housing-bore',
      [''],
      ['upright', 'at 45° left', 'at 45° right'],
      () => housing,
      'Bore gauge 50–100',
    );
    for (const half of ['U', 'L']) {
      const wall = round3(2.478 - worn / 8 + 0.001 * wobble(`wall M${n}${half}`));
      c.read(`M${n}${half}`, 'shell-wall', wall.toFixed(3), wall, 'mm', 'Ball micrometer 0–25');
    }
  }
  c.limit('shell-wall', 2.48, null, null, 'maker’s manual, page 4-8', null, 'main-shell-upper');
  c.limit('shell-wall', 2.48, null, null, 'maker’s manual, page 4-8', null, 'main-shell-lower');
  c.part('CR', { method: 'numberPunch', custody: 'bench', where: 'cradle', facing: 'unknown' });
  c.stow('BOX1', [], { name: 'big-end shells', where: 'shelf 4' });
  for (let n = 1; n <= 6; n++)
    c.stow(
      `BAG${n}`,
      [
        [`R${n}U`, 1, 'tang left'],
        [`R${n}L`, 1, 'tang left'],
      ],
      {
        name: `big end ${n}`,
        in: 'BOX1',
        step: 'rod-caps',
      },
    );
  c.stow(
    'STACK1',
    [
      ['P3T', 1, 'dot up'],
      ['P3N', 1, 'taper down'],
      ['P3L', 1, 'spring gap opposite'],
    ],
    { name: 'rings of piston 3, as they came off', where: 'rack 2' },
  );
  c.candidate('B', 'rod-shells', {
    name: 'a half under, on offer',
    from: 'Carrow Diesel Parts',
    remarks: 'Last set on their shelf, box opened.',
  });
  for (let n = 1; n <= 6; n++)
    for (const half of ['U', 'L']) {
      const wall = round3(2.748 + 0.002 * wobble(`offered wall ${n}${half}`));
      c.read(`R${n}${half}.B`, 'shell-wall', wall.toFixed(3), wall, 'mm', 'Ball micrometer 0–25');
      c.part(`R${n}${half}.B`, {
        method: 'makersMark',
        gradeStamped: '0.50',
        custody: 'box',
        where: 'on approval',
        facing: 'unknown',
      });
    }
  c.part('TH', { method: 'scratch', custody: 'bag', where: 'thrust', facing: 'unknown' });
  c.read('TH', 'crank-end-float', '0.26', 0.26, 'mm', 'Dial on magnetic foot');
  for (let n = 1; n <= 6; n++) {
    const worn = [0.061, 0.052, 0.048, 0.07, 0.055, 0.066][n - 1];
    const depth = [1, 0.55, 0.4, 0];
    shape(
      c,
      `C${n}`,
      'bore-diameter',
      boreLevels,
      boreWays,
      (level, way) => 120.012 + worn * depth[boreLevels.indexOf(level)] * (way === 'across' ? 1 : 0.62),
      'Bore gauge 100–160',
      { temperature: 17, gaugeTemperature: 17 },
    );
    const skirt = round3(119.862 - 0.006 * n * 0.3 + 0.002 * wobble(`skirt ${n}`));
    c.read(`P${n}`, 'piston-diameter', skirt.toFixed(3), skirt, 'mm', 'Micrometer 100–125', 0, {
      temperature: 18,
      gaugeTemperature: 18,
    });
    const gap = round3(0.62 + worn * 3.1);
    c.read(`P${n}T`, 'ring-end-gap', gap.toFixed(2), Number(gap.toFixed(2)), 'mm', 'Feelers');
    const second = Number((gap + (n === 5 ? -0.1 : 0.06)).toFixed(2));
    c.read(`P${n}N`, 'ring-end-gap', second.toFixed(2), second, 'mm', 'Feelers');
    const groove = round3(3.055 + 0.004 * n + 0.004 * wobble(`groove ${n}`));
    c.read(`P${n}`, 'ring-groove-top-width', groove.toFixed(3), groove, 'mm', 'Feelers');
    const width = round3(2.978 + 0.002 * wobble(`ring ${n}`));
    c.read(`P${n}T`, 'ring-width', width.toFixed(3), width, 'mm', 'Micrometer 50–75');
    [
      ['T', 30, 14],
      ['N', 150, 16],
      ['L', 270, 15],
    ].forEach(([ring, put, drift]) => {
      const singly = n === 3 ? (ring === 'N' ? -40 : 22) : drift + 4 * wobble(`drift ${n}${ring}`);
      const found = Math.round((put + singly + 360) % 360);
      c.read(`P${n}${ring}`, 'ring-gap-position', `${put}`, put, 'deg', '', 0, { station: 'as fitted' });
      c.read(`P${n}${ring}`, 'ring-gap-position', `${found}`, found, 'deg', '', 1, { station: 'as found' });
    });
    const weight = Number((2412 + 6 * wobble(`weight ${n}`)).toFixed(1));
    c.read(`P${n}`, 'part-weight', weight.toFixed(1), weight, 'g', 'Scales 2 kg');
    const deck = Number((-0.12 + 0.03 * wobble(`deck ${n}`)).toFixed(2));
    c.read(`C${n}`, 'deck-height', deck.toFixed(2), deck, 'mm', 'Bar and feelers');
    const chamber = Number((118 + 0.8 * wobble(`chamber ${n}`)).toFixed(1));
    c.read(`C${n}`, 'chamber-volume', `${chamber} cc`, chamber, 'cc', 'Burette 100');
    c.read(`P${n}`, 'crown-volume', '28', 28, 'cm³', 'Burette 100');
    const hatch = [38, 41, 40, 36, 39, 37][n - 1];
    c.read(`C${n}`, 'hatch-angle', `${hatch}`, hatch, 'deg', '');
    c.read(`R${n}`, 'rod-end-float', '0.24', 0.24, 'mm', 'Feelers');
  }
  c.read('H1J', 'joint-thickness', '1.52', 1.52, 'mm', 'Caliper 150');
  c.read('H1J', 'joint-bore', '122.0', 122, 'mm', 'Caliper 150');
  c.read('R4U', 'shell-width', '38.0', 38, 'mm', 'Caliper 150');
  c.read('R1U', 'shell-width', '38.0', 38, 'mm', 'Caliper 150');
  c.read('R2', 'big-end-strip', '.002', 0.0508, 'in', 'Plastic strip, green');
  c.read('R1', 'big-end-strip', '0.10 mm', 0.1, 'mm', 'Plastic strip, green');
  c.read('EN', 'rated-speed', '1500', 1500, 'rpm', '');
  c.read('EN', 'oil-viscosity', '11', 11, 'mPas', '');
  c.read('EN', 'big-end-load', '9 kN', 9000, 'kN', '');
  c.read('EN', 'ring-temperature', '190', 190, '°C', '');
  c.read('EN', 'bore-temperature', '120', 120, '°C', '');
  c.read('EN', 'blow-by', '2.4 inH2O', 0.597813384, 'inH2O', 'Slant tube');
  // After the big end was resized.
  shape(c, 'R4', 'rod-housing-bore', [''], rodWays, () => 77.05, 'Bore gauge 50–100', { phase: 'afterWork' });

  const rows = (letters, from, to) =>
    [...letters].flatMap((l) => Array.from({ length: to - from + 1 }, (_, i) => `${l}${from + i}`));
  c.photo('R1U', 'shell-r1u', 'Upper shell 1', 'shell-face');
  c.photo('R2U', 'shell-r2u', 'Upper shell 2', 'shell-face');
  c.photo('R3U', 'shell-r3u', 'Upper shell 3', 'shell-face');
  c.photo('R4U', 'shell-r4u', 'Upper shell 4 as it came out, before cleaning', 'shell-face');
  c.photo('R5U', 'shell-r5u', 'Upper shell 5 for comparison', 'shell-face');
  c.photo('R6U', 'shell-r6u', 'Upper shell 6', 'shell-face');
  c.onPicture('shell-r4u', 'scale', [0.16, 0.86, 0.84, 0.86], '', 38);
  const wiped = c.onPicture('shell-r4u', 'arrow', [0.72, 0.14, 0.6, 0.4], 'copper, edge to edge');
  const pits = c.onPicture('shell-r4u', 'ring', [0.44, 0.56, 0.53, 0.56], 'tiles out');
  const flakes = c.onPicture('shell-r5u', 'ring', [0.42, 0.54, 0.46, 0.54], 'flake from number 4');
  c.saw('R4U', 'overlay-wiped', 3, {
    zones: rows('ACEFH', 3, 7),
    marks: [wiped],
    note: 'Copper showing from edge to edge.',
  });
  c.saw('R4U', 'overlay-fatigue', 2, { zones: rows('CEF', 4, 6), marks: [pits] });
  c.saw('R4L', 'overlay-wiped', 2, { zones: rows('EFH', 4, 7) });
  c.saw('R4U', 'stamp-differs', 3, { note: 'STD on the back; all others 0.25.' });
  c.saw('R4U', 'shell-turned', 0);
  c.saw('R4C', 'cap-step', 0);
  c.saw('R4U', 'heat-colour', 1, { zones: rows('KLM', 4, 6) });
  c.saw('K4', 'heat-colour', 0);
  c.saw('K4', 'journal-scored', 2, { zones: rows('EF', 1, 12) });
  for (const n of [3, 5]) {
    c.saw(`R${n}U`, 'overlay-wiped', 0);
    c.saw(`R${n}L`, 'overlay-wiped', 0);
    c.saw(`R${n}U`, 'overlay-fatigue', 0);
  }
  c.saw('R5U', 'bearing-scored', 1, {
    zones: rows('E', 4, 7),
    marks: [flakes],
    note: 'Flakes from number 4 pressed in.',
  });
  for (const n of [1, 2, 6]) {
    c.saw(`R${n}U`, 'overlay-wiped', 0);
    c.saw(`R${n}U`, 'bearing-scored', 0);
  }
  for (const n of [1, 2, 3, 5, 6]) c.saw(`R${n}U`, 'stamp-differs', 0);
  [0, 0, 0, 2, 0, 0].forEach((level, i) =>
    c.saw(`K${i + 1}`, 'journal-pickup', level, level ? { zones: rows('E', 3, 5 + level) } : {}),
  );
  c.saw('P4', 'skirt-scuff-thrust', 0);

  c.photo('R4L', 'shell-r4l', 'Lower shell 4', 'shell-face');
  c.photo('R4U', 'stamp-r4u', 'Back of upper shell 4: STD', 'shell-back');
  c.photo('K4', 'crankpin-4', 'Crankpin 4', 'journal-face');
  // `sleuth draw Hatch demo/pictures/hatch-c2.jpg --seed 41 --smaller 1.8 --tilt 10` drew it, at 41.06°, and told what is measured in it.
  c.photo('C2', 'hatch-c2', 'Hatch of bore 2 above the ring travel, with the scale card', '', [1222, 1000]);
  const hatchOf2 = c.measure('hatch-c2', 'hatch', [0.272337, 0.636876, 0.72789, 0.935692], 42, {
    value: 41.039926,
    standard: 0.500055,
    residual: 0.016376,
    tilt: 17.668774,
  });
  c.read('C2', 'hatch-angle', '41.04', 41.04, 'deg', '', 1, { picture: hatchOf2, standard: 0.500055 });
  c.photo('PA', 'pan-flakes', 'What lay in the pan, on a white cloth', 'pan-floor');
  c.lay('PA', {
    material: 'otherMetal',
    hard: false,
    colour: 'copperOrBronze',
    form: 'flake',
    count: 120,
    size: 4.5,
    note: 'Grey outside, copper where scratched.',
  });
  c.lay('PK', { material: 'sealant', hard: false, colour: 'coloured', form: 'string', count: 2, size: 12 });

  const sized = (characteristic, name, value, expanded, least = null, most = null, source = '') => ({
    characteristic,
    name,
    quantity: 'length',
    value,
    expanded,
    least,
    most,
    source,
  });
  const clearance = sized(
    'big-end-clearance',
    'Big-end clearance',
    0.3326,
    0.0089,
    0.036,
    0.092,
    'maker’s manual, page 4-12',
  );
  c.verdict('R4U', 'replace', 'renew', 'Standard shell on a journal 0.25 under; wiped through.', clearance);
  c.verdict(
    'R4L',
    'replace',
    'renew',
    'Goes with the upper one.',
    sized('shell-wall', 'Shell wall at the crown', 2.494, 0.0035),
  );
  c.verdict(
    'K4',
    'machine',
    'grind',
    'Scored and out of round; grind all pins to 0.50 under.',
    sized('crankpin-diameter', 'Crankpin diameter', 71.7347, 0.0059),
    sized(
      'crankpin-out-of-round',
      'Crankpin out of round',
      0.015,
      0.0016,
      null,
      0.005,
      'maker’s manual, page 4-11',
    ),
  );
  for (const n of [1, 2, 3, 5, 6])
    c.verdict(`K${n}`, 'machine', 'grind', 'All pins go to one size, on the worst of them.');
  c.test(
    'CR',
    'crack-test',
    true,
    'Linden Grinding',
    'Wet magnetic, fillets and oil holes of all pins: clear.',
  );
  // What stood on the order when the shells came: the right box, and a quarter under in it.
  const wall = (of) => ({
    of,
    characteristic: 'shell-wall',
    least: 2.746,
    most: 2.754,
    source: '',
    thumb: true,
  });
  c.order('shells', {
    need: 'renew/rod-shells',
    item: 'rod-shells',
    what: 'set of big-end shells, 0.50',
    places: [1, 2, 3, 4, 5, 6].flatMap((n) => [`R${n}U`, `R${n}L`]),
    step: '0.50',
    supplier: 'Carrow Diesel Parts',
    partNumber: '41-0650',
    price: 184,
    currency: 'EUR',
    days: 3,
    wants: [wall('rod-shell-upper'), wall('rod-shell-lower')],
  });
  c.offer('shells', 'Carrow Diesel Parts', {
    item: 'rod-shells',
    step: '0.50',
    partNumber: '41-0650',
    price: 184,
    days: 3,
  });
  c.offer('shells', 'Skerry Motor Stores', {
    item: 'rod-shells',
    step: '0.50',
    price: 149,
    currency: 'GBP',
    days: 9,
    remarks: 'old stock, box opened',
  });
  c.orderMove('shells', 'asked', { note: 'Carrow Diesel Parts' });
  c.orderMove('shells', 'ordered', { reference: 'P-2291' });
  c.orderMove('shells', 'arrived', { label: '0.50' });
  c.candidate('C', 'rod-shells', {
    name: 'came for 0.50, order P-2291',
    from: 'Carrow Diesel Parts',
    line: id('biogas-six/orderLine/shells'),
  });
  for (const n of [1, 2])
    for (const half of ['U', 'L']) {
      const came = round3(2.622 + 0.002 * wobble(`came wall ${n}${half}`));
      c.read(`R${n}${half}.C`, 'shell-wall', came.toFixed(3), came, 'mm', 'Ball micrometer 0–25');
    }
  c.order('pins', {
    need: 'grind/crankpin',
    kind: 'machineShop',
    item: 'crankpin',
    what: 'Grind undersize: crankpin K1, K2, K3, K4, K5, K6, to 0.50 (71.500 mm)',
    course: 'grind',
    places: [1, 2, 3, 4, 5, 6].map((n) => `K${n}`),
    step: '0.50',
    quantity: 6,
    supplier: 'Linden Grinding',
    price: 48,
    currency: 'EUR',
    days: 6,
    wants: [
      {
        of: 'crankpin',
        characteristic: 'crankpin-diameter',
        least: 71.49,
        most: 71.51,
        source: '',
        thumb: true,
      },
      {
        of: 'crankpin',
        characteristic: 'crankpin-out-of-round',
        least: null,
        most: 0.005,
        source: 'maker’s manual, page 4-11',
        thumb: false,
      },
    ],
    remarks: 'Not before the shells are here and right.',
  });
  c.offer('pins', 'Linden Grinding', { item: 'crankpin', course: 'grind', step: '0.50', price: 48, days: 6 });
  c.order('bolts', {
    need: 'fastener/rods',
    what: 'rod bolts, M14',
    quantity: 12,
    supplier: 'Carrow Diesel Parts',
    price: 6.8,
    currency: 'EUR',
    days: 2,
  });
  c.orderMove('bolts', 'ordered', { reference: 'P-2291' });
  c.orderMove('bolts', 'arrived');
  c.orderMove('bolts', 'checked', {
    note: 'Thread, length and grade mark compared with an old one: the same.',
  });
  c.verdict(
    'R4',
    'specialist',
    'specialist',
    'Check big-end bore and straightness before it runs again.',
    sized('rod-housing-bore', 'Big-end housing bore', 77.0503, 0.0066),
    clearance,
  );
  c.verdict(
    'R3U',
    'replace',
    'renew',
    'Shaft goes to 0.50 under; kept as evidence.',
    sized('shell-wall', 'Shell wall at the crown', 2.622, 0.0035),
  );
  c.conclude({
    cause: 'wrong-size-shell',
    place: 'R4',
    confidence: 'probable',
    fault: 'earlierWork',
    reasons:
      'Stamp, wall and journal agree with one another: standard shells on a pin 0.25 mm under. Neighbours are sound, screen clear, no step at the cap. Whoever fitted it did not measure; we cannot tell who mixed the box.',
    computedCause: 'wrong-size-shell',
    computedPlace: 'R4',
    computed: 0.998,
    computedForThis: 0.998,
  });
  c.sound('light', { load: 'light' });
  c.sound('pulling', {});
  c.sound('pulling-without-3', { cutOut: 3 });
  c.sound('pulling-without-4', { cutOut: 4 });
  c.write('biogas-six.case.json', instruments);
}

// Ran hot on the road: joint burnt between two bores, head out of flat, liners eaten from outside. Two donor blocks, liners and pistons in three
// size classes and a rebuilt head are on offer, and what to do was decided with money.
{
  const c = newCase(
    'trailer-four',
    {
      title: 'Refrigerated trailer unit, boiled over on the motorway',
      owner: 'Ostler Cold Haulage',
      engineName: 'Brindle CT-4, 2.1 l inline four diesel',
      serial: 'CT4-20933',
      hours: 11260,
      layout: {
        arrangement: 'inline',
        cylinders: 4,
        cycle: 'fourStroke',
        bearings: 'plain',
        numbering: 'alongTheCrank',
        numberOneEnd: 'driveEnd',
        rotation: 'clockwise',
        firingOrder: [1, 3, 4, 2],
        mains: null,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 3,
        ...layoutMore,
        valveGear: 'pushrod',
        camDrive: 'gears',
        fuel: 'diesel',
        feed: 'pumpAndLines',
        bores: 'wetLiner',
      },
      stroke: 86,
      rodLength: 145,
      complaint:
        'Boiled over on the motorway, driver topped it up twice. Hard to start since, white smoke, two cylinders lazy.',
      past: 'Untouched since new as far as the owner knows. Coolant never changed.',
      risks: { 'rebuilt-lately': false, overheated: true, 'coolant-neglected': true },
    },
    Date.UTC(2026, 10, 20, 9, 0),
  );
  [2950, 2160, 2010, 2900].forEach((kpa, i) =>
    c.read(`C${i + 1}`, 'compression', `${kpa / 100} bar`, kpa, 'bar', 'Compression gauge'),
  );
  c.saw('EN', 'oil-low', 1, { note: 'Just above the lower mark.' });
  c.saw('EN', 'overheated', 3, { note: 'Needle at the stop for ten minutes, says the driver.' });
  c.saw('EN', 'water-lost', 2);
  c.saw('EN', 'smoke-white', 2);
  c.step('record');
  c.step('running-tests');
  c.step('isolate');
  c.limit('crankpin-diameter', 47.978, 47.97, 47.985, 'maker’s manual, page 27');
  c.limit('shell-wall', 1.5, null, null, 'maker’s manual, page 27');
  c.limit('big-end-clearance', null, 0.03, 0.06, 'maker’s manual, page 27', 0.1);
  c.limit('bore-diameter', 92, 92, 92.03, 'maker’s manual, page 21', 92.15);
  c.limit('piston-clearance', null, 0.09, 0.12, 'maker’s manual, page 21', 0.25);
  c.limit('deck-flatness', null, null, 0.05, 'maker’s manual, page 18');
  c.limit('head-thickness', 88.8, 88.5, null, 'maker’s manual, page 18');
  for (let n = 1; n <= 4; n++) {
    c.part(`R${n}`, { mark: `${n}`, method: 'makersMark', facing: 'left' });
    c.part(`R${n}C`, { mark: `${n}`, method: 'makersMark', facing: 'left' });
    const pin = [47.974, 47.973, 47.975, 47.974][n - 1];
    shape(
      c,
      `K${n}`,
      'crankpin-diameter',
      journalEnds,
      pinWays,
      (_, way) => pin - (way === pinWays[1] ? 0.003 : 0),
      'Micrometer 50–75',
      n === 2 ? { temperature: 24, gaugeTemperature: 20 } : {},
    );
    shape(c, `R${n}`, 'rod-housing-bore', [''], rodWays, () => 51.012, 'Bore gauge 50–100');
    for (const half of ['U', 'L']) {
      c.part(`R${n}${half}`, {
        method: 'feltPen',
        gradeStamped: 'STD',
        custody: 'bag',
        where: `no. ${n}`,
        facing: 'unknown',
      });
      const wall = round3(1.496 + 0.001 * wobble(`trailer wall ${n}${half}`));
      c.read(`R${n}${half}`, 'shell-wall', wall.toFixed(3), wall, 'mm', 'Ball micrometer 0–25');
    }
    const worn = [0.062, 0.071, 0.083, 0.058][n - 1];
    const depth = [1, 0.5, 0.35, 0];
    shape(
      c,
      `C${n}`,
      'bore-diameter',
      boreLevels,
      boreWays,
      (level, way) => 92.016 + worn * depth[boreLevels.indexOf(level)] * (way === 'across' ? 1 : 0.6),
      'Bore gauge 50–100',
    );
    const skirt = round3(91.9 - 0.004 * n + 0.002 * wobble(`trailer skirt ${n}`));
    c.read(`P${n}`, 'piston-diameter', skirt.toFixed(3), skirt, 'mm', 'Micrometer 75–100');
    c.saw(`R${n}U`, 'overlay-wiped', 0);
    c.saw(`K${n}`, 'journal-scored', 0);
  }
  c.saw('H1J', 'joint-between-bores', 3, { note: 'Burnt through between 2 and 3.' });
  c.saw('H1', 'head-warped', 2);
  c.saw('H1', 'head-corroded', 1, { note: 'Round two water holes.' });
  c.read('H1', 'deck-flatness', '0.11', 0.11, 'mm', 'Bar and feelers');
  c.read('H1', 'head-thickness', '88.62', 88.62, 'mm', 'Caliper 150');
  c.read('CA', 'deck-flatness', '0.03', 0.03, 'mm', 'Bar and feelers');
  c.saw('C2L', 'liner-pinholes', 2);
  c.saw('C3L', 'liner-pinholes', 3, { note: 'Through to the O-ring groove.' });
  c.saw('C1L', 'liner-pinholes', 1);
  c.saw('C4L', 'liner-pinholes', 1);
  c.saw('CA', 'case-cracked', 0);
  c.test('CA', 'pressure-test', true, 'Hillside Head and Block', 'cold and warm, sheet 2281');
  c.candidate('B', 'block', {
    name: 'of the unit with the burnt compressor',
    from: 'Tidewell yard, row 4',
    remarks: 'Ran until the compressor went, says the yard.',
  });
  c.candidate('C', 'block', { name: 'from under the tarpaulin', from: 'Tidewell yard, row 9' });
  for (let n = 1; n <= 4; n++) {
    const bore = [92.058, 92.061, 92.055, 92.066][n - 1];
    shape(
      c,
      `C${n}.B`,
      'bore-diameter',
      boreLevels,
      boreWays,
      (l) => bore - 0.01 * boreLevels.indexOf(l),
      'Bore gauge 50–100',
    );
  }
  c.read('CA.B', 'deck-flatness', '0.04', 0.04, 'mm', 'Bar and feelers');
  c.saw('CA.C', 'case-cracked', 2, { note: 'Frost: along the water gallery, two hands long.' });
  for (const [letter, klass, size] of [
    ['E', 1, 92.005],
    ['F', 2, 92.014],
    ['H', 3, 92.025],
  ]) {
    c.candidate(letter, 'liner', { name: `liners, class ${klass}`, from: 'Carrow Diesel Parts' });
    for (let n = 1; n <= 4; n++) {
      const bore = round3(size + 0.002 * wobble(`liner ${letter}${n}`));
      c.read(`C${n}.${letter}`, 'bore-diameter', bore.toFixed(3), bore, 'mm', 'Bore gauge 50–100');
    }
  }
  for (const [letter, klass, size] of [
    ['J', 1, 91.9],
    ['K', 2, 91.91],
    ['L', 3, 91.92],
  ]) {
    c.candidate(letter, 'piston-set', { name: `pistons, class ${klass}`, from: 'Carrow Diesel Parts' });
    for (let n = 1; n <= 4; n++) {
      const skirt = round3(size + 0.002 * wobble(`class ${letter}${n}`));
      c.read(`P${n}.${letter}`, 'piston-diameter', skirt.toFixed(3), skirt, 'mm', 'Micrometer 75–100');
      const weight = Number((684 + 2 * wobble(`weight ${letter}${n}`)).toFixed(1));
      c.read(`P${n}.${letter}`, 'part-weight', weight.toFixed(1), weight, 'g', 'Scales 2 kg');
    }
  }
  for (let n = 1; n <= 4; n++) {
    const weight = Number((912 + 3 * wobble(`trailer rod ${n}`)).toFixed(1));
    c.read(`R${n}`, 'part-weight', weight.toFixed(1), weight, 'g', 'Scales 2 kg');
  }
  c.candidate('M', 'head', {
    name: 'rebuilt, with valves',
    from: 'Hillside Head and Block',
    remarks: 'Twelve months, if the old head comes back.',
  });
  c.read('H1.M', 'deck-flatness', '0.02', 0.02, 'mm', 'Bar and feelers');
  c.read('H1.M', 'head-thickness', '88.74', 88.74, 'mm', 'Caliper 150');
  const failing = [
    ['Second strip', 1450, false, true],
    ['Load of frozen goods lost', 3800, true, false],
    ['Tow to the depot', 620, true, false],
  ];
  c.option('liners', 'Liners, pistons and a rebuilt head', {
    lines: [
      ['part', 'Liners class 2 with seals', 4, 58.4, 3, 'EUR', 'bores', 'renew'],
      ['part', 'Pistons class 2 with rings', 4, 71.25, 3, 'EUR', 'pistons', 'renew'],
      ['part', 'Rebuilt head with valves', 1, 540, 5, 'GBP', 'head', 'renew'],
      ['credit', 'Old head back', 1, 110, 0, 'GBP', 'head', ''],
      ['part', 'Joints and seals', 1, 96, 2, 'EUR', 'hardware', 'renew'],
      ['part', 'Big-end shells', 1, 74, 2, 'EUR', 'big-end-shells', 'renew'],
      ['extra', 'Water pump and thermostat while it is open', 1, 128, 3, 'EUR', 'ancillaries', 'renew'],
      ['ownHours', 'Build and run', 22, 62, 0, 'EUR', '', ''],
      ['paid', 'Strip, done already', 11, 62, 0, 'EUR', '', ''],
    ],
    risks: ['rebuilt-exchange', 'new-fitting'],
    removes: ['cooling-lost', 'joint-blown', 'liner-eroded'],
    warranty: 'supplier',
    warrantyMonths: 12,
    failing,
  });
  c.option('donor', 'Donor block B with our head skimmed as far as it goes', {
    lines: [
      ['part', 'Block with bores and pistons', 1, 480, 1, 'EUR', 'lower-end', 'renew'],
      ['shopWork', 'Head skimmed to the last tenth', 1, 120, 4, 'EUR', 'head', 'skim'],
      ['part', 'Joints and seals', 1, 96, 2, 'EUR', 'hardware', 'renew'],
      ['ownHours', 'Build and run', 19, 62, 0, 'EUR', '', ''],
      ['paid', 'Strip, done already', 11, 62, 0, 'EUR', '', ''],
    ],
    risks: ['donor-unknown', 'worn-bore', 'new-fitting'],
    removes: ['cooling-lost', 'joint-blown', 'liner-eroded'],
    failing,
  });
  c.option('sell', 'Exchange engine, this one sold for parts', {
    lines: [
      ['part', 'Exchange engine', 1, 3150, 12, 'EUR', '', ''],
      ['credit', 'This one, for parts', 1, 420, 0, 'EUR', '', ''],
      ['ownHours', 'Change it over', 9, 62, 0, 'EUR', '', ''],
      ['paid', 'Strip, done already', 11, 62, 0, 'EUR', '', ''],
    ],
    risks: ['rebuilt-exchange'],
    removes: ['cooling-lost', 'joint-blown', 'liner-eroded'],
    warranty: 'supplier',
    warrantyMonths: 24,
    failing,
  });
  c.choose(
    'liners',
    'Liners, pistons and a rebuilt head',
    'Owner keeps the trailer four years more and cannot lose a load. The donor’s hours are nobody’s.',
    {
      cost: 2683.7,
      chance: 0.05,
      expected: 2816.09,
    },
  );
  // What it waits for: liners on the road, a coating that cures, a crane that is hired by the day.
  c.promise('2026-12-09', 'Ostler Cold Haulage', 'before the Christmas run');
  c.task('', {
    of: 'come/need/renew/liner',
    least: 72,
    likely: 120,
    most: 264,
    note: 'Carrow has them in a week, says the counter; two if the foundry is late.',
  });
  c.task('Case washed and painted', {
    least: 2,
    likely: 3,
    most: 5,
    dry: true,
    warmerThan: 8,
    after: ['strip/wash'],
    note: 'Outside, before anything goes in.',
  });
  c.task('Coating cures', {
    least: 48,
    likely: 48,
    most: 60,
    byItself: true,
    warmerThan: 8,
    after: [c.ownKey('Case washed and painted')],
    holds: ['back/crank-out'],
    note: 'Two days, not under 8 °C, by the sheet of what is put on.',
  });
  c.task('Crane, hired by the day', { kind: 'tool', least: 24, likely: 48, most: 120 });
  c.task('Back into the trailer', {
    least: 1.5,
    likely: 2.5,
    most: 5,
    hands: 2,
    after: ['run', c.ownKey('Crane, hired by the day')],
  });
  c.write('trailer-four.case.json', instruments);
}

// Half-way through its strip, with loose ends to find.
{
  const c = newCase(
    'pump-twin',
    {
      title: 'Portable fire pump, seized on a drill',
      owner: 'Alderbrook Volunteer Fire Brigade',
      engineName: 'Kestrow P-2, 430 cc two-stroke twin',
      serial: 'KP2-1187',
      hours: 312,
      layout: {
        arrangement: 'inline',
        cylinders: 2,
        cycle: 'twoStroke',
        bearings: 'rolling',
        numbering: 'alongTheCrank',
        numberOneEnd: 'freeEnd',
        rotation: 'clockwise',
        firingOrder: [1, 2],
        mains: 3,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 2,
        ...layoutMore,
        oilRings: 0,
        crank: 'onePiece',
        exhaustAt: 9,
      },
      stroke: 58,
      rodLength: 115,
      complaint: 'Lost power in the third minute of a drill, then stopped dead. Turned again when cold.',
      past: 'Stood two winters. Fuel mixed by whoever was there.',
      risks: {},
    },
    Date.UTC(2026, 10, 16, 8, 0),
  );
  [640, 890].forEach((kpa, i) =>
    c.read(`C${i + 1}`, 'compression', `${kpa / 100} bar`, kpa, 'bar', 'Compression gauge'),
  );
  c.step('record');
  c.step('two-stroke-tests');
  c.step('isolate');
  c.move('pump-off', 'flange', { count: 5, where: 'pump side' });
  c.move('pump-off', 'flange', { state: 'broken', note: 'stud under the drain cock, rusted through' }, 1);
  c.move('pump-off', 'flange', { state: 'soaked' }, 2);
  c.step(
    'pump-off',
    {},
    {
      overrides: [
        { lock: 'fastenersOut', of: 'flange', reason: 'Stud sheared flush; the pump slid off over it.' },
      ],
    },
  );
  c.step('recoil', { starter: 3, nut: 1 });
  c.part('HR', { method: 'none', custody: 'bench', where: '', facing: 'unknown' });
  c.part('FW', { method: 'paint', custody: 'bench', where: 'row 1', facing: 'unknown' });
  c.step('ignition', { plate: 3 });
  c.part('NT', { method: 'scratch', custody: 'box', where: 'ignition', facing: 'unknown' });
  c.step('carburettors', { nuts: 4, reed: 8 });
  c.part('AC', {
    method: 'feltPen',
    custody: 'supplier',
    where: 'Tarn Ultrasonics',
    facing: 'unknown',
    sent: '2026-11-17',
    dueBack: '2026-11-20',
    remarks: 'Both, with their link, for cleaning.',
  });
  [20, 20, 20, 35, 20, 35, 20, 20, 20, 20].forEach((length, i) =>
    c.move('exhaust', 'cover', { hole: i + 1, length, keeping: 'ownHole', where: 'card' }, i),
  );
  c.step('exhaust');
  c.stow(
    'STACK1',
    [
      ['joint, torn, kept as a pattern', 1, ''],
      ['heat shield', 1, 'flange out'],
      ['spacer, 6 mm', 1, 'chamfer to the barrel'],
      ['joint', 1, 'bead out'],
    ],
    { name: 'exhaust side, from outside in', where: 'row 2', step: 'exhaust' },
  );
  c.part('ME1', { method: 'paint', custody: 'bench', where: 'row 2', facing: 'unknown' });
  c.photo('P1', 'port-p1', 'Piston 1 through the exhaust port');
  c.photo('P2', 'port-p2', 'Piston 2 through the exhaust port');
  const seized = c.onPicture('port-p1', 'ring', [0.48, 0.52, 0.62, 0.52], 'metal carried along');
  c.saw('P1', 'intake-exhaust-scuff', 3, {
    zones: ['P8', 'P9', 'P10', 'R8', 'R9', 'R10', 'T9'],
    marks: [seized],
    note: 'Seen through the port; torn, bright metal smeared upward.',
  });
  c.saw('P2', 'intake-exhaust-scuff', 1, { zones: ['P9', 'R9'] });
  c.saw('P1', 'skirt-scuff-thrust', 0);
  c.saw('P2', 'skirt-scuff-thrust', 0);
  c.saw('P1', 'ring-blow-marks', 1);
  c.saw('P2', 'ring-blow-marks', 0);
  c.saw('H1J', 'joint-leaked', 0);
  c.step('pressure-test');
  c.step('head', { bolts: 10 });
  c.part('H1', { method: 'engraver', custody: 'bench', where: 'row 2', facing: 'freeEnd' });
  c.saw('H1', 'mating-face-scored', 1, { doneBy: 'strip', note: 'A scraper slipped getting the joint off.' });
  for (const n of [1, 2]) {
    c.photo(`P${n}`, `crown-p${n}`, `Crown ${n}, before it was touched`, 'crown-up');
    c.photo(`C${n}`, `bore-c${n}`, `Bore ${n}, exhaust side`, 'bore-wall');
    c.photo(`N${n}`, `plug-n${n}`, `Plug ${n}`, 'plugs-in-order');
  }
  c.saw('P1', 'crown-burnt', 0);
  c.saw('P2', 'crown-burnt', 0);
  c.saw('P1', 'crown-clean-edge', 2, { zones: ['A11', 'A12', 'A1'] });
  c.saw('P2', 'crown-clean-edge', 0);
  c.saw('C1', 'bore-scuffed', 2, { zones: ['C9', 'E8', 'E9', 'E10', 'F9'], note: 'Over the exhaust port.' });
  c.saw('C2', 'bore-scuffed', 0);
  c.saw('C1', 'bore-aluminium', 2, { zones: ['E9', 'F9'] });
  c.saw('C2', 'bore-aluminium', 0);
  c.saw('C1', 'bore-rust', 1, { zones: ['H3', 'H4'], note: 'A band where the rings stood for two winters.' });
  c.saw('C2', 'bore-rust', 1, { zones: ['H3', 'H4', 'H5'] });
  c.saw('N1', 'plug-hot', 2, { note: 'Chalk white.' });
  c.saw('N1', 'plug-specks', 1);
  c.saw('N2', 'plug-hot', 0);
  c.saw('N2', 'plug-specks', 0);
  c.saw('AC', 'oil-in-fuel-missing', 2, { note: 'A drop dried on paper with hardly a ring.' });
  c.saw('AC', 'jet-blocked', 0);
  c.saw('RE', 'reed-chipped', 0);
  c.saw('EN', 'power-low', 2, { note: 'In the third minute, then it stopped dead.' });
  c.saw('EN', 'locked', 1, { note: 'Turned again when cold.' });
  c.mark('turn-over', 'started');
  c.write('pump-twin.case.json', instruments);
}

// A motor-sport flat twin, stripped by the shop's own script (demo/scripts): one bank open, the case still shut.
{
  const c = newCase(
    'flat-twin',
    {
      title: 'Hill-climb twin, smoke from the left pipe',
      owner: 'Juniper Ridge Hill-Climb Club',
      engineName: 'Varn FT-2, 1.1 l flat twin',
      serial: 'FT2-0007',
      prefix: 'V7',
      hours: 38,
      layout: {
        arrangement: 'flat',
        cylinders: 2,
        cycle: 'fourStroke',
        bearings: 'plain',
        numbering: 'oddEven',
        numberOneEnd: 'freeEnd',
        rotation: 'clockwise',
        firingOrder: [1, 2],
        mains: 3,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 3,
        ...layoutMore,
        valveGear: 'pushrod',
        camDrive: 'gears',
        cooling: 'air',
        case: 'split',
        bores: 'barrel',
        reliefValves: 2,
        ownParts: [
          {
            code: 'PB',
            name: 'belt of the dry-sump pump',
            like: 'timing-belt',
            stratum: 'drive',
            mates: ['PU'],
            left: false,
          },
        ],
      },
      stroke: 78,
      rodLength: 132,
      complaint:
        'Blue smoke from the left pipe since the second run of the day; no less power that the driver felt.',
      past: 'Rings renewed by the club before the season, 38 hours ago.',
      risks: { 'rebuilt-lately': true },
    },
    Date.UTC(2026, 10, 23, 13, 0),
  );
  [1180, 1010].forEach((kpa, i) =>
    c.read(`C${i + 1}`, 'compression', `${kpa / 100} bar`, kpa, 'bar', 'Compression gauge'),
  );
  for (const [step, ticks, sets] of [
    ['record', [0, 1, 3]],
    ['running-tests', [0, 1, 2]],
    ['isolate', [0, 1]],
    ['seal', [0, 1]],
    ['drain-oil', [], { plug: 1 }],
    ['oil-filter', []],
    ['trumpets', [0, 1], { trumpets: 4 }],
    ['pump-belt', [0, 1], { tensioner: 1 }],
  ]) {
    for (const tick of ticks) c.mark(step, 'ticked', tick);
    c.step(step, sets);
    if (step === 'seal') c.sign(step);
  }
  c.saw('EN', 'oil-low', 0);
  c.part('AF', { method: 'paint', custody: 'box', where: 'intake', facing: 'unknown' });
  c.part('FT', { method: 'none', custody: 'bag', where: 'filter', facing: 'unknown' });
  c.part('PB', {
    method: 'feltPen',
    custody: 'bag',
    where: 'belt',
    facing: 'unknown',
    remarks: 'Arrow shows how it ran.',
  });
  c.write('flat-twin.case.json', instruments);
}

// The engine that a newcomer is walked through: rods off, one shell wiped, its pin not yet measured.
{
  const c = newCase(
    'first-walk',
    {
      title: 'First walk: a wash pump that knocks',
      owner: 'The shop itself',
      engineName: 'Quillet W-2, 620 cc wash pump twin',
      serial: 'W2-0001',
      hours: 14,
      layout: {
        arrangement: 'inline',
        cylinders: 2,
        cycle: 'fourStroke',
        bearings: 'plain',
        numbering: 'alongTheCrank',
        numberOneEnd: 'freeEnd',
        rotation: 'clockwise',
        firingOrder: [1, 2],
        mains: 3,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 3,
        ...layoutMore,
      },
      complaint: 'Knocks under load since it came back; the oil lamp flickers once it is warm.',
      past: 'New big-end shells 14 hours ago, by a previous shop; nobody remembers the size.',
      risks: { 'rebuilt-lately': true },
    },
    Date.UTC(2026, 10, 23, 13, 0),
  );
  c.limit('crankpin-diameter', 40, 39.975, 40, 'maker’s manual, page 12');
  c.limit('shell-wall', 1.5, null, null, 'maker’s manual, page 12');
  c.limit('big-end-clearance', null, 0.025, 0.06, 'maker’s manual, page 12');
  c.part('R1', { mark: '1' });
  c.part('R1C', { mark: '1' });
  c.part('R2', { mark: '2' });
  for (const [place, housing, upper, lower] of [
    ['R1', 43.03, 1.498, 1.499],
    ['R2', 43.031, 1.497, 1.498],
  ]) {
    rodWays.forEach((direction, i) =>
      c.read(place, 'rod-housing-bore', `${housing}`, housing, 'mm', '', i, { direction }),
    );
    c.read(`${place}U`, 'shell-wall', `${upper}`, upper, 'mm', '');
    c.read(`${place}L`, 'shell-wall', `${lower}`, lower, 'mm', '');
  }
  shape(c, 'K1', 'crankpin-diameter', journalEnds, pinWays, () => 39.986, '');
  c.write('first-walk.case.json', [], 'web/public');
}

// The sister of that pump, half-way back together: one bolt of the bed plate is left over.
{
  const c = newCase(
    'pump-together',
    {
      title: 'Harbour pump, going back together',
      owner: 'Sallow Marsh Fire Brigade',
      engineName: 'Kestrow P-2, 430 cc two-stroke twin',
      serial: 'KP2-0934',
      prefix: 'S2',
      hours: 641,
      layout: {
        arrangement: 'inline',
        cylinders: 2,
        cycle: 'twoStroke',
        bearings: 'rolling',
        numbering: 'alongTheCrank',
        numberOneEnd: 'freeEnd',
        rotation: 'clockwise',
        firingOrder: [1, 2],
        mains: 3,
        bankAngle: null,
        bankAOnTheLeft: true,
        oilFeedEnd: 'freeEnd',
        ringsPerPiston: 2,
        ...layoutMore,
        oilRings: 0,
        crank: 'onePiece',
        exhaustAt: 9,
      },
      stroke: 58,
      rodLength: 115,
      complaint: 'Low on both cylinders, sucked air at the drive end.',
      past: 'Bought second hand; nobody knows the hours before.',
      risks: {},
    },
    Date.UTC(2026, 9, 12, 8, 0),
  );
  [590, 610].forEach((kpa, i) =>
    c.read(`C${i + 1}`, 'compression', `${kpa / 100} bar`, kpa, 'bar', 'Compression gauge'),
  );
  for (const step of ['record', 'two-stroke-tests', 'isolate']) c.step(step);
  c.step('pump-off', { flange: 6 });
  c.step('recoil', { starter: 3, nut: 1 });
  c.step('ignition', { plate: 3 });
  c.step('carburettors', { nuts: 4, reed: 8 });
  [20, 20, 20, 35, 20, 35, 20, 20, 20, 20].forEach((length, i) =>
    c.move('exhaust', 'cover', { hole: i + 1, length, keeping: 'ownHole', where: 'card' }, i),
  );
  c.step('exhaust');
  c.stow(
    'STACK1',
    [
      ['heat shield', 1, 'flange out'],
      ['spacer, 6 mm', 1, 'chamfer to the barrel'],
      ['joint', 1, 'bead out'],
    ],
    { name: 'exhaust side, from outside in', where: 'row 2', step: 'exhaust' },
  );
  c.step('pressure-test');
  c.step('head', { bolts: 10 });
  c.step('turn-over');
  [40, 40, 65, 40, 40, 40, 65, 65, 40, 40, 40, 65, 40, 40].forEach((length, i) =>
    c.move('bed-plate', 'plate', { hole: i + 1, length, where: 'bag bed plate' }, i),
  );
  c.step('bed-plate');
  c.step('mark-rods');
  c.step('crank-out', { rods: 4 });
  c.step('upright-again');
  c.step('pistons');
  c.step('wash');
  for (const n of [1, 2]) {
    c.part(`R${n}`, { facing: 'left' });
    c.part(`R${n}C`, { facing: 'left' });
    c.part(`P${n}`, { method: 'makersMark', mark: 'arrow', facing: 'left' });
    c.part(`W${n}`, { method: 'feltPen', facing: 'unknown' });
  }
  c.part('CR', { method: 'makersMark', mark: 'KP2', facing: 'freeEnd' });
  c.part('H1', { facing: 'freeEnd' });
  c.part('CA', { method: 'makersMark', facing: 'freeEnd', where: 'floor' });
  const renewed = {
    'ring-set': ['P1T', 'P1N', 'P2T', 'P2N'],
    'crank-seal': ['KE1', 'KE2'],
    'head-joint': ['H1J'],
    'pin-clip': ['W1C1', 'W1C2', 'W2C1', 'W2C2'],
  };
  for (const [place, why] of [
    ...renewed['ring-set'].map((p) => [p, 'Worn to the groove; both cylinders low.']),
    ...renewed['crank-seal'].map((p) => [p, 'Hard, and it sucked air.']),
    ...['H1J', ...renewed['pin-clip']].map((p) => [p, 'Serves once.']),
  ])
    c.verdict(place, 'replace', 'renew', why);
  for (const place of (
    'P1 P2 R1 R2 R1C R2C R1E R2E W1 W2 CR H1 C1 C2 CA N1 N2 AF AC RE ME1 FW CH NT HR ' +
    'R1N R2N M1R M2R M3R K1 K2 M1 M2 M3'
  ).split(' '))
    c.verdict(place, 'reuse', 'reuse', 'Looked at and sound.');
  for (const [item, what, price, quantity = 1] of [
    ['ring-set', 'rings, two sets', 31, 2],
    ['crank-seal', 'shaft seals', 14, 2],
    ['head-joint', 'head joint', 22],
    ['pin-clip', 'pin clips', 3, 4],
  ])
    c.order(item, {
      need: `renew/${item}`,
      item,
      what,
      places: renewed[item],
      quantity,
      supplier: 'Carrow Engine Parts',
      price,
      currency: 'EUR',
    });
  c.order('rod-bolts', {
    need: 'fastener/rods',
    what: 'rod bolts, M6',
    quantity: 4,
    supplier: 'Carrow Engine Parts',
    price: 4.2,
    currency: 'EUR',
  });
  for (const line of [...Object.keys(renewed), 'rod-bolts'])
    for (const to of ['ordered', 'arrived', 'checked'])
      c.orderMove(line, to, to === 'checked' ? { note: 'Counted and looked at.' } : {});
  for (const step of ['bed-plate', 'crank-out']) c.sign(step);
  for (const of of [
    'bearing-radial-play/main',
    'bearing-radial-play/bigend',
    'deck-flatness/head',
    'deck-flatness/case',
    'rod-housing-bore/rod',
    'crank-run-out/main',
    'crank-run-out/crankpin',
    'bearing-seat-diameter/crankpin',
    'bearing-seat-diameter/main',
    'piston-diameter/piston',
    'bore-diameter/bore',
  ])
    c.task(of, {
      of: `measure/${of}`,
      mark: 'leftOut',
      note: 'Felt and looked at; inside by the sheet of the strip.',
    });
  c.limit('ring-end-gap', null, 0.2, 0.5, 'Kestrow P-2 workshop manual, page 31');
  c.limit('ring-side-clearance-top', null, 0.02, 0.1, 'Kestrow P-2 workshop manual, page 31');
  c.limit('rod-end-float', null, 0.1, 0.4, 'Kestrow P-2 workshop manual, page 43');
  c.limit('crankcase-leak', null, null, 3, 'Kestrow P-2 workshop manual, page 12');
  const line = (name) => c.lineId(name);
  const after = { phase: 'afterWork' };
  const tick = (step, ...ticks) => ticks.forEach((t) => c.act(step, 'ticked', t));
  const own = (step, place, fields = {}) => c.act(step, 'fitted', place, { tag: place, ...fields });
  const fresh = (step, item) =>
    renewed[item].forEach((place) => c.act(step, 'fitted', place, { isNew: true, line: line(item) }));
  tick(
    'add/wash-case',
    'Passages and ports clear',
    'A white cloth comes out of the bores clean',
    'Bores oiled',
  );
  c.task('wash', { of: 'add/wash-case', mark: 'through' });
  renewed['ring-set'].forEach((ring, i) => {
    const mm = [0.26, 0.27, 0.25, 0.28][i];
    c.read(ring, 'ring-end-gap', `${mm}`, mm, 'mm', 'Feeler gauge', 1, after);
  });
  for (const n of [1, 2]) c.read(`P${n}`, 'ring-side-feeler', '0.06', 0.06, 'mm', 'Feeler gauge', 1, after);
  fresh('back/pistons', 'ring-set');
  fresh('back/pistons', 'pin-clip');
  for (const n of [1, 2]) {
    own('back/pistons', `P${n}`, { facing: 'left' });
    own('back/pistons', `W${n}`);
    own('back/pistons', `R${n}E`);
  }
  tick(
    'back/pistons',
    'Each ring’s gap on its peg as the barrel went over',
    'Arrow or notch to its side',
    'Marked sides of the rings up',
    'Clips felt in their grooves',
  );
  c.task('pistons', { of: 'back/pistons', mark: 'through' });
  c.tighten('crank-out', 'rods', [[6], [null, 60]], '44', { lubricant: 'engine oil' });
  c.tighten('bed-plate', 'plate', [[10], [22]], '46', { sealant: 'thin, on the dry plate' });
  c.tighten('head', 'bolts', [[10], [20], [24]], '28');
  fresh('back/crank-out', 'crank-seal');
  for (const n of [1, 2]) {
    own('back/crank-out', `R${n}`, { facing: 'left' });
    own('back/crank-out', `R${n}C`, { facing: 'left' });
    own('back/crank-out', `R${n}N`);
    c.read(`R${n}`, 'rod-end-float', '0.22', 0.22, 'mm', 'Feeler gauge', 1, after);
  }
  for (const n of [1, 2, 3]) own('back/crank-out', `M${n}R`);
  tick(
    'back/crank-out',
    'Pressed by the ring that has the fit',
    'Lip oiled and facing what it holds back',
    'Keyway and thread covered while it went over',
    'Numbers of rod and cap on one side',
    'Turned over by hand after each rod',
  );
  c.move('crank-out', 'rods', { state: 'newIn', count: 4, line: line('rod-bolts'), keeping: 'ownHole' }, 9);
  c.act('back/crank-out', 'tightened', 'rods', { pass: 1 });
  c.act('back/crank-out', 'tightened', 'rods', { pass: 2 });
  c.task('crank', { of: 'back/crank-out', mark: 'through' });
  c.act('back/bed-plate', 'covered', 'Intake ports, with tape', {}, 'ines');
  [1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12, 13, 14].forEach((hole) =>
    c.move('bed-plate', 'plate', { state: 'backIn', hole, keeping: 'ownHole' }, 20 + hole),
  );
  c.write('pump-together.case.json', instruments);
}
