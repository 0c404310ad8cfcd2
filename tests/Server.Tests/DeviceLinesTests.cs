using System.IO.Pipelines;
using System.Text;

namespace VividSleuth.Server.Tests;

/// <summary>What a device sends comes in pieces of any size, and need never end a line.</summary>
public sealed class DeviceLinesTests
{
    private readonly Pipe _pipe = new();

    private ValueTask<FlushResult> Send(string text) => _pipe.Writer.WriteAsync(Encoding.UTF8.GetBytes(text), TestContext.Current.CancellationToken);

    private DeviceLines Lines(double seconds = 60) => new(_pipe.Reader.AsStream(), 8, TimeSpan.FromSeconds(seconds));

    [Fact]
    public async Task A_line_is_put_together_from_pieces_and_several_are_taken_from_one()
    {
        var lines = Lines();
        await Send("53,");
        var first = lines.ReadAsync(TestContext.Current.CancellationToken);
        await Send("24 µ\r\n1\n\n2");
        (await first).ShouldBe("53,24 µ");
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBe("1");
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBe("");
        await _pipe.Writer.CompleteAsync();
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBe("2");
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBeNull();
    }

    [Theory]
    [InlineData(1)]
    [InlineData(100)]
    public async Task A_line_beyond_the_longest_is_cut_and_the_next_one_is_whole(int piece)
    {
        var lines = Lines();
        var sent = Task.Run(async () =>
        {
            foreach (var part in ("abcdefghijklmnop\n" + "next\n").Chunk(piece))
            {
                await Send(new string(part));
            }
        });
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBe("abcdefghi");
        (await lines.ReadAsync(TestContext.Current.CancellationToken)).ShouldBe("next");
        await sent;
    }

    [Fact]
    public async Task A_device_that_says_nothing_is_given_up()
    {
        var lines = Lines(seconds: 0.01);
        await Should.ThrowAsync<TimeoutException>(() => lines.ReadAsync(TestContext.Current.CancellationToken));
    }
}
