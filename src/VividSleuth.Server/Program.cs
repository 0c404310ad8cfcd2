using System.Diagnostics;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Hybrid;
using Microsoft.Extensions.DependencyInjection.Extensions;
using Microsoft.Extensions.Options;
using VividSleuth.Core;
using VividSleuth.Server;
using VividSleuth.Server.Arrival;
using VividSleuth.Server.Build;
using VividSleuth.Server.Casebook;
using VividSleuth.Server.Dossier;
using VividSleuth.Server.Gauge;
using VividSleuth.Server.Index;
using VividSleuth.Server.Look;
using VividSleuth.Server.Shop;
using VividSleuth.Server.Strip;
using VividSleuth.Server.Trace;
using VividSleuth.Server.Verdict;
using VividSleuth.Store;
using VividSleuth.Store.Shop;
using VividSleuth.Words;

// Answers kept for the screens, over all cases.
const int MostAnswerBytes = 128 * 1024 * 1024;

var builder = WebApplication.CreateBuilder(args);
builder.WebHost.ConfigureKestrel(k =>
{
    k.AddServerHeader = false;
    k.Limits.MaxRequestBodySize = Gatekeeping.MostBytes;
});
builder.Services.Configure<RouteHandlerOptions>(o => o.ThrowOnBadRequest = true);
builder.Services.AddStreamLimits();

builder.Services.AddDbContext<SleuthDb>(
    (services, db) =>
        db.UseNpgsql(
            StartUp.Connection(services.GetRequiredService<IConfiguration>().GetConnectionString("Sleuth")),
            n => n.MigrationsAssembly(typeof(SleuthDb).Assembly)
        ),
    optionsLifetime: ServiceLifetime.Singleton
);
builder
    .Services.AddIdentityCore<Person>(o =>
    {
        o.Stores.SchemaVersion = SleuthDb.SchemaOfPeople;
        // Names and passwords are held against our own rules before they come here.
        o.User.AllowedUserNameCharacters = "";
        o.Password = new PasswordOptions
        {
            RequiredLength = 1,
            RequiredUniqueChars = 0,
            RequireDigit = false,
            RequireLowercase = false,
            RequireUppercase = false,
            RequireNonAlphanumeric = false,
        };
    })
    .AddRoles<IdentityRole>()
    .AddEntityFrameworkStores<SleuthDb>()
    .AddSignInManager();
builder.Services.AddSingleton<IPasswordHasher<Person>, NormalHasher>();

// Source: OWASP, Password Storage: PBKDF2 with SHA-512, 210,000 rounds.
builder.Services.Configure<PasswordHasherOptions>(o => o.IterationCount = 210_000);
builder.Services.AddSingleton<HashGate>();
builder.Services.AddSingleton<FullBuckets>();
builder.Services.AddScoped<Tries>();
builder.Services.AddSingleton<Sessions>();
builder.Services.Configure<SecurityStampValidatorOptions>(o => o.ValidationInterval = TimeSpan.FromMinutes(1));
builder.Services.Configure<IdentityPasskeyOptions>(o =>
{
    o.UserVerificationRequirement = "required";
    o.ResidentKeyRequirement = "required";
    o.ServerDomain = builder.Configuration["Passkeys:Domain"];
});
builder
    .Services.AddOptions<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme)
    .Configure<Sessions>((o, sessions) => o.SessionStore = sessions);
builder
    .Services.AddAuthentication(IdentityConstants.ApplicationScheme)
    .AddCookie(
        IdentityConstants.ApplicationScheme,
        o =>
        {
            o.Cookie.Name = "sleuth";
            o.CookieManager = new OwnCookies();
            // Requests of other sites carry no cookie, so that none of them can write in a person's name.
            o.Cookie.SameSite = SameSiteMode.Strict;
            o.Cookie.HttpOnly = true;
            o.ExpireTimeSpan = TimeSpan.FromDays(14);
            o.Events.OnValidatePrincipal = SecurityStampValidator.ValidatePrincipalAsync;
            o.Events.OnRedirectToLogin = c => Problems.Write(c.HttpContext, StatusCodes.Status401Unauthorized, "server.not-signed-in");
            o.Events.OnRedirectToAccessDenied = c =>
            {
                SecurityLog.MayNot(c.HttpContext);
                return Problems.Write(
                    c.HttpContext,
                    StatusCodes.Status403Forbidden,
                    c.HttpContext.User.IsInRole(Roles.Student) ? "server.student-own-bench-only" : "server.viewer-reads-only"
                );
            };
        }
    )
    // Between the question for a passkey and its answer.
    .AddCookie(
        IdentityConstants.TwoFactorUserIdScheme,
        o =>
        {
            o.Cookie.Name = "sleuth-passkey";
            o.CookieManager = new OwnCookies();
            o.Cookie.SameSite = SameSiteMode.Strict;
            o.Cookie.HttpOnly = true;
            o.ExpireTimeSpan = TimeSpan.FromMinutes(5);
        }
    );
builder
    .Services.AddAuthorizationBuilder()
    .AddPolicy(Policies.Read, p => p.RequireAuthenticatedUser())
    .AddPolicy(Policies.Write, p => p.RequireRole(Roles.Lead, Roles.Mechanic, Roles.Student))
    .SetFallbackPolicy(null);
if (StartUp.IsDocumentGeneration)
{
    builder.Logging.ClearProviders();
}
else
{
    builder.AddSealedKeys();
    builder.AddTelemetry();
}

builder.Services.Configure<JsonOptions>(o =>
{
    o.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase, allowIntegerValues: false));
    o.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    // What the document calls required is required: a field that is missing is refused here and not met as nothing later.
    o.SerializerOptions.RespectRequiredConstructorParameters = true;
    o.SerializerOptions.RespectNullableAnnotations = true;
});
builder.Services.AddSingleton<IConfigureOptions<JsonOptions>, SpokenJson>();
builder.Services.AddScoped(services => services.GetRequiredService<IHttpContextAccessor>().HttpContext.Sentences());
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<ProblemHandler>();
builder.Services.AddResponseCompression(o => o.EnableForHttps = true);
builder.Services.AddOpenApi("v1", OpenApiShape.Configure);
builder.Services.AddSingleton<Devices>();

// What a supplier answers is not followed elsewhere: only the operator says whom the server may ask.
builder
    .Services.AddHttpClient<SupplierLine>()
    .ConfigurePrimaryHttpMessageHandler(() => new HttpClientHandler { AllowAutoRedirect = false, UseProxy = false });
builder
    .Services.AddHttpClient<WeatherLine>()
    .ConfigurePrimaryHttpMessageHandler(() => new HttpClientHandler { AllowAutoRedirect = false, UseProxy = false });
builder.Services.AddSingleton<KnowledgeShelf>();
builder.Services.AddScoped(services =>
    services.GetRequiredService<KnowledgeShelf>().Current(services.GetRequiredService<IHttpContextAccessor>().HttpContext.Sentences().Language)
);
builder
    .Services.AddHealthChecks()
    .AddDbContextCheck<SleuthDb>("database")
    .AddCheck<DiskCheck>("disk", Microsoft.Extensions.Diagnostics.HealthChecks.HealthStatus.Degraded);
builder.Services.AddHttpContextAccessor();
builder.Services.AddScoped<Recorder>();
builder.Services.TryAddSingleton(TimeProvider.System);
builder.Services.AddSingleton<JsonOfSentences>();
builder.Services.AddScoped<CaseDesk>();
builder.Services.AddScoped<BuildDesk>();
builder.Services.AddScoped<DossierDesk>();
builder.Services.AddScoped<Sealing>();
builder.Services.AddScoped<AnswerEndpoints.Shelf>();
builder.Services.AddSingleton<CaseShelf>();
builder.Services.AddMemoryCache(o => o.SizeLimit = MostAnswerBytes);
builder.Services.AddHybridCache(o =>
{
    o.MaximumPayloadBytes = MostAnswerBytes / 4;
    o.DefaultEntryOptions = new HybridCacheEntryOptions { Expiration = TimeSpan.FromHours(1), Flags = HybridCacheEntryFlags.DisableDistributedCache };
});
builder.Services.AddSingleton<Standbys>();
builder.Services.AddScoped<LateReads>();
builder.Services.AddSingleton<CaseBell>();
builder.Services.AddSingleton<Aside>();
builder.Services.AddSingleton<CasebookKeeper>();
if (!StartUp.IsDocumentGeneration)
{
    builder.Services.AddHostedService(services => services.GetRequiredService<Standbys>());
    builder.Services.AddHostedService(services => services.GetRequiredService<CaseBell>());
    builder.Services.AddHostedService(services => services.GetRequiredService<CasebookKeeper>());
}

var app = builder.Build();
app.Use(
    (context, next) =>
    {
        // The same that stands beside every line of the log.
        context.Response.Headers["X-Request-Id"] = Activity.Current?.TraceId.ToString() ?? context.TraceIdentifier;
        return next(context);
    }
);
app.WatchQueues();
app.UseSeenThrough();
app.UseKnownProxies();
app.UseHeaders();
app.UseExceptionHandler();
app.UseQuietEnd();
app.UseStatusCodePages(Problems.WriteStatus);
app.UseOwnOriginOnly();
app.UseResponseCompression();
app.UseDefaultFiles();
app.UseStaticFiles(StaticPages.Options);
app.UseWhen(
    context => HttpMethods.IsPost(context.Request.Method) && SignIn.Doors.Contains(context.Request.Path.Value, StringComparer.OrdinalIgnoreCase),
    door =>
        door.Use(
            (context, next) =>
            {
                var cookie = context.RequestServices.GetRequiredService<IOptionsMonitor<CookieAuthenticationOptions>>();
                Sessions.PutAside(context, cookie.Get(IdentityConstants.ApplicationScheme));
                return next(context);
            }
        )
);
app.UseAuthentication();
app.UseSmallBodiesOfStrangers();
app.UseAuthorization();
app.UseRateLimiter();

// Before any endpoint: the knowledge may have been changed, by another instance or in its folder, and a case that is not there is told at once.
app.UseWhen(
    context =>
        context.Request.Path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase) && context.User.Identity is { IsAuthenticated: true },
    known =>
        known.Use(
            async (context, next) =>
            {
                if (await Moment.BeginAsync(context))
                {
                    await next(context);
                }
            }
        )
);

// Alive: the program answers. Ready: its database does too. Both without sign-in, and neither says more than that.
app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false });
app.MapHealthChecks("/health/ready");
app.MapOpenApi("/api/openapi/{documentName}.json");
var api = app.MapGroup("/api").CheckInput();
api.MapSignIn();
api.MapInvitations();
api.MapOpenFeeds();
api.MapOpenBags();
api.MapOpenLinks();
var signedIn = api.MapGroup("").RequireAuthorization(Policies.Read);
signedIn.MapKnowledge();
signedIn.MapShop();
signedIn.MapPeople();
signedIn.MapChanges();
signedIn.MapInstruments();
signedIn.MapGaugeStudies();
signedIn.MapCasebook();
signedIn.MapBackground();
signedIn.MapCauses();
signedIn.MapScripts();
signedIn.MapKinds();
signedIn.MapSearch();
signedIn.MapFleet();
signedIn.MapFeeds();
signedIn.MapWork();
signedIn.MapBags();
signedIn.MapLinks();
signedIn.MapClasses();

// Rooms of one case: a student works in them at his own bench.
var rooms = signedIn.MapGroup("").ForStudents();
rooms.MapAnswers();
rooms.MapEvents();
rooms.MapArrival();
rooms.MapSounds();
rooms.MapListening();
rooms.MapStrip();
rooms.MapIndex();
rooms.MapLabels();
rooms.MapKeeping();
rooms.MapLook();
rooms.MapPictures();
rooms.MapGauge();
rooms.MapGaugeStream();
rooms.MapReckoners();
rooms.MapTrace();
rooms.MapPractice();
rooms.MapSoundPractice();
rooms.MapPicturePractice();
rooms.MapVerdict();
rooms.MapOptions();
rooms.MapBuild();
rooms.MapOrder();
rooms.MapDossier();
rooms.MapSeals();
rooms.MapHomework();
app.MapFallbackToFile(StaticPages.Addresses, "index.html", StaticPages.Options);

if (!StartUp.IsDocumentGeneration)
{
    if (!await StartUp.PrepareAsync(app, args))
    {
        return 1;
    }
}

return await StartUp.RunAsync(app);

/// <summary>The entry point, named so that tests can start the application.</summary>
public sealed partial class Program;
