using System.Reflection;
using NetArchTest.Rules;
using VividSleuth.Core.Casebook;

namespace VividSleuth.Core.Tests;

/// <summary>The floors of the core: an arrow never points up, and of the rooms a later one may use an earlier one’s answer.</summary>
public sealed class FloorTests
{
    private const string Root = "VividSleuth.Core";

    /// <summary>From the ground up; each may use those before it.</summary>
    private static readonly string[] Floors =
    [
        "Measures",
        "Pictures",
        "Engines",
        "Sounds",
        "Knowledge",
        "Arrival",
        "Strip",
        "Index",
        "Look",
        "Gauge",
        "Trace",
        "Verdict",
        "Build",
        "Dossier",
        "Casebook",
        "Shop",
    ];

    private static readonly Assembly Core = typeof(EngineCase).Assembly;

    public static TheoryData<string> Names() => [.. Floors];

    [Theory]
    [MemberData(nameof(Names))]
    public void No_floor_uses_one_above_it(string floor)
    {
        var above = Floors.SkipWhile(f => f != floor).Skip(1).Select(f => $"{Root}.{f}").ToArray();
        if (above.Length == 0)
        {
            floor.ShouldBe(Floors[^1]);
            return;
        }

        var result = Types.InAssembly(Core).That().ResideInNamespace($"{Root}.{floor}").ShouldNot().HaveDependencyOnAny(above).GetResult();
        result.FailingTypeNames.ShouldBeEmptyOrNull();
    }

    [Fact]
    public void Every_type_stands_on_a_floor_and_none_does_input_or_output()
    {
        var strays = Core.GetTypes()
            .Where(t => t.Namespace?.StartsWith(Root, StringComparison.Ordinal) == true && t.Namespace != Root)
            .Select(t => t.Namespace![(Root.Length + 1)..])
            .Distinct()
            .Except(Floors);
        strays.ShouldBeEmpty();
        Core.GetTypes().Count(t => t is { Namespace: Root, IsPublic: true }).ShouldBeLessThan(9, "the root holds only what every floor needs");
        string[] outside = ["Microsoft.EntityFrameworkCore", "Microsoft.AspNetCore", "Npgsql", "System.Net", "System.IO.File", "System.IO.Directory"];
        Types.InAssembly(Core).ShouldNot().HaveDependencyOnAny(outside).GetResult().FailingTypeNames.ShouldBeEmptyOrNull();
    }

    /// <summary>The check can fail: what looks down from the top is found.</summary>
    [Fact]
    public void An_arrow_that_points_up_is_seen() =>
        Types
            .InAssembly(Core)
            .That()
            .ResideInNamespace($"{Root}.Casebook")
            .ShouldNot()
            .HaveDependencyOnAny($"{Root}.Gauge")
            .GetResult()
            .IsSuccessful.ShouldBeFalse();

    [Fact]
    public void Files_lie_in_the_folder_of_their_floor()
    {
        var source = Path.Combine(Start.Root(), "src", Root);
        var files = Directory
            .EnumerateFiles(source, "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains("/obj/") && !f.Contains("/bin/"))
            .ToArray();
        files.ShouldNotBeEmpty();
        foreach (var file in files)
        {
            var folder = Path.GetRelativePath(source, Path.GetDirectoryName(file)!).Replace('/', '.');
            File.ReadAllText(file).ShouldContain($"namespace {(folder == "." ? Root : $"{Root}.{folder}")};");
        }
    }
}

internal static class ShouldlyMore
{
    public static void ShouldBeEmptyOrNull(this IEnumerable<string>? names) => (names ?? []).ShouldBeEmpty();
}
