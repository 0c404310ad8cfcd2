using NetVips;
using VividSleuth.Core;
using VividSleuth.Core.Pictures;

namespace VividSleuth.Store.Look;

/// <summary>Opens pictures to be measured: upright and grey. One at a time, beside those that come in, which never wait for it.</summary>
public static class PictureRaster
{
    /// <summary>A larger picture is measured at half its size: what is left shows more than the lens does.</summary>
    private const long MostPixels = 16_000_000;

    private const int MostWaiting = 8;

    private static readonly SemaphoreSlim One = new(1);
    private static int _waiting;

    /// <summary>What is reckoned from pictures, one reckoning at a time.</summary>
    /// <exception cref="BusyException">Too many wait already.</exception>
    public static async Task<T> ReckonAsync<T>(IReadOnlyList<byte[]> files, Func<IReadOnlyList<Raster>, T> of, CancellationToken cancel)
    {
        if (Interlocked.Increment(ref _waiting) > MostWaiting)
        {
            Interlocked.Decrement(ref _waiting);
            throw new BusyException();
        }

        try
        {
            await One.WaitAsync(cancel);
            try
            {
                return await Task.Run(() => of([.. files.Select(Of)]), cancel);
            }
            finally
            {
                One.Release();
            }
        }
        finally
        {
            Interlocked.Decrement(ref _waiting);
        }
    }

    /// <param name="file">A picture that was taken in, so one that can be read.</param>
    public static Raster Of(byte[] file)
    {
        using var image = Upright(file, out _);
        return ToRaster(image);
    }

    /// <summary>A frame of a camera on its way, small; null where it is no picture.</summary>
    public static Raster? Frame(byte[] file)
    {
        // It comes from a browser, as a JPEG; nothing else is decoded here.
        if (file is not [0xFF, 0xD8, ..])
        {
            return null;
        }

        try
        {
            using var image = Image.NewFromBuffer(file, access: Enums.Access.Sequential, failOn: Enums.FailOn.Error);
            if ((long)image.Width * image.Height > 2_000_000)
            {
                return null;
            }

            using var grey = image.Colourspace(Enums.Interpretation.Bw);
            using var one = grey.Bands > 1 ? grey.ExtractBand(0) : grey.Copy();
            return ToRaster(one);
        }
        catch (VipsException)
        {
            return null;
        }
    }

    /// <summary>A drawn picture as a camera would hand it over: a JPEG of good quality.</summary>
    public static byte[] ToJpeg(Raster picture)
    {
        var bytes = new byte[picture.Light.Length];
        for (var n = 0; n < bytes.Length; n++)
        {
            bytes[n] = (byte)Math.Clamp(Math.Round(255 * picture.Light[n]), 0, 255);
        }

        using var image = Image.NewFromMemory(bytes, picture.Width, picture.Height, 1, Enums.BandFormat.Uchar);
        return image.JpegsaveBuffer(q: 92);
    }

    private static Image Upright(byte[] file, out int shrunk)
    {
        using var head = Image.NewFromBuffer(file);
        var pixels = (long)head.Width * head.Height;
        shrunk = pixels > MostPixels ? 2 : 1;
        using var turned = head.Autorot();
        using var sized = shrunk > 1 ? turned.Shrink(shrunk, shrunk) : turned.Copy();
        using var flat = sized.HasAlpha() ? sized.Flatten(background: [255]) : sized.Copy();
        using var grey = flat.Colourspace(Enums.Interpretation.Bw);
        using var one = grey.Bands > 1 ? grey.ExtractBand(0) : grey.Copy();
        return one.Cast(Enums.BandFormat.Uchar);
    }

    private static Raster ToRaster(Image grey)
    {
        using var bytes = grey.Cast(Enums.BandFormat.Uchar);
        var data = bytes.WriteToMemory<byte>();
        var light = new float[data.Length];
        for (var n = 0; n < light.Length; n++)
        {
            light[n] = data[n] / 255f;
        }

        return new Raster(bytes.Width, bytes.Height, light);
    }
}
