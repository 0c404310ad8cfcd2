using System.Net;
using System.Net.Http.Json;
using System.Security.Claims;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Hosting;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Logging.Abstractions;
using VividSleuth.Core;
using VividSleuth.Server.Shop;
using VividSleuth.Store;
using VividSleuth.Store.Shop;

namespace VividSleuth.Server.Tests;

/// <summary>Who belongs to the shop and how they come in and go out. Sources: NIST SP 800-63B-4; OWASP ASVS 5, V6 and V7.</summary>
public sealed class PeopleTests(OwnShop own) : IClassFixture<OwnShop>
{
    private const string Good = "kettle sparrow anvil";

    private static int _names;

    private static string Fresh(string name = "newcomer") => $"{name} {Interlocked.Increment(ref _names)}";

    private static async Task<string> Code(HttpClient lead, string role = Roles.Mechanic) =>
        (await lead.PostAsJsonAsync("/api/people/invitations", new { id = Guid.CreateVersion7(), role }).Json())["code"]!.ToString();

    private static Task<HttpResponseMessage> Use(HttpClient client, string code, string name, string password = Good) =>
        client.PostAsJsonAsync(
            "/api/invitations/use",
            new
            {
                code,
                name,
                password,
            }
        );

    private HttpClient From(string address, bool other = false)
    {
        var client = (other ? own.Other : own.One).CreateClient();
        client.DefaultRequestHeaders.Add(Addresses.Header, address);
        return client;
    }

    private static Task<HttpResponseMessage> SignIn(HttpClient client, string name, string password = Good) =>
        client.PostAsJsonAsync("/api/sign-in", new { name, password });

    private static int _newcomers;

    private async Task<(HttpClient Client, string Name, string Id)> Newcomer(string role = Roles.Mechanic)
    {
        using var lead = await own.As(Roles.Lead);
        // Each from an address of its own: what others of these tests guess at one address must not slow this one.
        var n = Interlocked.Increment(ref _newcomers);
        var (client, name) = (From($"10.77.{n / 250}.{(n % 250) + 1}"), Fresh());
        await Use(client, await Code(lead, role), name).Json();
        var people = await lead.GetAsync("/api/people").Json();
        return (client, name, people["people"]!.AsArray().Single(p => p!["name"]!.ToString() == name)!["id"]!.ToString());
    }

    [Theory]
    [InlineData("short one here")]
    [InlineData("aaaaaaaaaaaaaaaaaaaa")]
    [InlineData("passwordpassword")]
    [InlineData("qwertyuiopasdfgh")]
    [InlineData("123456789012345678")]
    [InlineData("abcabcabcabcabcabc")]
    [InlineData("vividsleuthvividsleuth")]
    public void What_is_short_common_or_a_row_of_keys_is_no_password(string password) =>
        PasswordRules.CheckPassword(password, "ines").ShouldNotBeNull().Field.ShouldBe("password");

    [Theory]
    [InlineData("kettle sparrow anvil")]
    [InlineData("Ölwanne im Märzregen 7")]
    [InlineData("四つの言葉が並んでいる長い合言葉です")]
    [InlineData("Tr0ub4dor&3-and-a-mule")]
    public void Every_character_is_taken_and_no_mixture_is_asked_for(string password) => PasswordRules.CheckPassword(password, "ines").ShouldBeNull();

    [Fact]
    public void A_long_password_is_taken_and_an_endless_one_is_not()
    {
        var words = string.Join(' ', Enumerable.Range(0, 40).Select(i => $"{Good[i % 19]}{i}"));
        PasswordRules.CheckPassword(words[..64], "ines").ShouldBeNull();
        PasswordRules.CheckPassword(words + words, "ines").ShouldNotBeNull();
    }

    [Theory]
    [InlineData("Jörg")]
    [InlineData("李")]
    [InlineData("o'neil")]
    [InlineData("Søren Ødegård-Nilsen")]
    [InlineData("María J. Núñez")]
    public async Task Names_are_as_people_have_them(string name)
    {
        using var lead = await own.As(Roles.Lead);
        using var client = own.One.CreateClient();
        (await Use(client, await Code(lead), name).Json())["name"]!.ToString().ShouldBe(name);
        using var again = own.Other.CreateClient();
        (await SignIn(again, name.ToUpperInvariant().Normalize(System.Text.NormalizationForm.FormD)).Json())["name"]!.ToString().ShouldBe(name);
    }

    [Theory]
    [InlineData("")]
    [InlineData("  ")]
    [InlineData("a<b>")]
    [InlineData("two  blanks")]
    [InlineData("right\u202Eleft")]
    public void What_is_no_name_is_refused(string name) => PasswordRules.CheckName(name).ShouldNotBeNull().Field.ShouldBe("name");

    [Fact]
    public async Task The_first_lead_comes_in_with_the_code_from_the_console_and_nobody_without()
    {
        var name = $"empty_{Guid.CreateVersion7():N}";
        await own.Run($"create database {name}");
        await using (var instance = own.Instance(name))
        {
            using var client = instance.CreateClient();
            (await client.GetAsync("/api/setup").Json())["needsFirstLead"]!.GetValue<bool>().ShouldBeTrue();
            (await Use(client, "no-such-code", "boss").Problem()).FirstField().ShouldBe("code");
            using var scope = instance.Services.CreateScope();
            var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
            var earlier = await People.FirstLeadCodeAsync(db, CancellationToken.None);
            var code = await People.FirstLeadCodeAsync(db, CancellationToken.None);
            (await Use(client, earlier, "boss").Problem()).FirstField().ShouldBe("code");
            (await Use(client, code, "boss", "short").Problem()).FirstField().ShouldBe("password");
            (await Use(client, code, "boss").Json())["role"]!.ToString().ShouldBe(Roles.Lead);
            (await client.GetAsync("/api/setup").Json())["needsFirstLead"]!.GetValue<bool>().ShouldBeFalse();
            (await client.GetAsync("/api/me").Json())["name"]!.ToString().ShouldBe("boss");
            (await Use(client, code, "late").Problem()).FirstField().ShouldBe("code");
        }

        Npgsql.NpgsqlConnection.ClearAllPools();
        await own.Run($"drop database {name} with (force)");
    }

    [Fact]
    public async Task A_link_lets_one_person_in_once_however_many_use_it_at_once()
    {
        using var lead = await own.As(Roles.Lead);
        using var mechanic = await own.As(Roles.Mechanic);
        await mechanic
            .PostAsJsonAsync("/api/people/invitations", new { id = Guid.CreateVersion7(), role = "lead" })
            .Problem(HttpStatusCode.Forbidden);
        await mechanic.GetAsync("/api/people").Problem(HttpStatusCode.Forbidden);
        var code = await Code(lead, Roles.Viewer);
        using var client = own.One.CreateClient();
        (await client.PostAsJsonAsync("/api/invitations/look", new { code }).Json())["role"]!.ToString().ShouldBe(Roles.Viewer);
        var names = Enumerable.Range(0, 6).Select(_ => Fresh()).ToArray();
        var used = await Task.WhenAll(names.Select((n, i) => Use((i % 2 == 0 ? own.One : own.Other).CreateClient(), code, n)));
        used.Count(u => u.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        var people = (await lead.GetAsync("/api/people").Json())["people"]!.AsArray();
        people.Count(p => names.Contains(p!["name"]!.ToString())).ShouldBe(1);
        var taken = await Code(lead);
        (await Use(own.One.CreateClient(), taken, Roles.Lead.ToUpperInvariant()).Problem()).FirstField().ShouldBe("name");
        var withdrawn = Guid.CreateVersion7();
        var gone = (await lead.PostAsJsonAsync("/api/people/invitations", new { id = withdrawn, role = Roles.Viewer }).Json())["code"]!.ToString();
        (await lead.PostAsync($"/api/people/invitations/{withdrawn}/withdraw", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Use(client, gone, Fresh()).Problem()).FirstField().ShouldBe("code");
    }

    [Fact]
    public async Task Who_is_shut_out_is_out_at_every_instance_within_a_minute_and_can_be_let_in_again()
    {
        var (client, name, id) = await Newcomer();
        var cookies = await CookiesOf(name);
        using var elsewhere = own.Other.CreateDefaultClient();
        elsewhere.DefaultRequestHeaders.Add("Cookie", cookies);
        (await elsewhere.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        using var lead = await own.As(Roles.Lead);
        (await lead.PostAsync($"/api/people/{id}/shut-out", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await SignIn(own.One.CreateClient(), name).Problem(HttpStatusCode.Unauthorized);
        Sessions.Fresh.ShouldBeLessThan(TimeSpan.FromMinutes(1));
        // The other instance goes by what it read for a while, and then no more.
        await Eventually(async () => (await elsewhere.GetAsync("/api/me")).StatusCode == HttpStatusCode.Unauthorized);
        (await lead.PostAsync($"/api/people/{id}/let-in", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await SignIn(own.One.CreateClient(), name)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Signing_out_ends_the_cookie_wherever_it_was_copied_to()
    {
        var (_, name, _) = await Newcomer();
        var cookies = await CookiesOf(name);
        using var thief = own.One.CreateDefaultClient();
        thief.DefaultRequestHeaders.Add("Cookie", cookies);
        using var owner = own.One.CreateDefaultClient();
        owner.DefaultRequestHeaders.Add("Cookie", cookies);
        (await thief.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await owner.PostAsync("/api/sign-out", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await thief.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Who_comes_in_gets_a_key_of_his_own_and_that_of_who_was_in_before_ends()
    {
        var (_, first, _) = await Newcomer();
        var (_, second, _) = await Newcomer();
        var cookies = await CookiesOf(first);
        using var device = own.One.CreateDefaultClient();
        device.DefaultRequestHeaders.Add("Cookie", cookies);
        // One who does not come in changes nothing for who is in.
        await SignIn(device, second, "not the password at all").Problem(HttpStatusCode.Unauthorized);
        (await device.GetAsync("/api/me").Json())["name"]!.ToString().ShouldBe(first);
        var came = await SignIn(device, second);
        var key = came.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("sleuth=", StringComparison.Ordinal)).Split(';')[0];
        cookies.ShouldNotContain(key);
        (await device.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        using var now = own.One.CreateDefaultClient();
        now.DefaultRequestHeaders.Add("Cookie", key);
        (await now.GetAsync("/api/me").Json())["name"]!.ToString().ShouldBe(second);
    }

    [Fact]
    public async Task A_new_role_a_new_password_and_signing_out_everywhere_end_what_was_open()
    {
        var (client, name, id) = await Newcomer();
        using var lead = await own.As(Roles.Lead);
        (await lead.PostAsJsonAsync($"/api/people/{id}/role", new { role = Roles.Viewer })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignIn(client, name).Json())["role"]!.ToString().ShouldBe(Roles.Viewer);
        (await client.PostAsJsonAsync("/api/me/password", new { old = "not this one at all", @new = "lantern mossy forty" }).Problem())
            .FirstField()
            .ShouldBe("old");
        using var other = own.One.CreateClient();
        await SignIn(other, name).Json();
        (await client.PostAsJsonAsync("/api/me/password", new { old = Good, @new = "lantern mossy forty" })).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await other.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        await SignIn(other, name).Problem(HttpStatusCode.Unauthorized);
        var reset = (await lead.PostAsync($"/api/people/{id}/reset", null).Json())["code"]!.ToString();
        (await other.PostAsJsonAsync("/api/invitations/look", new { code = reset }).Json())["name"]!.ToString().ShouldBe(name);
        await Use(other, reset, "").Json();
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await other.GetAsync("/api/me/door").Json())["devices"]!.AsArray().Count.ShouldBe(1);
        (await other.PostAsync("/api/me/sign-out-everywhere", null)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await other.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_shop_keeps_a_lead_who_can_come_in()
    {
        using var lead = await own.As(Roles.Lead);
        var me = (await lead.GetAsync("/api/people").Json())["people"]!.AsArray().Single(p => p!["name"]!.ToString() == Roles.Lead)!["id"]!;
        (await lead.PostAsync($"/api/people/{me}/shut-out", null).Problem()).FirstField().ShouldBe("role");
        (await lead.PostAsJsonAsync($"/api/people/{me}/role", new { role = Roles.Viewer }).Problem()).FirstField().ShouldBe("role");
        (await lead.GetAsync("/api/me").Json())["role"]!.ToString().ShouldBe(Roles.Lead);
    }

    [Fact]
    public async Task What_was_done_to_people_is_kept_with_who_and_before()
    {
        var (_, name, id) = await Newcomer();
        using var lead = await own.As(Roles.Lead);
        await lead.PostAsJsonAsync($"/api/people/{id}/role", new { role = Roles.Viewer });
        var changes = (await lead.GetAsync($"/api/changes?record={id}").Json())["changes"]!.AsArray();
        changes.Select(c => c!["kind"]!.ToString()).ShouldBe(["person", "person"]);
        changes[0]!["by"]!.ToString().ShouldBe(Roles.Lead);
        JsonNode.Parse(changes[0]!["before"]!.ToString())!["role"]!.ToString().ShouldBe(Roles.Mechanic);
        changes[1]!["by"]!.ToString().ShouldBe(name);
        changes.ToJsonString().ShouldNotContain("hash", Case.Insensitive);
    }

    /// <summary>Many guesses at once are counted before they are looked at: none of them gets more tries than one after the other.</summary>
    [Fact]
    public async Task Guesses_in_parallel_are_slowed_and_the_person_is_not_locked_out()
    {
        var (mine, name, _) = await Newcomer();
        var guesses = await Task.WhenAll(
            Enumerable.Range(0, 40).Select(async i => await SignIn(From("10.0.0.1", i % 2 == 0), name, $"guess number {i} of many"))
        );
        var looked = guesses.Count(g => g.StatusCode == HttpStatusCode.Unauthorized);
        var slowed = guesses.Where(g => g.StatusCode == HttpStatusCode.TooManyRequests).ToArray();
        looked.ShouldBeInRange(1, 8);
        (looked + slowed.Length).ShouldBe(40);
        slowed.ShouldAllOfSomeBe(s => s.Headers.RetryAfter!.Delta > TimeSpan.Zero && s.Headers.RetryAfter.Delta < TimeSpan.FromMinutes(5));
        // From many addresses one is looked at more often, and slowed all the same.
        var spread = await Task.WhenAll(
            Enumerable.Range(0, 60).Select(async i => await SignIn(From($"10.0.1.{i}"), name, $"guess number {i} of many"))
        );
        spread.Count(g => g.StatusCode == HttpStatusCode.Unauthorized).ShouldBeInRange(1, 32);
        // The device that has signed in before is not slowed by what strangers do.
        await mine.PostAsync("/api/sign-out", null);
        (await SignIn(mine, name)).StatusCode.ShouldBe(HttpStatusCode.OK);
        // Nor are others, wherever they sit.
        var (another, other, _) = await Newcomer();
        await another.PostAsync("/api/sign-out", null);
        (await SignIn(From("10.0.0.2"), other)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>A flood costs the database nothing: what an instance found full it refuses by itself, for as long as it told and no longer.</summary>
    [Fact]
    public async Task What_is_known_to_be_full_is_refused_without_the_database()
    {
        var name = Fresh();
        using var at = From("10.0.3.1");
        HttpResponseMessage answer;
        do
        {
            answer = await SignIn(at, name, "a guess of many");
        } while (answer.StatusCode == HttpStatusCode.Unauthorized);

        var told = answer.Headers.RetryAfter!.Delta!.Value;
        await own.Run("delete from sign_in_tries", own.Connection);
        var again = await SignIn(at, name, "a guess of many");
        again.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        again.Headers.RetryAfter!.Delta!.Value.ShouldBeInRange(TimeSpan.FromSeconds(1), told);
        // Another instance asks the database, and so does this one about others.
        (await SignIn(From("10.0.3.1", other: true), name, "a guess of many")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignIn(From("10.0.3.2"), name, "a guess of many")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);

        using var known = new FullBuckets();
        var bucket = SignInBucket.OfAddress("10.0.3.3");
        known.Remember(new FullBucket(bucket, TimeSpan.FromMilliseconds(300)));
        known.Known([SignInBucket.OfAddress("10.0.3.4"), bucket]).ShouldBeInRange(TimeSpan.FromTicks(1), TimeSpan.FromMilliseconds(300));
        await Task.Delay(400, TestContext.Current.CancellationToken);
        known.Known([bucket]).ShouldBe(TimeSpan.Zero);
    }

    [Fact]
    public async Task Nobody_learns_from_words_which_names_there_are()
    {
        var (_, name, _) = await Newcomer();
        async Task<string[]> Refusals(string of, string from)
        {
            var said = new List<string>();
            for (var i = 0; i < 9; i++)
            {
                var answer = await SignIn(From(from), of, "not the password of anybody");
                said.Add($"{(int)answer.StatusCode} {JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["title"]}");
            }

            return [.. said];
        }

        (await Refusals(name, "10.0.2.1")).ShouldBe(await Refusals(Fresh("nobody"), "10.0.2.2"));
    }

    /// <summary>Time drains the buckets: however much was tried, after the time that is told one more try is free.</summary>
    [Fact]
    public async Task A_bucket_drains()
    {
        using var scope = own.One.Services.CreateScope();
        var time = new HandTime();
        var options = scope.ServiceProvider.GetRequiredService<DbContextOptions<SleuthDb>>();
        await using var db = new SleuthDb(options, time);
        SignInBucket[] bucket = [SignInBucket.OfName("X", Guid.NewGuid().ToString())];
        for (var i = 0; i < bucket[0].Burst; i++)
        {
            (await db.CountAsync(bucket, CancellationToken.None)).ShouldBeEmpty();
        }

        var wait = (await db.CountAsync(bucket, CancellationToken.None)).ShouldHaveSingleItem().Wait;
        wait.TotalSeconds.ShouldBe(bucket[0].Seconds, 0.01);
        time.Go(wait - TimeSpan.FromSeconds(1));
        (await db.CountAsync(bucket, CancellationToken.None)).ShouldHaveSingleItem();
        time.Go(TimeSpan.FromSeconds(1.1));
        (await db.CountAsync(bucket, CancellationToken.None)).ShouldBeEmpty();
        await db.ForgiveAsync(bucket[0], [], CancellationToken.None);
        (await db.CountAsync(bucket, CancellationToken.None)).ShouldBeEmpty();
    }

    /// <summary>An instance whose clock was two days ahead filled it: it drains at the pace of the others' clocks, and locks nobody out till then.</summary>
    [Fact]
    public async Task A_bucket_that_a_wrong_clock_filled_drains_too()
    {
        using var scope = own.One.Services.CreateScope();
        var options = scope.ServiceProvider.GetRequiredService<DbContextOptions<SleuthDb>>();
        var (wrong, right) = (new HandTime(), new HandTime());
        wrong.Go(TimeSpan.FromDays(2));
        await using var ahead = new SleuthDb(options, wrong);
        await using var db = new SleuthDb(options, right);
        SignInBucket[] bucket = [SignInBucket.OfName("X", Guid.NewGuid().ToString())];
        for (var i = 0; i < bucket[0].Burst; i++)
        {
            await ahead.CountAsync(bucket, CancellationToken.None);
        }

        var wait = (await db.CountAsync(bucket, CancellationToken.None)).ShouldHaveSingleItem().Wait;
        right.Go(wait + TimeSpan.FromSeconds(1));
        (await db.CountAsync(bucket, CancellationToken.None)).ShouldBeEmpty();
    }

    /// <summary>One who gets in empties what others are counting in at the same moment.</summary>
    [Fact]
    public async Task Counting_and_emptying_at_once_fail_neither()
    {
        SignInBucket[] bucket = [SignInBucket.OfName("X", Guid.NewGuid().ToString())];
        await Parallel.ForEachAsync(
            Enumerable.Range(0, 600),
            new ParallelOptions { MaxDegreeOfParallelism = 8 },
            async (i, stop) =>
            {
                using var scope = (i % 2 == 0 ? own.One : own.Other).Services.CreateScope();
                var db = scope.ServiceProvider.GetRequiredService<SleuthDb>();
                await (i % 3 == 0 ? db.ForgiveAsync(bucket[0], [], stop) : db.CountAsync(bucket, stop));
            }
        );
    }

    /// <summary>A session is renewed as an answer begins: a database that is away at that moment must not take the answer of a write that stands.</summary>
    [Fact]
    public async Task A_session_that_cannot_be_renewed_now_takes_no_answer_with_it()
    {
        var away = new ServiceCollection()
            .AddScoped(_ => SleuthDbFactory.Create("Host=127.0.0.1;Port=1;Database=away;Username=x;Timeout=2"))
            .BuildServiceProvider();
        await using var _ = away;
        var services = own.One.Services;
        var sessions = ActivatorUtilities.CreateInstance<Sessions>(services, away.GetRequiredService<IServiceScopeFactory>());
        var ticket = new AuthenticationTicket(new ClaimsPrincipal(new ClaimsIdentity("any")), "any");
        await sessions.RenewAsync("a key", ticket);
        await Should.ThrowAsync<Exception>(() => sessions.RetrieveAsync("a key"));
    }

    /// <summary>However often somebody is here, after ninety days the password is asked for again.</summary>
    [Fact]
    public async Task A_session_has_an_end_of_its_own()
    {
        var name = Fresh();
        using var lead = await own.As(Roles.Lead);
        using var client = own.One.CreateClient();
        await Use(client, await Code(lead), name);
        var cookies = await CookiesOf(name);
        using var other = own.Other.CreateDefaultClient(own.Other.ClientOptions.BaseAddress);
        other.DefaultRequestHeaders.Add("Cookie", cookies);
        await own.Run(
            $"""update sessions set "From" = now() - interval '91 days' where "PersonId" = (select "Id" from "AspNetUsers" where "UserName" = '{name}')""",
            own.Connection
        );
        (await other.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task An_instance_whose_clock_is_ahead_signs_nobody_else_out()
    {
        using var lead = await own.As(Roles.Lead);
        await using (var ahead = own.Ahead(TimeSpan.FromDays(30)))
        {
            using var other = ahead.CreateClient();
            await other.PostAsJsonAsync("/api/sign-in", new { name = Roles.Viewer, password = Shop.Password }).Json();
        }

        using var again = await own.As(Roles.Lead, other: true);
        (await again.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
        await using var fresh = own.Instance(new Npgsql.NpgsqlConnectionStringBuilder(own.Connection).Database!);
        using var client = fresh.CreateDefaultClient(fresh.ClientOptions.BaseAddress);
        client.DefaultRequestHeaders.Add("Cookie", lead.DefaultRequestHeaders.GetValues("Cookie"));
        (await client.GetAsync("/api/me")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Who_came_in_and_what_was_refused_stands_in_the_log_and_no_password_does()
    {
        var log = new Lines();
        var name = Fresh();
        using var lead = await own.As(Roles.Lead);
        await using var instance = own.One.WithWebHostBuilder(b =>
            b.UseSetting("Logging:LogLevel:VividSleuth.Security", "Information").ConfigureLogging(l => l.AddProvider(log))
        );
        using var client = instance.CreateClient();
        await Use(client, await Code(lead), name);
        await client.PostAsync("/api/sign-out", null);
        await client.PostAsJsonAsync("/api/sign-in", new { name, password = "wrong kettle sparrow" });
        await client.PostAsJsonAsync("/api/sign-in", new { name, password = Good });
        await client.GetAsync("/api/people");
        using var elsewhere = new HttpRequestMessage(HttpMethod.Post, "/api/sign-out");
        elsewhere.Headers.Add("Origin", "https://elsewhere.example");
        await client.SendAsync(elsewhere);
        string.Join('\n', log.Said)
            .ShouldBe(
                $"""
                {name} signed in from 127.0.0.1.
                {name} signed out from 127.0.0.1.
                Name and password do not fit: {name} from 127.0.0.1.
                {name} signed in from 127.0.0.1.
                {name} may not GET /api/people, from 127.0.0.1.
                Sent by another site (https://elsewhere.example): POST /api/sign-out, from 127.0.0.1.
                """
            );
    }

    /// <summary>Hears what the security log says.</summary>
    private sealed class Lines : ILoggerProvider, ILogger
    {
        public List<string> Said { get; } = [];

        public ILogger CreateLogger(string categoryName) => categoryName == "VividSleuth.Security" ? this : NullLogger.Instance;

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => true;

        public void Log<TState>(LogLevel logLevel, EventId eventId, TState state, Exception? exception, Func<TState, Exception?, string> formatter) =>
            Said.Add(formatter(state, exception));

        public void Dispose() { }
    }

    private async Task<IEnumerable<string>> CookiesOf(string name)
    {
        using var client = own.One.CreateDefaultClient();
        var signedIn = await SignIn(client, name);
        signedIn.StatusCode.ShouldBe(HttpStatusCode.OK);
        return signedIn.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0]);
    }

    private static async Task Eventually(Func<Task<bool>> holds)
    {
        for (var i = 0; i < 600; i++)
        {
            if (await holds())
            {
                return;
            }

            await Task.Delay(100);
        }

        throw new TimeoutException();
    }
}
