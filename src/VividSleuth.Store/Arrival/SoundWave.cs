using NAudio.Wave;
using VividSleuth.Core;
using VividSleuth.Core.Sounds;

namespace VividSleuth.Store.Arrival;

/// <summary>Recordings as files: WAV, which every browser can decode any other format to.</summary>
public static class SoundWave
{
    public const long MostBytes = 40L * 1024 * 1024;

    private const int MostRate = 192_000;

    // At one time, as a minute of it takes a core or two for a second.
    private static readonly SemaphoreSlim One = new(1);

    /// <summary>Listens to it behind whatever else is listened to.</summary>
    /// <exception cref="ProblemException">The file is none, or what it holds cannot be listened to.</exception>
    public static async Task<T> ReckonAsync<T>(Func<T> reckon, CancellationToken cancel)
    {
        await One.WaitAsync(cancel);
        try
        {
            return await Task.Run(reckon, cancel);
        }
        finally
        {
            One.Release();
        }
    }

    /// <summary>The first channel, and the second as the one of the clamp.</summary>
    /// <exception cref="ProblemException">It is no WAV file, of more than two channels, too long or cut off.</exception>
    public static Recording Read(byte[] file)
    {
        if (file.Length > MostBytes)
        {
            throw new ProblemException(Problem.Of("file", "server.sound-too-large", ("most", MostBytes / 1024 / 1024)));
        }

        try
        {
            using var reader = new WaveFileReader(new MemoryStream(file, writable: false));
            var format = reader.WaveFormat;
            if (format.Channels is < 1 or > 2 || format.SampleRate is < 1 or > MostRate)
            {
                throw new ProblemException(Problem.Of("file", "server.no-sound"));
            }

            var most = (int)Math.Min(reader.SampleCount, (long)Recording.Longest * format.SampleRate);
            var all = new float[most * format.Channels];
            var provider = reader.ToSampleProvider();
            var got = 0;
            for (var n = 1; n > 0 && got < all.Length; got += n)
            {
                n = provider.Read(all, got, all.Length - got);
            }

            var frames = got / format.Channels;
            var (first, second) = (new float[frames], format.Channels == 2 ? new float[frames] : null);
            for (var i = 0; i < frames; i++)
            {
                first[i] = Finite(all[i * format.Channels]);
                if (second is not null)
                {
                    second[i] = Finite(all[(2 * i) + 1]);
                }
            }

            return new Recording(first, format.SampleRate, second);
        }
        catch (Exception e)
            when (e
                    is FormatException
                        or EndOfStreamException
                        or InvalidDataException
                        or ArgumentException
                        or InvalidOperationException
                        or NotSupportedException
                        or OverflowException
                        or IndexOutOfRangeException
            )
        {
            throw new ProblemException(Problem.Of("file", "server.no-sound"));
        }
    }

    /// <summary>A WAV file of 16 bits.</summary>
    public static byte[] Write(Recording recording)
    {
        using var stream = new MemoryStream();
        using (var writer = new WaveFileWriter(stream, new WaveFormat(recording.Rate, 16, recording.Pickup is null ? 1 : 2)))
        {
            for (var i = 0; i < recording.Samples.Length; i++)
            {
                writer.WriteSample(recording.Samples[i]);
                if (recording.Pickup is { } pickup)
                {
                    writer.WriteSample(pickup[i]);
                }
            }
        }

        return stream.ToArray();
    }

    private static float Finite(float v) => float.IsFinite(v) ? Math.Clamp(v, -1, 1) : 0;
}
