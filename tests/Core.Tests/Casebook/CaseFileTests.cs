using System.Text.Json.Nodes;
using VividSleuth.Cli;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Tests.Casebook;

public sealed class CaseFileTests
{
    private static readonly string Six = Path.Combine(Start.Root(), "demo/cases/biogas-six.case.json");

    [Fact]
    public void A_file_read_and_written_is_the_same()
    {
        var text = CaseFile.FromJson(File.ReadAllText(Six)).ToJson();
        CaseFile.FromJson(text).ToJson().ShouldBe(text);
        JsonNode.DeepEquals(JsonNode.Parse(text), JsonNode.Parse(File.ReadAllText(Six))).ShouldBeTrue();
    }

    [Fact]
    public void Fresh_ids_keep_everything_apart_and_every_link_whole()
    {
        var old = CaseFile.FromJson(File.ReadAllText(Six));
        old.Case.Readings[1].Corrects = old.Case.Readings[0].Id;
        var copy = CaseFile.FromJson(old.ToJson()).WithIdsOf(Guid.CreateVersion7());
        copy.Case.ImportedFrom.ShouldBe(old.Case.Id);
        copy.Case.Findings.Select(f => f.Id).Intersect(old.Case.Findings.Select(f => f.Id)).ShouldBeEmpty();
        copy.Case.Findings.ShouldAllOfSomeBe(f => f.CaseId == copy.Case.Id);
        copy.Case.Readings[1].Corrects.ShouldBe(copy.Case.Readings[0].Id);
        copy.Pictures.Select(p => p.Photo).ShouldBe(copy.Case.Photos.Select(p => p.Id), ignoreOrder: true);
        copy.Case.Findings[0].By.ShouldBe(old.Case.Findings[0].By);
        copy.Check().ShouldBeEmpty();

        var a = CaseAnswers.Of(old.Case, KnowledgeBase.BuiltIn, old.Instruments, Start.Today).Trace;
        var b = CaseAnswers.Of(copy.Case, KnowledgeBase.BuiltIn, copy.Instruments, Start.Today).Trace;
        b.Ranking.Select(h => (h.Cause, h.Probability)).ShouldBe(a.Ranking.Select(h => (h.Cause, h.Probability)));
    }

    /// <summary>A file as version 1 of the program wrote it: it called a cause a story and knew no single locks.</summary>
    [Fact]
    public void A_file_of_an_earlier_version_is_read_whole()
    {
        var file = CaseFile.FromJson(File.ReadAllText(Path.Combine(Start.Root(), "tests/Core.Tests/Casebook/version-1.case.json")));
        file.Version.ShouldBe(CaseFile.CurrentVersion);
        file.Case.Conclusions.ShouldHaveSingleItem().Cause.ShouldBe("wrong-size-shell");
        file.Case.Conclusions[0].ComputedCause.ShouldBe("wrong-size-shell");
        file.Case.Readings.Count.ShouldBe(40);
        file.Case.Steps.ShouldAllOfSomeBe(s => s.Overrides.Count == 0);
        CaseFile.FromJson(file.ToJson()).ToJson().ShouldBe(file.ToJson());
    }

    /// <summary>Version 2 kept of a verdict what its figures were in words only; later ones keep the figures.</summary>
    [Fact]
    public void A_verdict_of_version_2_is_told_in_the_words_in_which_it_was_given()
    {
        var node = JsonNode.Parse(File.ReadAllText(Path.Combine(Start.Root(), "demo/cases/biogas-six.case.json")))!;
        node["version"] = 2;
        foreach (var verdict in node["case"]!["verdicts"]!.AsArray())
        {
            verdict!.AsObject().Remove("figures");
            verdict["figure"] = "Wall 2.494 mm, standard";
        }

        var c = CaseFile.FromJson(node.ToJsonString()).Case;
        Decided(c, "R4L").ShouldBe("Wall 2.494 mm, standard");
        var now = CaseFile.FromJson(File.ReadAllText(Path.Combine(Start.Root(), "demo/cases/biogas-six.case.json"))).Case;
        Decided(now, "R4L").ShouldBe("Shell wall at the crown 2.494 ± 0.004 mm");
        Decided(now, "M3").ShouldBeNull();

        static string? Decided(EngineCase c, string place)
        {
            var advice = new CaseReader(c, KnowledgeBase.BuiltIn, [], Start.Today).Advice.Single(a => a.Place == place);
            return advice.Decided?.Say();
        }
    }

    [Fact]
    public void The_schema_in_docs_is_the_one_of_the_classes() =>
        File.ReadAllText(Path.Combine(Start.Root(), "docs/case-file.schema.json"))
            .ShouldBe(CaseFile.Schema(), "Run: sleuth schema > docs/case-file.schema.json");

    [Theory]
    [InlineData("", "cannot be read")]
    [InlineData("{\"a\":1}", "no case file")]
    [InlineData("[1]", "no case file")]
    [InlineData("{\"format\":\"vivid-sleuth-case\",\"version\":99}", "version 99")]
    [InlineData("{\"format\":\"vivid-sleuth-case\",\"version\":1}", "cannot be read")]
    [InlineData("{\"format\":\"vivid-sleuth-case\",\"version\":1,\"case\":{\"layout\":null}}", "cannot be read")]
    public void What_is_no_case_file_is_refused_with_the_reason(string text, string reason) =>
        Should.Throw<ProblemException>(() => CaseFile.FromJson(text)).Problems[0].Text.Say().ShouldContain(reason);

    [Fact]
    public void A_file_that_does_not_hold_together_is_refused_place_by_place()
    {
        var node = JsonNode.Parse(File.ReadAllText(Six))!;
        node["case"]!["findings"]![0]!["place"] = "R9U";
        node["case"]!["readings"]![1]!["id"] = node["case"]!["readings"]![0]!["id"]!.DeepClone();
        node["pictures"]![0]!["photo"] = Guid.CreateVersion7().ToString();
        var problems = Should.Throw<ProblemException>(() => CaseFile.FromJson(node.ToJsonString())).Problems;
        problems.Select(p => p.Field).ShouldBe(["findings.place", "id", "pictures"]);

        node["case"]!["layout"]!["firingOrder"] = new JsonArray(1, 1, 2, 3, 4, 5);
        Should.Throw<ProblemException>(() => CaseFile.FromJson(node.ToJsonString())).Problems.ShouldAllOfSomeBe(p => p.Field == "layout.firingOrder");
    }

    /// <summary>A file from before a finding said whose doing it was is read, and what it does not say is not known.</summary>
    [Fact]
    public void A_file_of_an_earlier_time_is_read_with_what_it_says()
    {
        var node = JsonNode.Parse(File.ReadAllText(Six))!;
        var finding = node["case"]!["conclusions"]![0]!.AsObject();
        foreach (var later in new[] { "fault", "computedCause", "computedPlace", "computed", "computedForThis" })
        {
            finding.Remove(later).ShouldBeTrue();
        }

        var read = CaseFile.FromJson(node.ToJsonString()).Case.Conclusions.Single();
        read.Fault.ShouldBe(Fault.NotKnown);
        read.ComputedCause.ShouldBeEmpty();
        read.Computed.ShouldBeNull();
        read.Reasons.ShouldNotBeEmpty();
    }

    private static (int Exit, string Out, string Errors) Run(params string[] args)
    {
        using var output = new StringWriter();
        using var errors = new StringWriter();
        var exit = SleuthCommand.Build(output, errors).Parse(args).Invoke();
        return (exit, output.ToString(), errors.ToString());
    }

    [Fact]
    public void The_command_line_traces_the_demo_to_its_cause()
    {
        var (exit, output, _) = Run("trace", Six);
        exit.ShouldBe(0);
        output.ShouldContain("Established  R4   Shells of the wrong size");
        output.Split('\n').First(l => l.StartsWith("1.", StringComparison.Ordinal)).ShouldContain("R4   Shells of the wrong size");
        output.ShouldContain("Next:");

        var json = JsonNode.Parse(Run("trace", Six, "--json").Out)!;
        json["ranking"]![0]!["cause"]!.ToString().ShouldBe("wrong-size-shell");
    }

    [Fact]
    public void The_command_line_checks_sizes_and_tells_by_its_exit_code()
    {
        var (exit, output, _) = Run("check", Six);
        exit.ShouldBe(1);
        output.ShouldContain("R4 WRONG SIZE");
        output.ShouldContain("Big-end clearance: 0.332");
        output.ShouldContain("figures inside");
        // The shells of one rod as somebody mixed them: stamped standard, a quarter thick.
        var node = JsonNode.Parse(File.ReadAllText(Path.Combine(Start.Root(), "demo/cases/trailer-four.case.json")))!;
        foreach (var wall in node["case"]!["readings"]!.AsArray().Where(r => r!["place"]!.ToString() is "R3U" or "R3L"))
        {
            wall!["value"] = 1.623;
        }

        var file = Path.Combine(Path.GetTempPath(), $"mixed-{Guid.CreateVersion7():N}.case.json");
        try
        {
            File.WriteAllText(file, node.ToJsonString());
            var mixed = Run("check", file);
            mixed.Exit.ShouldBe(1);
            mixed.Out.ShouldContain("R3 WRONG SIZE");
            mixed.Out.ShouldContain("R3L is stamped STD but measures as 0.25");
            mixed.Out.ShouldNotContain("R2 WRONG");
        }
        finally
        {
            File.Delete(file);
        }

        Run("plan", Six).Out.ShouldContain("Rod caps and pistons out");
    }

    [Fact]
    public void The_command_line_reckons_reviews_and_practises()
    {
        Run("reckon").Out.ShouldContain("ratio");
        Run("reckon", "ratio", "chamber=45").Out.ShouldContain("Compression ratio: 9.95");
        Run("reckon", "ratio", "width=3").Errors.ShouldContain("not asked for");
        Run("reckon", "thimble", "divisions=99").Exit.ShouldBe(2);
        Run("sheet", Six).Out.ShouldContain("R4,big-end-clearance");
        Run("next", Six).Out.ShouldContain("min:");
        Run("check-knowledge").Exit.ShouldBe(0);
        var empty = Directory.CreateTempSubdirectory();
        Directory.CreateDirectory(Path.Combine(empty.FullName, "signs"));
        File.WriteAllText(Path.Combine(empty.FullName, "signs/bad.yaml"), "- id: x\n  nonsense: 1\n");
        var bad = Run("check-knowledge", empty.FullName);
        (bad.Exit, bad.Errors).ShouldSatisfyAllConditions(() => bad.Exit.ShouldBe(2), () => bad.Errors.ShouldContain("signs/bad.yaml:2"));
        empty.Delete(recursive: true);
        Run("practice", "--seed", "5").Out.ShouldStartWith("Engine 5:");
        Run("practice", "--seed", "5", "--commit", "detonation=0.5").Out.ShouldContain("It was");
        Run("practice", "--seed", "5", "--commit", "detonation").Exit.ShouldBe(2);
        Run("gauge", "--port", "0", "--count", "3").Out.ShouldContain("read 3 ");
    }

    [Fact]
    public void The_command_line_lists_the_names_that_a_case_may_use()
    {
        Run("signs", "heat", "shell").Out.ShouldContain("heat-colour");
        Run("signs", "heat", "shell").Out.ShouldNotContain("ring-stuck");
        Run("causes", "belt").Out.ShouldContain("belt-failed");
        Run("risks", "rebuil").Out.ShouldContain("rebuilt-lately");
        Run("places", "gudgeon").Exit.ShouldBeInRange(0, 1);
        Run("places", "crankpin").Out.ShouldContain("Kn");
        Run("signs", "gremlin").Exit.ShouldBe(1);
    }

    [Fact]
    public void A_case_file_with_an_unknown_sign_place_level_or_risk_is_refused_by_name()
    {
        var good = File.ReadAllText(Six);
        (int Exit, string Errors) Traced(string text)
        {
            var file = Path.Combine(Path.GetTempPath(), $"case-{Guid.CreateVersion7():N}.json");
            File.WriteAllText(file, text);
            try
            {
                var run = Run("trace", file);
                return (run.Exit, run.Errors);
            }
            finally
            {
                File.Delete(file);
            }
        }

        Traced(good).Exit.ShouldBe(0);
        (string From, string To, string Named)[] bad =
        [
            ("\"sign\": \"knock\"", "\"sign\": \"gremlins\"", "gremlins"),
            ("\"sign\": \"knock\"", "\"sign\": \"ring-stuck\"", "Ring stuck"),
            ("\"place\": \"R4U\"", "\"place\": \"R44U\"", "R44U"),
            ("\"risks\": {", "\"risks\": { \"full-moon\": true, ", "full-moon"),
        ];
        foreach (var (from, to, named) in bad)
        {
            good.ShouldContain(from);
            var at = good.IndexOf(from, StringComparison.Ordinal);
            var (exit, errors) = Traced(good[..at] + to + good[(at + from.Length)..]);
            exit.ShouldBe(2, to);
            errors.ShouldContain(named);
        }
    }

    [Fact]
    public void The_command_line_reasons_with_a_shops_own_causes_and_names_the_line_of_a_bad_one()
    {
        var file = Path.Combine(Path.GetTempPath(), $"own-{Guid.CreateVersion7():N}.yaml");
        string Cause(string sign) =>
            $"- id: loose-cup\n  name: A cup left in the pan\n  family: others\n  anchor: engine\n  seat: pan\n  base: always\n  prove: look\n  prevent: count the cups\n  chain:\n    - says: A cup was left in the pan.\n      predicts:\n        - {{ sign: {sign}, on: [engine], often: always }}\n  provenance: this shop\n";
        try
        {
            File.WriteAllText(file, Cause("knock"));
            var own = JsonNode.Parse(Run("trace", Six, "--json", "--causes", file).Out)!["ranking"]!.AsArray();
            own[0]!["cause"]!.ToString().ShouldBe("wrong-size-shell", "a tale that explains one sign does not beat one that explains all");
            // Of the trailer's engine nothing else explains that it came with little oil.
            var trailer = Path.Combine(Start.Root(), "demo/cases/trailer-four.case.json");
            File.WriteAllText(file, Cause("oil-low"));
            var cup = JsonNode.Parse(Run("trace", trailer, "--json", "--causes", file).Out)!["ranking"]!
                .AsArray()
                .Single(r => r!["cause"]!.ToString() == "loose-cup")!;
            cup["shop"]!.GetValue<bool>().ShouldBeTrue();
            JsonNode.Parse(Run("trace", trailer, "--json").Out)!["ranking"]!.AsArray().ShouldNotContain(r => r!["cause"]!.ToString() == "loose-cup");

            File.WriteAllText(file, Cause("gremlins"));
            var refused = Run("trace", Six, "--causes", file);
            refused.Exit.ShouldBe(2);
            refused.Errors.ShouldContain("gremlins");
            File.WriteAllText(file, "- id: x\n  colour: red\n");
            Run("next", Six, "--causes", file).Errors.ShouldContain(":2");
        }
        finally
        {
            File.Delete(file);
        }
    }

    [Fact]
    public void The_command_line_plans_by_a_script_of_the_shop_and_says_what_is_wrong_with_one()
    {
        var twin = Path.Combine(Start.Root(), "demo", "cases", "flat-twin.case.json");
        var ours = Path.Combine(Start.Root(), "demo", "scripts", "varn-ft-2.yaml");
        string ScriptOf(params string[] more) => JsonNode.Parse(Run(["plan", twin, "--json", .. more]).Out)!["script"]!.ToString();
        ScriptOf("--scripts", ours).ShouldBe("varn-ft-2");
        ScriptOf().ShouldNotBe("varn-ft-2");
        var file = Path.GetTempFileName();
        try
        {
            File.WriteAllText(file, File.ReadAllText(ours).Replace("id: varn-ft-2", "id: Not An Id", StringComparison.Ordinal));
            var refused = Run("plan", twin, "--scripts", file);
            refused.Exit.ShouldBe(2);
            refused.Errors.ShouldContain("Not An Id");
        }
        finally
        {
            File.Delete(file);
        }
    }

    [Fact]
    public void The_command_line_tells_what_is_to_be_looked_at_next_with_what_and_what_it_would_do()
    {
        var lines = Run("next", Six).Out.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        lines.Length.ShouldBeGreaterThan(2);
        lines.ShouldAllOfSomeBe(l => l.Contains("found") && l.Contains("not there") && l.Contains("With "));
        Run("trace", Six).Out.ShouldNotContain("100.0 %", Case.Insensitive);
    }

    [Fact]
    public void The_command_line_says_what_is_wrong_with_a_file()
    {
        var (exit, _, errors) = Run("trace", "/nowhere/at-all.json");
        exit.ShouldBe(2);
        errors.ShouldContain("cannot be read");
        Run("trace", Path.Combine(Start.Root(), "package.json")).Errors.ShouldContain("no case file");
    }
}
