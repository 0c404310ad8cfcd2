using System.Collections.Concurrent;
using System.Text.Json.Nodes;

namespace VividSleuth.Chaos;

internal enum Fate
{
    /// <summary>Sent, and not answered yet.</summary>
    Open,

    /// <summary>The server has said that it is written.</summary>
    Written,

    /// <summary>The server has said that it is not written, because the numbering was another; whoever entered it was told.</summary>
    Refused,
}

/// <summary>One thing that a person entered, and what the server said of it.</summary>
internal sealed class Entered
{
    public required Guid Id { get; init; }

    /// <summary>List of the case that it is to be found in, or “lessons”.</summary>
    public required string List { get; init; }

    public required string By { get; init; }

    public Guid Case { get; init; }

    /// <summary>Address as it was typed.</summary>
    public string Place { get; init; } = "";

    /// <summary>Changes of numbering that the typed address is after.</summary>
    public int Numbering { get; init; }

    /// <summary>Sum of a picture's file.</summary>
    public string Sha256 { get; init; } = "";

    public Fate Fate { get; set; }

    public int Attempts { get; set; }

    /// <summary>Who took it back, once the server has said that it is taken back.</summary>
    public string? TakenBackBy { get; set; }
}

/// <summary>All that was entered, and how it stands against what the server has.</summary>
internal sealed class Ledger
{
    public ConcurrentQueue<Entered> All { get; } = [];

    public ConcurrentQueue<string> Faults { get; } = [];

    private readonly ConcurrentDictionary<string, int> _answers = new(StringComparer.Ordinal);

    /// <summary>How often a request ended in what way.</summary>
    public string Answers => string.Join(", ", _answers.OrderBy(a => a.Key, StringComparer.Ordinal).Select(a => $"{a.Key}: {a.Value}"));

    public void Count(string answer) => _answers.AddOrUpdate(answer, 1, (_, n) => n + 1);

    /// <summary>What an instance says of a case must be what was acknowledged: once each, in its place, under its name.</summary>
    public async Task CompareAsync(HttpClient client, Guid caseId)
    {
        var record = JsonNode.Parse(await client.GetStringAsync($"/api/cases/{caseId}"))!;
        var turns = record["renumberings"]!.AsArray().Count;
        foreach (var list in new[] { "findings", "photos", "debris" })
        {
            var there = record[list]!.AsArray().GroupBy(r => r!["id"]!.GetValue<Guid>()).ToDictionary(g => g.Key, g => g.ToArray());
            var entered = All.Where(e => e.Case == caseId && e.List == list).ToDictionary(e => e.Id);
            foreach (var stranger in there.Keys.Except(entered.Keys))
            {
                Faults.Enqueue($"{list} {stranger} is there and nobody entered it.");
            }

            foreach (var e in entered.Values)
            {
                var found = there.GetValueOrDefault(e.Id, []);
                if (found.Length != (e.Fate == Fate.Refused ? 0 : 1))
                {
                    Faults.Enqueue($"{list} {e.Id} ({e.Fate}, {e.Attempts} attempts) is there {found.Length} times.");
                    continue;
                }

                if (found is not [{ } stands])
                {
                    continue;
                }

                var place = Turned(e.Place, turns - e.Numbering);
                Expect(e, "place", stands["place"]!.ToString(), place);
                Expect(e, "by", stands["by"]!.ToString(), e.By);
                Expect(e, "withdrawnBy", stands["withdrawnBy"]?.ToString() ?? "", e.TakenBackBy ?? "");
                if (list == "photos")
                {
                    Expect(e, "sha256", stands["sha256"]!.ToString(), e.Sha256);
                }
            }
        }
    }

    /// <summary>
    /// What two tabs of one browser entered: of each place as many findings under a name as were seen to be kept there, and no more than were tried.
    /// </summary>
    public async Task CompareTabsAsync(HttpClient client, Guid caseId, string file)
    {
        var told = JsonNode.Parse(await File.ReadAllTextAsync(file))!;
        foreach (var problem in told["problems"]!.AsArray())
        {
            Faults.Enqueue($"Tabs: {problem}");
        }

        var entered = told["entries"]!.AsArray().ToLookup(e => $"{e!["place"]} by {e["by"]}", e => e!["kept"]!.GetValue<bool>());
        var there = JsonNode.Parse(await client.GetStringAsync($"/api/cases/{caseId}"))!["findings"]!
            .AsArray()
            .ToLookup(f => $"{f!["place"]} by {f["by"]}");
        foreach (var key in entered.Select(e => e.Key).Union(there.Select(t => t.Key)))
        {
            var (least, most, found) = (entered[key].Count(kept => kept), entered[key].Count(), there[key].Count());
            if (found < least || found > most)
            {
                Faults.Enqueue($"Tabs: at {key} are {found} findings; {least} were seen to be kept, of {most}.");
            }
        }
    }

    public async Task CompareLessonsAsync(HttpClient client)
    {
        var there = JsonNode
            .Parse(await client.GetStringAsync("/api/lessons?script=pushrod-v8"))!
            .AsArray()
            .GroupBy(l => l!["id"]!.GetValue<Guid>())
            .ToDictionary(g => g.Key, g => g.ToArray());
        foreach (var e in All.Where(e => e.List == "lessons"))
        {
            var found = there.GetValueOrDefault(e.Id, []);
            if (found is not [{ } stands])
            {
                Faults.Enqueue($"lesson {e.Id} ({e.Attempts} attempts) is there {found.Length} times.");
                continue;
            }

            Expect(e, "by", stands["by"]!.ToString(), e.By);
        }
    }

    /// <summary>Number one at the other end: the first of six is the last, and so is its cap.</summary>
    private static string Turned(string place, int turns) => turns % 2 == 0 ? place : $"{place[0]}{7 - (place[1] - '0')}{place[2..]}";

    private void Expect(Entered e, string field, string there, string wanted)
    {
        if (there != wanted)
        {
            Faults.Enqueue($"{e.List} {e.Id} ({e.Attempts} attempts): {field} is {there} and should be {wanted}.");
        }
    }
}
