using System.Collections.Concurrent;
using System.Runtime.InteropServices;

namespace VividSleuth.Server.Casebook;

/// <summary>
/// One thread for what nobody waits for, such as working out what comes next in a case for the casebook. It yields to those that answer: on a machine that is
/// busy it has about a tenth of what they have, on one that is not all that is free.
/// </summary>
public sealed class Aside : IDisposable
{
    /// <summary>Ten below the others: each step is worth about a quarter more processor time (Linux, sched(7)).</summary>
    private const int Niceness = 10;

    private const int ThisThread = 0;

    private readonly BlockingCollection<Action> _work = [];
    private readonly Thread _thread;

    public Aside()
    {
        _thread = new Thread(Work) { IsBackground = true, Name = "aside" };
        _thread.Start();
    }

    /// <summary>Works it out there; a fault of it is that of the task.</summary>
    public Task<T> RunAsync<T>(Func<T> work)
    {
        var done = new TaskCompletionSource<T>(TaskCreationOptions.RunContinuationsAsynchronously);
        _work.Add(() =>
        {
            try
            {
                done.SetResult(work());
            }
            catch (Exception e)
            {
                done.SetException(e);
            }
        });
        return done.Task;
    }

    public void Dispose()
    {
        _work.CompleteAdding();
        _thread.Join();
        _work.Dispose();
    }

    private void Work()
    {
        if (OperatingSystem.IsLinux())
        {
            // Of this thread alone, as Linux has it. Where it is refused the thread is one like the others.
            _ = SetPriority(0, ThisThread, Niceness);
        }

        foreach (var work in _work.GetConsumingEnumerable())
        {
            work();
        }
    }

    [DllImport("libc", EntryPoint = "setpriority")]
    private static extern int SetPriority(int which, int who, int priority);
}
