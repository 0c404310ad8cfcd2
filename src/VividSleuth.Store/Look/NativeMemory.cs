using System.Runtime.InteropServices;

namespace VividSleuth.Store.Look;

/// <summary>What decoders take from the system’s allocator.</summary>
internal static class NativeMemory
{
    /// <summary>Blocks from this size on go back to the system as soon as they are freed. Does nothing where the C library is not GNU’s. Source: mallopt(3).</summary>
    /// <param name="bytes">At least one page.</param>
    public static void GiveBackFrom(int bytes)
    {
        const int mmapThreshold = -3;
        const int mostArenas = -8;
        try
        {
            _ = MallOpt(mmapThreshold, bytes);
            _ = MallOpt(mostArenas, 2);
        }
        catch (Exception e) when (e is DllNotFoundException or EntryPointNotFoundException)
        {
            return;
        }
    }

    [DllImport("libc", EntryPoint = "mallopt", ExactSpelling = true)]
    private static extern int MallOpt(int parameter, int value);
}
