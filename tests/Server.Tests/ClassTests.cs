using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using VividSleuth.Core.Index;
using VividSleuth.Server.Shop;
using VividSleuth.Store.Shop;
using static VividSleuth.Server.Tests.Outside;

namespace VividSleuth.Server.Tests;

/// <summary>A class of two benches, with a teacher who is a mechanic: anna at the first, bert and cleo at the second, and dora at none.</summary>
public sealed class ClassRoom(OwnShop shop)
{
    public const string Secret = "nobody else reads this";

    public OwnShop Shop => shop;

    public Guid Class { get; } = Guid.CreateVersion7();

    public Guid[] Benches { get; } = [Guid.CreateVersion7(), Guid.CreateVersion7()];

    /// <summary>Addresses of the cases of the benches.</summary>
    public string[] Cases { get; private set; } = [];

    public IReadOnlyDictionary<string, Guid> Ids { get; private set; } = new Dictionary<string, Guid>();

    private readonly Dictionary<string, Lazy<Task<IReadOnlyList<string>>>> _cookies = new(StringComparer.Ordinal);

    public Task<HttpClient> Teacher => shop.As(Roles.Mechanic);

    public async Task<HttpClient> As(string name)
    {
        Lazy<Task<IReadOnlyList<string>>> cookies;
        lock (_cookies)
        {
            cookies = _cookies.TryGetValue(name, out var known) ? known : _cookies[name] = new(() => SignInAsync(name));
        }

        var client = shop.One.CreateDefaultClient(shop.One.ClientOptions.BaseAddress);
        client.DefaultRequestHeaders.Add("Cookie", await cookies.Value);
        return client;
    }

    private async Task<IReadOnlyList<string>> SignInAsync(string name)
    {
        using var client = shop.One.CreateDefaultClient(shop.One.ClientOptions.BaseAddress);
        var answer = await client.PostAsJsonAsync("/api/sign-in", new { name, password = Tests.Shop.Password });
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        return [.. answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0])];
    }

    public static async Task<ClassRoom> BeginAsync(OwnShop shop)
    {
        var lesson = new ClassRoom(shop);
        using (var scope = shop.One.Services.CreateScope())
        {
            var people = scope.ServiceProvider.GetRequiredService<UserManager<Person>>();
            var roles = scope.ServiceProvider.GetRequiredService<RoleManager<IdentityRole>>();
            foreach (var name in new[] { "anna", "bert", "cleo", "dora" })
            {
                await People.AddAsync(people, roles, name, Tests.Shop.Password, Roles.Student);
            }

            await People.AddAsync(people, roles, "olaf", Tests.Shop.Password, Roles.Mechanic);
        }

        var teacher = await lesson.Teacher;
        var all = (await teacher.GetAsync("/api/classes/people").Json()).AsArray();
        lesson.Ids = all.ToDictionary(p => p!["name"]!.ToString(), p => p!["id"]!.GetValue<Guid>());
        await teacher.PutAsJsonAsync($"/api/classes/{lesson.Class}", Write("Lifeboats", "L", lesson.Ids[Roles.Mechanic])).Json();
        var template = await Tests.Shop.CaseAsync(teacher);
        var benches = await teacher.PostAsJsonAsync($"/api/classes/{lesson.Class}/benches", lesson.SetUp(template)).Json();
        lesson.Cases = [.. benches.AsArray().Select(b => $"/api/cases/{b!["caseId"]}")];
        return lesson;
    }

    public static object Write(string name, string mark, Guid teacher, string[]? secondLooks = null, int version = 0) =>
        new
        {
            name,
            mark,
            teachers = new[] { teacher },
            secondLooks = secondLooks ?? [],
            stuckAfter = 20,
            version,
        };

    public object SetUp(string template) =>
        new
        {
            templateCase = template.Split('/')[^1],
            benches = new[]
            {
                new
                {
                    id = Benches[0],
                    number = 1,
                    people = new[] { Ids["anna"] },
                },
                new
                {
                    id = Benches[1],
                    number = 2,
                    people = new[] { Ids["bert"], Ids["cleo"] },
                },
            },
        };
}

/// <summary>Roles by classes: a student neither reads nor writes what is another’s, by any operation there is.</summary>
public sealed class ClassRightsTests(OwnShop shop) : IClassFixture<OwnShop>
{
    private static readonly JsonNode Document = JsonNode.Parse(File.ReadAllText(Path.Combine(ApiContractTests.Root(), "docs", "openapi.json")))!;

    /// <summary>What a student may use outside the case of his bench. Whatever is not here is refused.</summary>
    private static readonly HashSet<string> Open =
    [
        "get /api/knowledge",
        "get /api/settings",
        "get /api/lessons",
        "get /api/suppliers",
        "get /api/stock",
        "get /api/stock/labels",
        "get /api/instruments",
        "get /api/kinds",
        "get /api/cases",
        "get /api/label-pages",
        "get /api/candidate-sets",
        "get /api/puller",
        "get /api/reckoners",
        "post /api/reckoners/{id}",
        "get /api/practice/{seed}",
        "get /api/practice/{seed}/look",
        "post /api/practice/{seed}/commit",
        "get /api/practice/sounds/{seed}",
        "get /api/practice/sounds/{seed}/wave",
        "post /api/practice/sounds/{seed}/guess",
        "get /api/practice/pictures/{seed}",
        "get /api/practice/pictures/{seed}/view",
        "post /api/practice/pictures/{seed}/measure",
        "post /api/practice/pictures/{seed}/guess",
        "get /api/classes",
        "get /api/seats",
        "get /api/classes/{classId}/homework",
        "get /api/classes/{classId}/studies",
        "post /api/classes/{classId}/studies/{id}/readings",
        "get /api/homework/{id}",
        "post /api/homework/{id}/looks",
        "post /api/homework/{id}/in",
        // At their own bench they take pictures with the card too.
        "post /api/pictures/hint",
        "get /api/pictures/card.pdf",
    ];

    private static IEnumerable<(string Method, string Path)> Operations() =>
        from path in Document["paths"]!.AsObject()
        from method in path.Value!.AsObject()
        where method.Key is "get" or "post" or "put" or "delete" or "patch"
        select (method.Key, path.Key);

    private static string Filled(string path, Func<string, string> with) =>
        System.Text.RegularExpressions.Regex.Replace(
            path,
            @"\{(?<name>\w+)(:[^}]*)?\}",
            m => with(m.Groups["name"].Value),
            System.Text.RegularExpressions.RegexOptions.ExplicitCapture,
            TimeSpan.FromSeconds(1)
        );

    private static HttpRequestMessage Request(string method, string address, string path) =>
        new(new HttpMethod(method.ToUpperInvariant()), address) { Content = method == "get" ? null : ApiContractTests.Body(path) };

    [Fact]
    public async Task No_operation_shows_or_changes_the_case_of_another_bench()
    {
        var lesson = await ClassRoom.BeginAsync(shop);
        var anna = await lesson.As("anna");
        var (at, own) = (lesson.Cases[0], lesson.Cases[1]);
        var finding = await anna.PostAsJsonAsync($"{at}/findings", CaseTests.Saw("P1", "skirt-scuff-thrust", 2)).Json();
        var record = await anna.GetAsync(at).Json();
        await anna.PutAsJsonAsync(
                $"{at}/arrival",
                new
                {
                    version = record["version"]!.GetValue<int>(),
                    title = ClassRoom.Secret,
                    owner = ClassRoom.Secret,
                    engineName = record["engineName"]!.ToString(),
                    serial = "",
                    hours = (decimal?)null,
                    complaint = ClassRoom.Secret,
                    past = "",
                    risks = new { },
                    lengths = (string?)null,
                }
            )
            .Json();
        var before = (await anna.GetAsync(at)).Headers.ETag;
        var (id, caseId, ownId) = (finding["id"]!.ToString(), at.Split('/')[^1], own.Split('/')[^1]);
        var tried = 0;
        foreach (var who in new[] { "bert", "dora" })
        {
            var client = await lesson.As(who);
            foreach (var (method, path) in Operations().Where(o => !o.Path.Contains("/sign-out", StringComparison.Ordinal)))
            {
                string With(string name, string ofCase) =>
                    name switch
                    {
                        "caseId" => ofCase,
                        "id" when path.StartsWith("/api/cases/{id}", StringComparison.Ordinal) => ofCase,
                        "id" when path.StartsWith("/api/benches", StringComparison.Ordinal) => lesson.Benches[0].ToString(),
                        "id" when path.StartsWith("/api/classes/{id}", StringComparison.Ordinal) => lesson.Class.ToString(),
                        "classId" => lesson.Class.ToString(),
                        "seed" => "7",
                        "size" => "view",
                        "number" => "1",
                        _ => id,
                    };
                var ofCase = path.StartsWith("/api/cases/{", StringComparison.Ordinal);
                // His neighbour’s case; and his neighbour’s records under the address of his own.
                foreach (var aim in ofCase ? [caseId, ownId] : new[] { caseId })
                {
                    if (
                        aim == ownId
                        && (
                            who == "dora"
                            || method == "get"
                            || !path.Contains("/{id}/", StringComparison.Ordinal)
                            || path.StartsWith("/api/cases/{id}", StringComparison.Ordinal)
                        )
                    )
                    {
                        continue;
                    }

                    using var request = Request(method, Filled(path, name => With(name, aim)), path);
                    using var answer = await client.SendAsync(
                        request,
                        HttpCompletionOption.ResponseHeadersRead,
                        TestContext.Current.CancellationToken
                    );
                    tried++;
                    var told = $"{who}: {method} {path}";
                    if (ofCase)
                    {
                        answer.IsSuccessStatusCode.ShouldBeFalse(told);
                        if (aim == caseId)
                        {
                            answer.StatusCode.ShouldBeOneOf([HttpStatusCode.NotFound, HttpStatusCode.Forbidden], told);
                        }
                    }

                    if (path != "/api/gauge/stream")
                    {
                        var body = await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
                        body.ShouldNotContain(ClassRoom.Secret, customMessage: told);
                        body.ShouldNotContain(caseId, customMessage: told);
                    }
                }
            }
        }

        tried.ShouldBeGreaterThan(2 * Operations().Count() - 10);
        var after = await anna.GetAsync(at);
        after.Headers.ETag.ShouldBe(before);
        (await after.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain(ClassRoom.Secret);
    }

    [Fact]
    public async Task What_is_not_of_a_case_is_closed_to_students_but_for_a_list()
    {
        var student = await shop.As(Roles.Student);
        string[] ofAnyone =
        [
            "/api/setup",
            "/api/me",
            "/api/sign-in",
            "/api/sign-out",
            "/api/passkey",
            "/api/invitations",
            "/api/bags/check",
            "/api/shared",
            "/api/feeds",
        ];
        foreach (
            var (method, path) in Operations()
                .Where(o =>
                    !o.Path.StartsWith("/api/cases/{", StringComparison.Ordinal) && !ofAnyone.Any(p => o.Path.StartsWith(p, StringComparison.Ordinal))
                )
        )
        {
            using var request = Request(method, Filled(path, name => name == "seed" ? "7" : Guid.CreateVersion7().ToString()), path);
            using var answer = await student.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, TestContext.Current.CancellationToken);
            var open = Open.Contains($"{method} {path}");
            (answer.StatusCode == HttpStatusCode.Forbidden).ShouldBe(!open, $"{method} {path}: {answer.StatusCode}");
        }

        // What is open to whoever stands before the door is open to them too, and their own door.
        foreach (var path in new[] { "/api/setup", "/api/me", "/api/me/door" })
        {
            (await student.GetAsync(path, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.OK, path);
        }

        Open.Except(Operations().Select(o => $"{o.Method} {o.Path}")).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_viewer_and_a_mechanic_who_teaches_another_class_set_up_and_sign_nothing_of_it()
    {
        var client = await shop.As(Roles.Lead);
        var (a, b) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        var ids = (await client.GetAsync("/api/classes/people").Json()).AsArray();
        Guid Of(string name) => ids.Single(p => p!["name"]!.ToString() == name)!["id"]!.GetValue<Guid>();
        await client.PutAsJsonAsync($"/api/classes/{a}", ClassRoom.Write("Led", "A", Of(Roles.Lead))).Json();
        await client.PutAsJsonAsync($"/api/classes/{b}", ClassRoom.Write("Viewed", "B", Of(Roles.Viewer))).Problem();
        var mechanic = await shop.As(Roles.Mechanic);
        (await mechanic.PutAsJsonAsync($"/api/classes/{a}", ClassRoom.Write("Mine now", "A", Of(Roles.Mechanic), version: 1)).Problem())["title"]!
            .ToString()
            .ShouldContain("taught by others");
        var viewer = await shop.As(Roles.Viewer);
        (await viewer.PutAsJsonAsync($"/api/classes/{a}", ClassRoom.Write("Mine now", "A", Of(Roles.Mechanic), version: 1))).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        await viewer.GetAsync($"/api/classes/{a}/board").Json();
    }
}

/// <summary>Benches in one go, their marks, signatures, and the board.</summary>
public sealed class ClassTests(OwnShop shop) : IClassFixture<OwnShop>
{
    private static JsonNode Line(JsonNode board, Guid bench) =>
        board["benches"]!.AsArray().Single(b => b!["bench"]!["id"]!.GetValue<Guid>() == bench)!;

    private static JsonNode At(JsonNode line) =>
        line["standing"]!["sections"]!.AsArray().First(s => s!["id"]!.ToString() == line["standing"]!["at"]!.ToString())!;

    private static object Act(string step, string outcome, string note = "", Guid? id = null) =>
        new
        {
            id = id ?? Guid.CreateVersion7(),
            step,
            note,
            outcome,
        };

    [Fact]
    public async Task A_class_works_from_its_benches_to_its_letters()
    {
        var lesson = await ClassRoom.BeginAsync(shop);
        var (teacher, anna, bert, cleo) = (await lesson.Teacher, await lesson.As("anna"), await lesson.As("bert"), await lesson.As("cleo"));
        var board = $"/api/classes/{lesson.Class}/board";

        // The same request again sets up nothing more, and each student has his own case and no other.
        var template = await Tests.Shop.CaseAsync(teacher);
        (await teacher.PostAsJsonAsync($"/api/classes/{lesson.Class}/benches", lesson.SetUp(template)).Json()).AsArray().Count.ShouldBe(2);
        var mine = await anna.GetAsync("/api/cases").Json();
        (mine["total"]!.GetValue<int>(), mine["cases"]![0]!["id"]!.ToString()).ShouldBe((1, lesson.Cases[0].Split('/')[^1]));
        var record = await anna.GetAsync(lesson.Cases[0]).Json();
        (record["prefix"]!.ToString(), record["title"]!.ToString()).ShouldBe(("L1", "Lifeboats L1"));

        // A neighbour’s cap is told at the scan, by its mark and by its label; a stranger’s is told as before.
        async Task<string> Scanned(string tag) =>
            (await anna.GetAsync($"{lesson.Cases[0]}/scan?tag={Uri.EscapeDataString(tag)}").Problem())["title"]!.ToString();
        (await anna.GetAsync($"{lesson.Cases[0]}/scan?tag=L1-R2C").Json())["place"]!.ToString().ShouldBe("R2C");
        (await Scanned("L2-R2C")).ShouldContain("belongs to bench L2");
        (await Scanned(TagCode.Write(Guid.Parse(lesson.Cases[1].Split('/')[^1]), "R2C"))).ShouldContain("belongs to bench L2");
        (await Scanned("Q9-R2C")).ShouldNotContain("bench");
        (await anna.PutAsJsonAsync($"{lesson.Cases[0]}/arrival", Arrival(record, "L2")).Problem())["title"]!.ToString().ShouldContain("L1");
        (await anna.PutAsJsonAsync($"{lesson.Cases[0]}/arrival", Arrival(record, "")).Problem())["title"]!.ToString().ShouldContain("L1");

        // Bert works up to the first hold point; it waits, and nobody of the bench signs it.
        await StripTests.UptoHeadAsync(bert, lesson.Cases[1]);
        var step = At(Line(await teacher.GetAsync(board).Json(), lesson.Benches[1]))["id"]!.ToString();
        await Reach(bert, await shop.As(Roles.Lead), lesson.Cases[1], step);
        var line = Line(await teacher.GetAsync(board).Json(), lesson.Benches[1]);
        At(line)["state"]!.ToString().ShouldBe("waiting");
        (await teacher.GetAsync(board).Json())["waiting"]!.AsArray().Select(w => w!.GetValue<Guid>()).ShouldBe([lesson.Benches[1]]);
        (await cleo.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "signed")).Problem())["title"]!.ToString().ShouldContain("teacher");
        (await (await lesson.As("olaf")).PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "signed")).Problem())["title"]!
            .ToString()
            .ShouldContain("teacher");

        // The teacher stands at the bench, sees the evidence, and sends it back with a word.
        var seen = await teacher.GetAsync($"/api/benches/{lesson.Benches[1]}").Json();
        seen["maySign"]!.GetValue<bool>().ShouldBeTrue();
        var steps = seen["evidence"]!["steps"]!.AsArray();
        steps.Single(s => s!["id"]!.ToString() == step)!["records"]![0]!["by"]!.ToString().ShouldBe("bert");
        await teacher.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "sentBack", "wipe the deck first")).Json();
        line = Line(await teacher.GetAsync(board).Json(), lesson.Benches[1]);
        (At(line)["state"]!.ToString(), At(line)["note"]!.ToString()).ShouldBe(("sentBack", "wipe the deck first"));
        await cleo.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "asked", "wiped")).Json();

        // A second pair of eyes, since the teacher now says so: not of who did it.
        var of = (await teacher.GetAsync(board).Json())["class"]!;
        var version = of["version"]!.GetValue<int>();
        await teacher
            .PutAsJsonAsync($"/api/classes/{lesson.Class}", ClassRoom.Write("Lifeboats", "L", lesson.Ids[Roles.Mechanic], [step], version))
            .Json();
        (await teacher.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "signed")).Problem())["title"]!
            .ToString()
            .ShouldContain("second pair");
        (await bert.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "looked")).Problem()).FirstField().ShouldBe("by");
        await cleo.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", Act(step, "looked")).Json();
        var sign = Act(step, "signed", id: Guid.CreateVersion7());
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => teacher.PostAsJsonAsync($"{lesson.Cases[1]}/sign-offs", sign).Json()));
        line = Line(await teacher.GetAsync(board).Json(), lesson.Benches[1]);
        var signed = line["standing"]!["sections"]!.AsArray().Single(s => s!["id"]!.ToString() == step)!;
        (signed["state"]!.ToString(), signed["lookedBy"]!.ToString(), signed["sentBack"]!.GetValue<int>()).ShouldBe(("signed", "cleo", 1));
        line["standing"]!["marks"]!["signed"]!.GetValue<int>().ShouldBe(1);

        // What each has of it on paper.
        var csv = (await teacher.GetStringAsync($"/api/classes/{lesson.Class}/results.csv", TestContext.Current.CancellationToken)).Split("\r\n");
        csv[0].ShouldStartWith("person,bench,share of strip");
        csv.Single(l => l.StartsWith("cleo,L2,", StringComparison.Ordinal)).Split(',')[7].ShouldBe("1");
        var folder = Directory.CreateTempSubdirectory().FullName;
        async Task<string> Paper(string what, string file)
        {
            var path = Path.Combine(folder, file);
            await File.WriteAllBytesAsync(path, await teacher.GetByteArrayAsync($"/api/classes/{lesson.Class}/{what}"));
            (await RunAsync("qpdf", "--check", path)).ShouldContain("No syntax or stream encoding errors");
            return await RunAsync("pdftotext", "-layout", path, "-");
        }

        var letters = await Paper("letters.pdf", "letters.pdf");
        letters.Split('\f', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(3);
        letters.ShouldContain("Worked together with bert");
        (await Paper("plates.pdf?page=a4-24", "plates.pdf")).ShouldContain("L2");
        await RunAsync("pdftoppm", "-r", "200", "-png", Path.Combine(folder, "plates.pdf"), Path.Combine(folder, "plate"));
        var codes = await RunAsync("zbarimg", ["-q", "--raw", .. Directory.GetFiles(folder, "*.png")]);
        codes.Split('\n', StringSplitOptions.RemoveEmptyEntries).Order().ShouldBe(lesson.Benches.Select(b => $"http://localhost/bench/{b}").Order());
        Directory.Delete(folder, recursive: true);

        // Homework is blind until all are in.
        await HomeworkAsync(lesson, teacher);
        await StudyAsync(lesson, teacher);
    }

    private static object Arrival(JsonNode record, string prefix) =>
        new
        {
            version = record["version"]!.GetValue<int>(),
            title = record["title"]!.ToString(),
            owner = "",
            engineName = record["engineName"]!.ToString(),
            serial = "",
            hours = (decimal?)null,
            complaint = "",
            past = "",
            risks = new { },
            lengths = (string?)null,
            prefix,
        };

    /// <summary>Does all that is left of a section, its hold point last.</summary>
    private static async Task Reach(HttpClient client, HttpClient lead, string at, string hold)
    {
        for (var n = 0; n < 30; n++)
        {
            var plan = await client.GetAsync($"{at}/answers?rooms=strip").Json();
            var next = plan["strip"]!["next"]!.ToString();
            await StripTests.TickAsync(client, at, next);
            foreach (var set in StripTests.StepOf(plan, next)["sets"]!.AsArray())
            {
                await client
                    .PostAsJsonAsync($"{at}/fasteners", StripTests.Out(next, set!["set"]!["id"]!.ToString(), set["expected"]!.GetValue<int>()))
                    .Json();
            }

            // What nobody has read of the parts between is passed by a lead; who works at the bench does the hold point himself.
            var unread = StripTests.StepOf(plan, next)["unread"]!.AsArray().Select(u => $"unread {u!["place"]}").ToArray();
            if (next == hold)
            {
                await client.PostAsJsonAsync($"{at}/steps", StripTests.Step(next)).Json();
                return;
            }

            await lead.PostAsJsonAsync($"{at}/steps", StripTests.Step(next, unread)).Json();
        }

        throw new InvalidOperationException($"{hold} was not reached");
    }

    private static async Task HomeworkAsync(ClassRoom lesson, HttpClient teacher)
    {
        var id = Guid.CreateVersion7();
        var all = $"/api/classes/{lesson.Class}/homework";
        await teacher
            .PutAsJsonAsync(
                $"{all}/{id}",
                new
                {
                    name = "Week 3",
                    until = "2026-12-04",
                    version = 0,
                }
            )
            .Json();
        await teacher
            .PutAsJsonAsync(
                $"{all}/{id}",
                new
                {
                    name = "Week 3",
                    until = "2026-12-04",
                    version = 0,
                }
            )
            .Json();
        var names = new[] { "anna", "bert", "cleo" };
        foreach (var name in names)
        {
            var client = await lesson.As(name);
            var view = await client.GetAsync($"/api/homework/{id}").Json();
            view["practice"]!["engine"]!["seed"]!.GetValue<int>().ShouldBe(0, "its number is told to nobody");
            var cell = view["practice"]!["section"]!["cells"]!.AsArray().First(c => c!["kind"]!.ToString() == "piston")!["address"]!.ToString();
            var look = new { sign = "skirt-scuff-thrust", place = cell };
            await client.PostAsJsonAsync($"/api/homework/{id}/looks", look).Json();
            await client.PostAsJsonAsync($"/api/homework/{id}/looks", look).Json();
            (await client.GetAsync($"/api/homework/{id}").Json())["looks"]!.AsArray().Count.ShouldBe(1);
            var cause = view["practice"]!["causes"]![0]!["id"]!.ToString();
            var guesses = new { guesses = new[] { new { cause, probability = 0.5 } } };
            var told = await client.PostAsJsonAsync($"/api/homework/{id}/in", guesses).Json();
            await client.PostAsJsonAsync($"/api/homework/{id}/in", guesses).Json();
            (told["score"] is null).ShouldBe(name != "cleo", "the last one in is told at once");
            (await client.PostAsJsonAsync($"/api/homework/{id}/looks", look).Problem())["title"]!.ToString().ShouldContain("handed it in");
            var row = (await client.GetAsync(all).Json())[0]!;
            row["told"]!.GetValue<bool>().ShouldBe(name == "cleo");
            row["rows"]!.AsArray().Count(r => r!["logScore"] is not null).ShouldBe(name == "cleo" ? 3 : 0);
        }

        (await (await lesson.As("anna")).GetAsync($"/api/homework/{id}").Json())["score"]!["causes"]!.AsArray().Count.ShouldBeGreaterThan(0);
        await (await lesson.As("dora")).GetAsync($"/api/homework/{id}").Problem(HttpStatusCode.NotFound);

        // Told before all are in: nobody hands in after that.
        var early = Guid.CreateVersion7();
        await teacher
            .PutAsJsonAsync(
                $"{all}/{early}",
                new
                {
                    name = "Week 4",
                    until = (string?)null,
                    version = 0,
                }
            )
            .Json();
        (await teacher.PostAsync($"{all}/{early}/tell", null).Json())["told"]!.GetValue<bool>().ShouldBeTrue();
        var late = new { guesses = Array.Empty<object>() };
        await (await lesson.As("anna")).PostAsJsonAsync($"/api/homework/{early}/in", late).Problem();
    }

    private static async Task StudyAsync(ClassRoom lesson, HttpClient teacher)
    {
        var id = Guid.CreateVersion7();
        var all = $"/api/classes/{lesson.Class}/studies";
        var plan = new
        {
            name = "The old pin",
            characteristic = "crankpin-diameter",
            instrument = "micrometer",
            unit = "mm",
            part = "pin 2",
            trials = 2,
            version = 0,
        };
        await teacher.PutAsJsonAsync($"{all}/{id}", plan).Json();
        var readings = new Dictionary<string, string[]>
        {
            ["anna"] = ["49.98", "49.99"],
            ["bert"] = ["49.97", "49.97"],
            ["cleo"] = ["50.00", "50.01"],
        };
        foreach (var (name, typed) in readings)
        {
            var client = await lesson.As(name);
            for (var trial = 1; trial <= 2; trial++)
            {
                (await client.GetAsync(all).Json())[0]!["whole"].ShouldBeNull("nobody sees another’s figure before all are in");
                await client
                    .PostAsJsonAsync(
                        $"{all}/{id}/readings",
                        new
                        {
                            id = Guid.CreateVersion7(),
                            trial,
                            typed = typed[trial - 1],
                        }
                    )
                    .Json();
            }

            (await client.GetAsync(all).Json())[0]!["mine"]!.AsArray().Count.ShouldBe(2);
        }

        var answer = (await (await lesson.As("anna")).GetAsync(all).Json())[0]!["whole"]!["answer"]!;
        answer["mean"]!.GetValue<double>().ShouldBe(49.98667, 1e-4);
        answer["share"].ShouldBeNull();
        var bias = answer["people"]!.AsArray().Single(p => p!["person"]!.ToString() == "cleo")!["bias"]!.GetValue<double>();
        bias.ShouldBe(0.01833, 1e-4);
        await (await lesson.As("dora")).GetAsync(all).Problem(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Twenty_benches_are_set_up_together_or_not_at_all()
    {
        var lead = await shop.As(Roles.Lead);
        var me = (await lead.GetAsync("/api/classes/people").Json()).AsArray().Single(p => p!["name"]!.ToString() == Roles.Lead)![
            "id"
        ]!.GetValue<Guid>();
        var id = Guid.CreateVersion7();
        await lead.PutAsJsonAsync($"/api/classes/{id}", ClassRoom.Write("Twenty", "T", me)).Json();
        var template = await Tests.Shop.CaseAsync(lead);
        object Benches(IEnumerable<int> numbers, Guid[] ids) =>
            new
            {
                templateCase = template.Split('/')[^1],
                benches = numbers
                    .Select(
                        (number, k) =>
                            new
                            {
                                id = ids[k],
                                number,
                                people = Array.Empty<Guid>(),
                            }
                    )
                    .ToArray(),
            };
        Guid[] ids = [.. Enumerable.Range(0, 20).Select(_ => Guid.CreateVersion7())];
        await lead.PostAsJsonAsync($"/api/classes/{id}/benches", Benches([.. Enumerable.Range(1, 19), 1], ids)).Problem();
        (await lead.GetAsync($"/api/classes/{id}/board").Json())["benches"]!.AsArray().ShouldBeEmpty();

        // Pressed twice at once.
        var write = Benches(Enumerable.Range(1, 20), ids);
        await Task.WhenAll(Enumerable.Range(0, 3).Select(_ => lead.PostAsJsonAsync($"/api/classes/{id}/benches", write).Json()));
        var board = await lead.GetAsync($"/api/classes/{id}/board").Json();
        board["benches"]!.AsArray().Select(b => b!["prefix"]!.ToString()).ShouldBe(Enumerable.Range(1, 20).Select(n => $"T{n}"));
        board["sections"]!.AsArray().Count.ShouldBeGreaterThan(2);
        var other = Enumerable.Range(0, 20).Select(_ => Guid.CreateVersion7()).ToArray();
        (await lead.PostAsJsonAsync($"/api/classes/{id}/benches", Benches([20], other)).Problem())["title"]!.ToString().ShouldContain("T20");
    }
}
