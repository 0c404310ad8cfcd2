using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using VividSleuth.Core;
using VividSleuth.Server;
using VividSleuth.Server.Arrival;
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
using VividSleuth.Store.Look;
using VividSleuth.Store.Shop;

var builder = WebApplication.CreateBuilder(args);
builder.WebHost.ConfigureKestrel(k => k.Limits.MaxRequestBodySize = 2 * PhotoIntake.MostBytes);

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
        o.Password = new PasswordOptions
        {
            RequiredLength = SignIn.ShortestPassword,
            RequireDigit = false,
            RequireLowercase = false,
            RequireUppercase = false,
            RequireNonAlphanumeric = false,
        };
        o.Lockout.MaxFailedAccessAttempts = 10;
    })
    .AddRoles<IdentityRole>()
    .AddEntityFrameworkStores<SleuthDb>()
    .AddSignInManager();
builder
    .Services.AddAuthentication(IdentityConstants.ApplicationScheme)
    .AddCookie(
        IdentityConstants.ApplicationScheme,
        o =>
        {
            o.Cookie.Name = "sleuth";
            // Requests of other sites carry no cookie, so that none of them can write in a person's name.
            o.Cookie.SameSite = SameSiteMode.Strict;
            o.Cookie.HttpOnly = true;
            o.ExpireTimeSpan = TimeSpan.FromDays(14);
            o.Events.OnRedirectToLogin = c =>
                Problems.Write(c.HttpContext, StatusCodes.Status401Unauthorized, "Not signed in.", "Sign in and try again.");
            o.Events.OnRedirectToAccessDenied = c =>
                Problems.Write(c.HttpContext, StatusCodes.Status403Forbidden, "A viewer reads only.", "Ask a lead for the role of mechanic.");
        }
    );
builder
    .Services.AddAuthorizationBuilder()
    .AddPolicy(Policies.Read, p => p.RequireAuthenticatedUser())
    .AddPolicy(Policies.Write, p => p.RequireRole(Roles.Lead, Roles.Mechanic))
    .SetFallbackPolicy(null);
if (StartUp.IsDocumentGeneration)
{
    builder.Logging.ClearProviders();
}
else
{
    builder.Services.AddDataProtection().SetApplicationName("vivid-sleuth").PersistKeysToDbContext<SleuthDb>();
}

builder.Services.Configure<JsonOptions>(o =>
{
    o.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase));
    o.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    // What the document calls required is required: a field that is missing is refused here and not met as nothing later.
    o.SerializerOptions.RespectRequiredConstructorParameters = true;
    o.SerializerOptions.RespectNullableAnnotations = true;
});
builder.Services.AddProblemDetails();
builder.Services.AddExceptionHandler<ProblemHandler>();
builder.Services.AddResponseCompression(o => o.EnableForHttps = true);
builder.Services.AddOpenApi("v1", OpenApiShape.Configure);
builder.Services.AddSingleton<Devices>();
builder.Services.AddSingleton<KnowledgeShelf>();
builder.Services.AddScoped(services => services.GetRequiredService<KnowledgeShelf>().Current);
builder.Services.AddHttpContextAccessor();
builder.Services.AddScoped<Recorder>();

var app = builder.Build();
app.UseExceptionHandler();
app.UseStatusCodePages();
app.UseResponseCompression();
app.UseDefaultFiles();
app.UseStaticFiles(StaticPages.Options);
app.UseAuthentication();
app.UseAuthorization();

// Before any endpoint is given the knowledge: another instance, or a file of the folder, may have changed it.
app.UseWhen(
    context =>
        context.Request.Path.StartsWithSegments("/api", StringComparison.OrdinalIgnoreCase) && context.User.Identity is { IsAuthenticated: true },
    known =>
        known.Use(
            async (context, next) =>
            {
                var services = context.RequestServices;
                await services.GetRequiredService<KnowledgeShelf>().RefreshAsync(services.GetRequiredService<SleuthDb>(), context.RequestAborted);
                await next(context);
            }
        )
);

app.MapOpenApi("/api/openapi/{documentName}.json");
var api = app.MapGroup("/api");
api.MapSignIn();
var signedIn = api.MapGroup("").RequireAuthorization(Policies.Read).AddEndpointFilter(Numbering.CheckAsync);
signedIn.MapKnowledge();
signedIn.MapShop();
signedIn.MapInstruments();
signedIn.MapCasebook();
signedIn.MapArrival();
signedIn.MapStrip();
signedIn.MapIndex();
signedIn.MapLabels();
signedIn.MapLook();
signedIn.MapGauge();
signedIn.MapGaugeStream();
signedIn.MapReckoners();
signedIn.MapTrace();
signedIn.MapPractice();
signedIn.MapCauses();
signedIn.MapVerdict();
signedIn.MapDossier();
api.MapFallback(() => Results.Problem(statusCode: StatusCodes.Status404NotFound, title: "There is nothing at this address."));
app.MapFallbackToFile("index.html", StaticPages.Options);

if (!StartUp.IsDocumentGeneration)
{
    if (!await StartUp.PrepareAsync(app, args))
    {
        return 1;
    }
}

await app.RunAsync();
return 0;

/// <summary>The entry point, named so that tests can start the application.</summary>
public sealed partial class Program;
