import { t as tr } from '@lingui/core/macro';
import { useMutation } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { v7 } from 'uuid';
import { api, ApiProblem, unwrap, type Schemas } from '../api/client';
import { useMayWrite } from '../api/queries';
import { useCaseContext } from '../casebook/context';
import { useFileUrl } from '../outbox/useFileUrl';
import { useWrite, writes } from '../outbox/writes';
import { Addr, Trouble } from '../ui/basics';
import { saveAs } from '../ui/FileKey';
import { figure } from '../ui/figures';
import { NumberField } from '../ui/NumberField';
import { WhyForm } from '../ui/WhyForm';
import { stands } from '../ui/words';
import { CircleOfTurns, OrdersOverSpeed, OrderBars } from './HeardDrawings';
import { asWave } from './wave';

/** Nothing that is reckoned from a sound is quite sure. */
const percent = (share: number) =>
  share > 0.99 ? tr`over 99 %` : share < 0.01 ? tr`under 1 %` : tr`${figure(100 * share, '%', 0)} %`;

const beatWords: Record<Schemas['NoiseBeat'], string> = {
  none: tr`No knock stands out`,
  cycle: tr`A knock once a cycle`,
  turn: tr`A knock at every turn`,
  either: tr`A knock: once a cycle or at every turn, that cannot be told`,
  apart: tr`Something at an order of its own`,
};

type Sound = Schemas['Sound'];

/** What a recording is made under. */
type Under = Pick<Sound, 'rpm' | 'pickup' | 'cutOut' | 'where' | 'load' | 'warmth'>;

const nothingTold: Under = {
  rpm: null,
  pickup: 0,
  cutOut: 0,
  where: 'engine',
  load: 'untold',
  warmth: 'untold',
};

const loadWords: Record<Schemas['HeardLoad'], string> = {
  untold: tr`not told`,
  light: tr`running light`,
  pulls: tr`pulling`,
  overrun: tr`load off at speed`,
};

const warmthWords: Record<Schemas['HeardWarmth'], string> = {
  untold: tr`not told`,
  cold: tr`cold`,
  warm: tr`warm`,
};

const whereWords: Record<Schemas['HeardAt'], string> = {
  engine: tr`near the engine`,
  breather: tr`at the open breather`,
};

const underWords = (u: Under) =>
  [
    u.rpm == null ? '' : tr`${figure(u.rpm, 'rpm', 0)} rpm`,
    u.where === 'engine' ? '' : whereWords[u.where],
    u.load === 'untold' ? '' : loadWords[u.load],
    u.warmth === 'untold' ? '' : warmthWords[u.warmth],
    u.cutOut > 0 ? tr`cylinder ${u.cutOut} cut out` : '',
    u.pickup > 0 ? tr`clamp on cylinder ${u.pickup}` : '',
  ]
    .filter((w) => w !== '')
    .join(', ');

/** Recordings of the running engine, and what is heard in them. What was recorded is kept; a sign is written only when somebody takes it. */
export function Listen() {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const add = useWrite(engineCase.id, writes.sound);
  // Here and not in its line, which is gone while it is being taken back: what the server has against it is told.
  const takeBack = useWrite(engineCase.id, writes.takeBack);
  const [under, setUnder] = useState<Under>(nothingTold);
  const [bearing, setBearing] = useState<Bearing>({ elements: null, element: null, pitch: null });
  const [shown, setShown] = useState<string | null>(null);
  const [unread, setUnread] = useState<{ name: string; file: Blob; said: ApiProblem } | null>(null);
  const sounds = engineCase.sounds
    .filter((s) => stands(s))
    .sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
  const listen = useMutation<Schemas['ListenAnswer'], ApiProblem>({
    mutationFn: () =>
      unwrap(
        api.POST('/api/cases/{caseId}/listen', {
          params: { path: { caseId: engineCase.id } },
          body: {
            sounds: sounds.filter((s) => s.version > 0).map((s) => s.id),
            bearing:
              bearing.elements && bearing.element && bearing.pitch
                ? {
                    elements: bearing.elements,
                    element: bearing.element,
                    pitch: bearing.pitch,
                    contact: 0,
                  }
                : null,
          },
        }),
      ),
  });
  const keep = async (file: Blob, name: string) => {
    setUnread(null);
    try {
      const { wave, seconds, channels } = await asWave(file);
      await add.mutateAsync({
        id: v7(),
        seconds,
        channels,
        ...under,
        pickup: channels === 2 ? under.pickup : 0,
        file: new File([wave], `${name}.wav`, { type: 'audio/wav' }),
      });
      listen.reset();
    } catch (e) {
      // What was recorded exists nowhere else: it can at least be saved.
      const said =
        e instanceof ApiProblem
          ? e
          : new ApiProblem(422, {
              title: tr`${name} cannot be read as a sound.`,
              detail: tr`Give a WAV, Ogg, WebM, MP3 or M4A file that this browser can play.`,
            });
      setUnread({ name, file, said });
    }
  };
  if (!mayWrite && sounds.length === 0) return null;
  const of = listen.data?.heard.find((h) => h.sound === shown) ?? listen.data?.heard[0];
  const heard = of?.heard;
  const told = sounds.find((s) => s.id === of?.sound);
  return (
    <div className="space-y-3">
      <Cautions />
      {mayWrite && (
        <>
          <UnderFields under={under} onChange={setUnder} />
          <div className="flex flex-wrap items-start gap-2">
            <RecordKey onDone={(blob) => void keep(blob, tr`recording ${sounds.length + 1}`)} />
            <label className="key inline-flex cursor-pointer items-center">
              {tr`Read a sound file`}
              <input
                type="file"
                accept="audio/*"
                multiple
                className="sr-only"
                onChange={(e) => {
                  const given = [...(e.target.files ?? [])];
                  // One after the other, so that they stand in the order in which they were given.
                  void given.reduce(
                    (before, f) => before.then(() => keep(f, f.name.replace(/\.[^.]*$/, ''))),
                    Promise.resolve(),
                  );
                  e.target.value = '';
                }}
              />
            </label>
          </div>
        </>
      )}
      {unread && (
        <div>
          <Trouble problem={unread.said} />
          <button type="button" className="key" onClick={() => saveAs(unread.file, unread.name)}>
            {tr`Save it as it is`}
          </button>
        </div>
      )}
      {sounds.length > 0 && (
        <ul className="divide-y divide-line" aria-label={tr`Recordings`}>
          {sounds.map((s) => (
            <SoundLine
              key={s.id}
              sound={s}
              onChanged={() => listen.reset()}
              takeBack={(why, words) => takeBack.mutateAsync({ of: 'sounds', record: s, why, words })}
            />
          ))}
        </ul>
      )}
      <Trouble problem={takeBack.error} />
      {sounds.length > 0 && (
        <BearingFields bearing={bearing} onChange={(b) => (setBearing(b), listen.reset())} />
      )}
      {mayWrite && sounds.some((s) => s.version > 0) && !listen.data && (
        <button
          type="button"
          className="key key-go w-full text-lg"
          disabled={listen.isPending}
          onClick={() => listen.mutate()}
        >
          {listen.isPending ? tr`Listening …` : tr`Listen`}
        </button>
      )}
      <Trouble problem={listen.error} />
      {listen.data && listen.data.heard.length > 1 && (
        <div role="group" aria-label={tr`Recording that is shown`} className="flex flex-wrap gap-1.5">
          {listen.data.heard.map((h) => {
            const s = sounds.find((o) => o.id === h.sound);
            return s ? (
              <button
                key={h.sound}
                type="button"
                className="key"
                aria-pressed={of?.sound === h.sound}
                onClick={() => setShown(h.sound)}
              >
                {s.fileName.replace(/\.wav$/, '')}
                {s.cutOut > 0 && <> {tr`without ${s.cutOut}`}</>}
              </button>
            ) : null;
          })}
        </div>
      )}
      {of && !heard && <Trouble problem={new ApiProblem(422, { title: of.wrong, detail: of.do })} />}
      {heard && told && <HeardWords heard={heard} sound={told} />}
      {listen.data && listen.data.together.length > 0 && (
        <section aria-label={tr`Recordings compared`}>
          <h3 className="font-semibold">{tr`Recordings compared`}</h3>
          <Signs signs={listen.data.together} note={tr`Several recordings compared`} untitled />
        </section>
      )}
      {listen.data?.cutOut && <CutOut of={listen.data.cutOut} />}
    </div>
  );
}

interface Bearing {
  elements: number | null;
  element: number | null;
  pitch: number | null;
}

function BearingFields({ bearing, onChange }: { bearing: Bearing; onChange: (b: Bearing) => void }) {
  return (
    <details>
      <summary className="min-h-8 cursor-pointer font-semibold">{tr`A rolling bearing to listen for`}</summary>
      <div className="mt-2 flex flex-wrap gap-2">
        {(
          [
            ['elements', tr`Rolling elements`],
            ['element', tr`Their diameter, mm`],
            ['pitch', tr`Circle they run on, mm`],
          ] as const
        ).map(([field, label]) => (
          <NumberField
            key={field}
            label={label}
            value={bearing[field]}
            onChange={(v) => onChange({ ...bearing, [field]: v })}
            min={0}
            className="w-44"
          />
        ))}
      </div>
    </details>
  );
}

/** What a recording is made under: asked before, so that it is not forgotten after. */
function UnderFields({ under, onChange }: { under: Under; onChange: (u: Under) => void }) {
  const { engineCase } = useCaseContext();
  const cylinders = Array.from({ length: engineCase.layout.cylinders }, (_, i) => i + 1);
  // As somebody read it off.
  const read = engineCase.readings
    .filter((r) => stands(r) && r.characteristic === 'rated-speed' && r.unit === 'rpm')
    .at(-1);
  const choice = <K extends 'where' | 'load' | 'warmth'>(
    field: K,
    label: string,
    words: Record<Under[K], string>,
  ) => (
    <label className="block">
      <span className="label">{label}</span>
      <select
        className="entry w-full"
        value={under[field]}
        onChange={(e) => onChange({ ...under, [field]: e.target.value as Under[K] })}
      >
        {(Object.keys(words) as Under[K][]).map((k) => (
          <option key={k} value={k}>
            {words[k]}
          </option>
        ))}
      </select>
    </label>
  );
  const cylinder = (field: 'pickup' | 'cutOut', label: string, none: string) => (
    <label className="block">
      <span className="label">{label}</span>
      <select
        className="entry w-full"
        value={under[field]}
        onChange={(e) => onChange({ ...under, [field]: Number(e.target.value) })}
      >
        <option value={0}>{none}</option>
        {cylinders.map((c) => (
          <option key={c} value={c}>{tr`cylinder ${c}`}</option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      <NumberField
        label={tr`Speed, rpm, if known`}
        value={under.rpm}
        onChange={(rpm) => onChange({ ...under, rpm })}
        min={250}
        max={9000}
      />
      {read && under.rpm !== read.value ? (
        <button
          type="button"
          className="key"
          onClick={() => onChange({ ...under, rpm: read.value })}
        >{tr`${figure(read.value, 'rpm', 0)} rpm, as read`}</button>
      ) : (
        <span />
      )}
      {choice('load', tr`Load`, loadWords)}
      {choice('warmth', tr`Cold or warm`, warmthWords)}
      {cylinder('cutOut', tr`Cut out`, tr`none, all run`)}
      {choice('where', tr`Microphone`, whereWords)}
      {cylinder('pickup', tr`Clamp on the second channel`, tr`none`)}
    </div>
  );
}

function SoundLine({
  sound,
  onChanged,
  takeBack,
}: {
  sound: Sound;
  onChanged: () => void;
  takeBack: (why: string, words: string) => Promise<unknown>;
}) {
  const { engineCase } = useCaseContext();
  const mayWrite = useMayWrite();
  const [opened, setOpened] = useState<'' | 'hear' | 'change' | 'back'>('');
  const [under, setUnder] = useState<Under>(sound);
  const url = useFileUrl(engineCase.id, sound, `/api/cases/${engineCase.id}/sounds/${sound.id}/wave`);
  const change = useWrite(engineCase.id, writes.soundChange);
  const name = sound.fileName.replace(/\.wav$/, '');
  const flip = (to: typeof opened) => setOpened(opened === to ? '' : to);
  return (
    <li className="py-2">
      <div className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">
          <b>{name}</b>{' '}
          <span className="text-soft">
            {[tr`${figure(sound.seconds, 's', 0)} s`, underWords(sound)].filter((w) => w !== '').join(', ')}
          </span>
          {sound.version === 0 && <span className="text-soft"> · {tr`waits on this device`}</span>}
        </span>
        <button type="button" className="key" aria-pressed={opened === 'hear'} onClick={() => flip('hear')}>
          {tr`Hear it`}
        </button>
        {mayWrite && (
          <>
            <button
              type="button"
              className="key"
              aria-pressed={opened === 'change'}
              disabled={sound.version === 0}
              onClick={() => {
                setUnder(sound);
                flip('change');
              }}
            >
              {tr`Correct`}
            </button>
            <button
              type="button"
              className="key border-transparent px-2"
              aria-label={tr`Take ${name} back`}
              onClick={() => flip('back')}
            >
              ✕
            </button>
          </>
        )}
      </div>
      {/* What is heard is an engine and no speech. */}
      {opened === 'hear' && <audio controls autoPlay className="mt-2 w-full" src={url} aria-label={name} />}
      {opened === 'change' && (
        <div className="mt-2 space-y-2">
          <UnderFields under={under} onChange={setUnder} />
          <button
            type="button"
            className="key key-go"
            disabled={change.isPending}
            onClick={() =>
              change.mutate(
                {
                  of: sound.id,
                  rpm: under.rpm,
                  pickup: under.pickup,
                  cutOut: under.cutOut,
                  where: under.where,
                  load: under.load,
                  warmth: under.warmth,
                  version: sound.version,
                },
                {
                  onSuccess: () => {
                    setOpened('');
                    onChanged();
                  },
                },
              )
            }
          >
            {tr`Save`}
          </button>
          <Trouble problem={change.error} />
        </div>
      )}
      {opened === 'back' && (
        <WhyForm
          press={tr`Take the recording back`}
          send={(why) => takeBack(why, tr`recording ${name}`).then(onChanged)}
        />
      )}
    </li>
  );
}

function Cautions() {
  return (
    <ul className="list-disc rounded-lg bg-brass-tint py-2 pr-3 pl-7 text-sm">
      <li>{tr`The maker’s manual first; whoever is not trained on it does not run or cut out this engine.`}</li>
      <li>{tr`Ears protected. Hands, hair, sleeves and leads away from belt, fan and shaft.`}</li>
      <li>{tr`Exhaust gas led outside. Stop at once when it knocks hard or the oil pressure falls.`}</li>
      <li>
        {tr`Injection lines stand under a pressure that goes through skin: never loosen one of a common rail while it runs. Ignition leads only with the maker’s tool.`}
      </li>
    </ul>
  );
}

function RecordKey({ onDone }: { onDone: (blob: Blob) => void }) {
  const recorder = useRef<MediaRecorder | null>(null);
  const [since, setSince] = useState<number | null>(null);
  const [seconds, setSeconds] = useState(0);
  const [refused, setRefused] = useState(false);
  useEffect(() => {
    if (since === null) return;
    const tick = setInterval(() => setSeconds(Math.round((Date.now() - since) / 1000)), 250);
    return () => clearInterval(tick);
  }, [since]);
  // Whoever leaves the page leaves the microphone.
  useEffect(() => () => recorder.current?.stream.getTracks().forEach((t) => t.stop()), []);
  const start = async () => {
    setRefused(false);
    try {
      // What a telephone does to speech would take a knock for noise.
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      });
      const parts: Blob[] = [];
      const made = new MediaRecorder(stream);
      made.ondataavailable = (e) => parts.push(e.data);
      made.onstop = () => {
        stream.getTracks().forEach((t) => t.stop());
        setSince(null);
        onDone(new Blob(parts, { type: made.mimeType }));
      };
      made.start();
      recorder.current = made;
      setSeconds(0);
      setSince(Date.now());
    } catch {
      setRefused(true);
    }
  };
  return (
    <div>
      <button
        type="button"
        className="key"
        aria-pressed={since !== null}
        onClick={() => (since === null ? void start() : recorder.current?.stop())}
      >
        {since === null ? tr`Record` : tr`Stop after ${seconds} s`}
      </button>
      {refused && (
        <p role="alert" className="mt-1 text-sm text-lead">
          {tr`The microphone is not allowed or not there. Allow it in the browser, or read a file.`}
        </p>
      )}
    </div>
  );
}

function HeardWords({ heard, sound }: { heard: Schemas['HeardView']; sound: Sound }) {
  const whose =
    heard.whose.length === 1
      ? tr`likeliest of cylinder ${heard.whose[0]!}`
      : heard.whose.length > 1
        ? tr`of cylinder ${heard.whose.join(tr` or `)}`
        : null;
  return (
    <section aria-label={tr`What was heard`} className="space-y-3">
      <p className="text-lg">
        <b>{beatWord(heard, sound)}</b>
        {whose && <>, {whose}</>}
        {heard.beat !== 'none' && heard.beat !== 'either' && (
          <> ({tr`${percent(heard.chance)} sure of the rhythm`})</>
        )}
      </p>
      <p className="text-soft">
        {tr`${figure(heard.rpm, 'rpm', 0)} rpm over ${heard.cycles} cycles`}
        {heard.rival != null && ` (${tr`or ${figure(heard.rival, 'rpm', 0)} rpm`})`}
      </p>
      {heard.says.length > 0 && (
        <ul className="list-disc pl-5">
          {heard.says.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      )}
      <div className="space-y-3">
        <CircleOfTurns heard={heard} />
        <div className="space-y-3">
          <OrderBars heard={heard} />
          <OrdersOverSpeed heard={heard} />
        </div>
      </div>
      {heard.lines.length > 0 && (
        <ul className="text-sm">
          {heard.lines.map((l) => (
            <li key={l.order}>
              {tr`Order ${figure(l.order, '', 2)}`}
              {l.name ? `: ${l.name}` : ''}
            </li>
          ))}
        </ul>
      )}
      <Signs signs={heard.signs} note={noteOf(heard, sound)} />
    </section>
  );
}

/** What was heard as signs: each is a hint, and somebody takes it or does not. */
function Signs({
  signs,
  note,
  untitled = false,
}: {
  signs: Schemas['SoundSign'][];
  note: string;
  untitled?: boolean;
}) {
  const { engineCase, knowledge } = useCaseContext();
  const add = useWrite(engineCase.id, writes.finding);
  const [taken, setTaken] = useState<string[]>([]);
  if (signs.length === 0) return null;
  return (
    <div>
      {!untitled && <h3 className="font-semibold">{tr`May be taken as a sign`}</h3>}
      <p className="text-sm text-soft">{tr`Hints: two noises may share a rhythm. Trace weighs each by its chance.`}</p>
      <ul className="divide-y divide-line">
        {signs.map((s) => {
          const sign = knowledge.signs.find((k) => k.id === s.sign);
          if (!sign) return null;
          const name = sign.name;
          const key = `${s.sign} ${s.place}`;
          return (
            <li key={key} className="flex flex-wrap items-center gap-2 py-2">
              <span className="min-w-0 flex-1">
                <b>
                  {s.level > 0 ? name : sign.on.includes('engine') ? tr`${name}: not heard` : tr`${name}: no`}
                </b>{' '}
                {!sign.on.includes('engine') && <Addr code={s.place} />}{' '}
                <span className="text-soft">
                  <span className="whitespace-nowrap">{percent(s.chance)}</span>, {s.why}
                </span>
              </span>
              <button
                type="button"
                className="key"
                disabled={add.isPending || taken.includes(key)}
                onClick={() =>
                  add.mutate(
                    {
                      body: {
                        place: s.place,
                        sign: s.sign,
                        seen: s.level > 0 ? 'present' : 'absent',
                        level: s.level,
                        spot: '',
                        note,
                        zones: [],
                        marks: [],
                        doneBy: 'running',
                        felt: false,
                        chance: s.chance,
                      },
                      words: name,
                    },
                    { onSuccess: () => setTaken((before) => [...before, key]) },
                  )
                }
              >
                {taken.includes(key) ? tr`Taken` : tr`Take it`}
              </button>
            </li>
          );
        })}
      </ul>
      <Trouble problem={add.error} />
    </div>
  );
}

const beatWord = (heard: Schemas['HeardView'], sound: Sound) =>
  sound.where === 'breather' && heard.beat === 'cycle'
    ? tr`A puff once a cycle`
    : sound.where === 'breather' && heard.beat === 'none'
      ? tr`No puff stands out`
      : beatWords[heard.beat];

const noteOf = (heard: Schemas['HeardView'], sound: Sound) =>
  [
    beatWord(heard, sound),
    underWords(sound),
    tr`${figure(heard.rpm, 'rpm', 0)} rpm over ${heard.cycles} cycles`,
    heard.whose.length > 0 ? tr`cylinder ${heard.whose.join(tr` or `)}` : '',
  ]
    .filter((w) => w !== '')
    .join('; ');

function CutOut({ of }: { of: Schemas['CutOutView'] }) {
  return (
    <section aria-label={tr`Cut-out test`}>
      <h3 className="font-semibold">{tr`Cut-out test`}</h3>
      {of.says ? (
        <p>{of.says}</p>
      ) : (
        <>
          <p className="text-lg">
            {of.whose != null
              ? tr`With cylinder ${of.whose} silent the knock goes: it is likely its own.`
              : tr`No one cylinder takes the knock away clearly enough to be named.`}
          </p>
          <table className="mt-1 w-full text-left [&_td]:border-t [&_td]:border-line [&_td]:py-1 [&_td]:pr-3 [&_th]:pr-3 [&_th]:align-bottom [&_th]:font-semibold">
            <thead>
              <tr>
                <th>{tr`Cut out`}</th>
                <th>{tr`Left of the knock`}</th>
                <th>{tr`Chance that it is this one`}</th>
              </tr>
            </thead>
            <tbody>
              {of.results.map((r) => (
                <tr key={r.cylinder}>
                  <td>{r.cylinder}</td>
                  <td className="whitespace-nowrap">
                    {tr`${figure(100 * r.left, '%', 0)} % ± ${figure(200 * r.standard, '%', 0)} %`}
                  </td>
                  <td className="whitespace-nowrap">{percent(r.chance)}</td>
                </tr>
              ))}
              <tr>
                <td colSpan={2}>{tr`another or none`}</td>
                <td className="whitespace-nowrap">{percent(of.elsewhere)}</td>
              </tr>
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
