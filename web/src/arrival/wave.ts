/** Rate to which a recording is brought: what a server listens to holds no more. */
const rate = 44_100;

const longest = 120;

/** Any recording that this browser can decode, as a WAV file of 16 bits with one or two channels. */
export async function asWave(file: Blob): Promise<{ wave: Blob; seconds: number; channels: number }> {
  const context = new OfflineAudioContext(2, 1, rate);
  const heard = await context.decodeAudioData(await file.arrayBuffer());
  const channels = Math.min(2, heard.numberOfChannels);
  const length = Math.min(heard.length, longest * heard.sampleRate);
  const of = Array.from({ length: channels }, (_, c) => heard.getChannelData(c));
  // Two channels that are one and the same hold no clamp.
  const two = channels === 2 && of[1]!.some((v, i) => Math.abs(v - of[0]![i]!) > 0.001) ? 2 : 1;
  return {
    wave: wave(of.slice(0, two), length, heard.sampleRate),
    seconds: length / heard.sampleRate,
    channels: two,
  };
}

/** A WAV file (RIFF, PCM of 16 bits). */
export function wave(of: readonly Float32Array[], length: number, perSecond: number): Blob {
  const data = new DataView(new ArrayBuffer(44 + length * of.length * 2));
  const word = (at: number, text: string) =>
    [...text].forEach((c, i) => data.setUint8(at + i, c.charCodeAt(0)));
  word(0, 'RIFF');
  data.setUint32(4, data.byteLength - 8, true);
  word(8, 'WAVEfmt ');
  data.setUint32(16, 16, true);
  data.setUint16(20, 1, true);
  data.setUint16(22, of.length, true);
  data.setUint32(24, perSecond, true);
  data.setUint32(28, perSecond * of.length * 2, true);
  data.setUint16(32, of.length * 2, true);
  data.setUint16(34, 16, true);
  word(36, 'data');
  data.setUint32(40, data.byteLength - 44, true);
  for (let i = 0; i < length; i++)
    for (let c = 0; c < of.length; c++)
      data.setInt16(
        44 + 2 * (i * of.length + c),
        Math.round(32_767 * Math.max(-1, Math.min(1, of[c]![i] ?? 0))),
        true,
      );
  return new Blob([data.buffer], { type: 'audio/wav' });
}
