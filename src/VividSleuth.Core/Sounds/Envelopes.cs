using System.Numerics;
using MathNet.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace VividSleuth.Core.Sounds;

/// <summary>A band of frequencies in Hz.</summary>
public sealed record Band(double From, double To)
{
    /// <summary>
    /// About an octave each, from the thump of the firing to the tick of a lash: what knocks rings where its part does, and that is known of no engine
    /// beforehand, so all are looked at.
    /// </summary>
    public static readonly IReadOnlyList<Band> All = [new(250, 700), new(700, 1500), new(1500, 3000), new(3000, 6000), new(6000, 11000)];
}

/// <summary>How loud each band is, over time: the magnitude of its analytic signal, at a rate that is enough for it.</summary>
/// <param name="Rate">Values per second.</param>
/// <param name="Of">By band.</param>
/// <param name="Low">The sound itself below the bands, where the firings are what is loudest.</param>
public sealed record Envelopes(double Rate, IReadOnlyList<Band> Bands, IReadOnlyList<float[]> Of, float[] Low)
{
    // A block and what of it is left out at either end, where the filter has not settled.
    private const int Block = 16384;

    private const int Margin = Block / 16;

    private const double EnoughRate = 5500;

    private static readonly Band Lowest = new(20, 600);

    // Of a band's edge the part over which it fades.
    private const double Fade = 0.15;

    /// <summary>
    /// The envelope is the magnitude of the analytic signal, made by leaving the negative frequencies out of the discrete Fourier transform (Marple,
    /// “Computing the discrete-time analytic signal via FFT”, IEEE Trans. Signal Processing 47, 1999), of each band by itself. It is
    /// kept at a lower rate. Blocks overlap.
    /// </summary>
    public static Envelopes From(Recording recording)
    {
        var samples = recording.Samples;
        var factor = 1;
        while (recording.Rate / (2.0 * factor) >= EnoughRate)
        {
            factor *= 2;
        }

        var rate = (double)recording.Rate / factor;
        var bands = Band.All.Where(b => b.To <= 0.48 * recording.Rate && b.To - b.From < 0.98 * rate).ToArray();
        var length = samples.Length / factor;
        var of = bands.Select(_ => new float[length]).ToArray();
        var low = new float[length];
        var small = Block / factor;
        var step = Block - (2 * Margin);
        var shares = bands.Prepend(Lowest).Select(b => Shares(Bin(b.From, recording.Rate), Bin(b.To, recording.Rate))).ToArray();
        // Two blocks to a transform: one as its real part and the next as its imaginary one.
        Parallel.For(
            0,
            (samples.Length + (2 * step) - 1) / (2 * step),
            () => (new Complex32[Block], new Complex32[small]),
            (pair, _, room) =>
            {
                var (spectrum, part) = room;
                var from = (2 * pair * step) - Margin;
                for (var i = 0; i < Block; i++)
                {
                    spectrum[i] = new Complex32(At(samples, from + i), At(samples, from + step + i));
                }

                Fourier.Forward(spectrum, FourierOptions.NoScaling);
                for (var b = -1; b < bands.Length; b++)
                {
                    var band = b < 0 ? Lowest : bands[b];
                    var first = Bin(band.From, recording.Rate);
                    for (var second = 0; second < 2; second++)
                    {
                        Array.Clear(part);
                        var share = shares[b + 1];
                        // Only the magnitude of a band is wanted, and so it is moved down; the lowest stays where it is.
                        var to = b < 0 ? first : 0;
                        for (var k = 0; k < share.Length && k + to < small; k++)
                        {
                            var (one, mirrored) = (spectrum[first + k], spectrum[Block - first - k].Conjugate());
                            part[k + to] = (second == 0 ? one + mirrored : (one - mirrored) * -Complex32.ImaginaryOne) * share[k];
                        }

                        Fourier.Inverse(part, FourierOptions.NoScaling);
                        var begin = (from + (second * step)) / factor;
                        for (var i = Margin / factor; i < small - (Margin / factor); i++)
                        {
                            var at = begin + i;
                            if (at >= 0 && at < length)
                            {
                                (b < 0 ? low : of[b])[at] = b < 0 ? part[i].Real : part[i].Magnitude;
                            }
                        }
                    }
                }

                return room;
            },
            _ => { }
        );
        return new Envelopes(rate, bands, of, low);
    }

    private static float At(float[] samples, int i) => i >= 0 && i < samples.Length ? samples[i] : 0;

    /// <summary>What of each line of a band is left: all, but for where it fades. The analytic signal’s two and the half of a pair of blocks are one.</summary>
    private static float[] Shares(int first, int last) =>
        [.. Enumerable.Range(first, last - first + 1).Select(k => (float)(Share(k, first, last) / Block))];

    private static int Bin(double hertz, int rate) => (int)Math.Round(hertz * Block / rate);

    private static double Share(int k, int first, int last)
    {
        var fade = Fade * (last - first);
        var inside = Math.Min(k - first, last - k) / fade;
        return inside >= 1 ? 1 : 0.5 * (1 - Math.Cos(Math.PI * inside));
    }
}
